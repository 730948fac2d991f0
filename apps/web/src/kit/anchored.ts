import { type CSSProperties, type RefObject, useLayoutEffect, useState } from 'react';

const EDGE = 8;
/** Out of sight until it is placed, but not hidden: what is hidden can't take the focus. */
const elsewhere: CSSProperties = { position: 'fixed', left: -9_999, top: 0 };

/**
 * Where something that opens under an element stands: fixed, so that no scrolling box around the element cuts it off,
 * and inside of the window. `width` is its own, in pixels.
 */
export function useAnchored(
  element: RefObject<HTMLElement | null>,
  isOpen: boolean,
  width: number,
): CSSProperties {
  const [style, setStyle] = useState<CSSProperties>(elsewhere);
  useLayoutEffect(() => {
    if (!isOpen) return;
    const place = () => {
      const box = element.current?.getBoundingClientRect();
      if (!box) return;
      const left = Math.max(EDGE, Math.min(box.left, window.innerWidth - width - EDGE));
      const top = box.bottom + 4;
      setStyle({ position: 'fixed', left, top, width, maxHeight: window.innerHeight - top - EDGE });
    };
    place();
    window.addEventListener('scroll', place, true);
    window.addEventListener('resize', place);
    return () => {
      window.removeEventListener('scroll', place, true);
      window.removeEventListener('resize', place);
    };
  }, [element, isOpen, width]);
  return style;
}
