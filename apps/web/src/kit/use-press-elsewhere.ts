import { type RefObject, useEffect, useRef } from 'react';

/** Does something when a press goes outside of what is open. */
export function usePressElsewhere(
  box: RefObject<HTMLElement | null>,
  isOpen: boolean,
  leave: () => void,
): void {
  const newest = useRef(leave);
  newest.current = leave;
  useEffect(() => {
    if (!isOpen) return;
    const onDown = (event: PointerEvent) => {
      if (!box.current?.contains(event.target as Node)) newest.current();
    };
    window.addEventListener('pointerdown', onDown);
    return () => window.removeEventListener('pointerdown', onDown);
  }, [box, isOpen]);
}
