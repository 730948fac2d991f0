import { type LookAlikeClass, lookAlikeClasses } from '@sprig/core/prune';
import { useCallback, useMemo } from 'react';
import { useSearchParams } from 'react-router';

/** The classes of look-alikes that are looked for, kept in the address; all of them to begin with. */
export function useAlikeClasses() {
  const [params, setParams] = useSearchParams();
  const without = params.get('without') ?? '';
  const classes = useMemo(
    () => lookAlikeClasses.filter((name) => !without.split(',').includes(name)),
    [without],
  );
  const setClasses = useCallback(
    (next: readonly LookAlikeClass[]) =>
      setParams((old) => {
        const changed = new URLSearchParams(old);
        const left = lookAlikeClasses.filter((name) => !next.includes(name)).join();
        if (left === '') changed.delete('without');
        else changed.set('without', left);
        return changed;
      }),
    [setParams],
  );
  return { classes, setClasses };
}
