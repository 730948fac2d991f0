import { useLayoutEffect } from 'react';

/** Single letters act only outside of text. */
export const inTextField = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    target instanceof HTMLTextAreaElement ||
    target instanceof HTMLSelectElement ||
    (target instanceof HTMLInputElement && target.type !== 'checkbox' && target.type !== 'radio'));

/** Listens to the keys of the whole window, from the moment that what they act on is seen. */
export function useKeys(onKey: (event: KeyboardEvent) => void): void {
  useLayoutEffect(() => {
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [onKey]);
}
