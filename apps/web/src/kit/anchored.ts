import { type CSSProperties, type RefObject, useLayoutEffect, useState } from 'react';

const EDGE = 8;

/**
 * Where something that opens under an element stands: fixed, so that no scrolling box around the element cuts it off,
 * and inside of the window. `width` is its own, in pixels.
 */
export function useAnchored(
  element: RefObject<HTMLElement | null>,
  isOpen: boolean,
  width: number,
): CSSProperties {
  const [style, setStyle] = useState<CSSProperties>({ position: 'fixed', visibility: 'hidden' });
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
