import { type LookAlikeClass, lookAlikeClasses } from '@sprig/core/prune';
import { useCallback, useMemo } from 'react';
import { useAddress } from '../../kit/address.ts';

/** The classes of look-alikes that are looked for, kept in the address; all of them to begin with. */
export function useAlikeClasses() {
  const [params, set] = useAddress();
  const without = params.get('without') ?? '';
  const classes = useMemo(
    () => lookAlikeClasses.filter((name) => !without.split(',').includes(name)),
    [without],
  );
  const setClasses = useCallback(
    (next: readonly LookAlikeClass[]) =>
      set({ without: lookAlikeClasses.filter((name) => !next.includes(name)).join() }),
    [set],
  );
  return { classes, setClasses };
}
