import { type RefObject, useEffect } from 'react';
import { useAddress } from '../../kit/address.ts';

/**
 * Takes somebody to what the address asks for, as soon as it is there: a field by its label (`?field=Site`), which opens, or
 * what a step is done with (`?step=ship`), which gets the focus.
 */
export function useWanted(box: RefObject<HTMLElement | null>): void {
  const [params, set] = useAddress({ replace: true });
  const field = params.get('field') ?? '';
  const step = params.get('step') ?? '';
  useEffect(() => {
    if ((field === '' && step === '') || !box.current) return;
    const page = box.current;
    const seek = (): boolean => {
      const found = field === '' ? doneWith(page, step) : labelled(page, field);
      if (!found) return false;
      found.scrollIntoView({ block: 'center' });
      found.focus();
      if (field !== '') found.click();
      set({ field: '', step: '' });
      return true;
    };
    if (seek()) return;
    const observer = new MutationObserver(() => seek() && observer.disconnect());
    observer.observe(page, { childList: true, subtree: true, attributeFilter: ['disabled', 'aria-label'] });
    return () => observer.disconnect();
  }, [box, field, step, set]);
}

const doneWith = (page: HTMLElement, step: string): HTMLElement | null =>
  page.querySelector<HTMLElement>(`[data-step="${CSS.escape(step)}"]:not(:disabled)`);

/** A chip says its value behind its label. */
const labelled = (page: HTMLElement, wanted: string): HTMLElement | undefined =>
  [...page.querySelectorAll<HTMLElement>('button[aria-label], input[aria-label]')].find((one) => {
    const label = one.getAttribute('aria-label') ?? '';
    return label === wanted || label.startsWith(`${wanted}:`);
  });
