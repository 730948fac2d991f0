import { type RefObject, useEffect, useState } from 'react';

/** How wide an element is, in pixels, also after the window has changed; `first` until it is known. */
export function useWidth(box: RefObject<Element | null>, first: number): number {
  const [width, setWidth] = useState(first);
  useEffect(() => {
    if (!box.current) return;
    const watch = new ResizeObserver(([entry]) => setWidth(entry?.contentRect.width || first));
    watch.observe(box.current);
    return () => watch.disconnect();
  }, [box, first]);
  return width;
}
