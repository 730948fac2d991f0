import { type RefObject, useEffect } from 'react';
import { useAddress } from './address.ts';

/** Opens the field that the address asks for by its label (`?field=Site`), once it is there. */
export function useWantedField(box: RefObject<HTMLElement | null>): void {
  const [params, set] = useAddress({ replace: true });
  const wanted = params.get('field');
  useEffect(() => {
    if (!wanted || !box.current) return;
    const field = [...box.current.querySelectorAll<HTMLElement>('[aria-label]')].find((one) => {
      const label = one.getAttribute('aria-label') ?? '';
      return label === wanted || label.startsWith(`${wanted}:`);
    });
    if (!field) return;
    field.scrollIntoView({ block: 'center' });
    field.focus();
    field.click();
    set({ field: '' });
  });
}
