import { useCallback, useEffect, useState } from 'react';
import type { useHolds } from '../../plan/use-holds.ts';

type Hold = ReturnType<typeof useHolds>['hold'];

/**
 * Values that were just set by hand and are kept, but not built yet: shown at once in the place of the built ones
 * until the build has caught up with them.
 */
export function usePending(hold: Hold, builtRevision: number | undefined, revision: number) {
  const [pending, setPending] = useState<ReadonlyMap<string, string | number>>(new Map());
  useEffect(() => {
    if (builtRevision !== undefined && builtRevision >= revision)
      setPending((old) => (old.size === 0 ? old : new Map()));
  }, [builtRevision, revision]);
  const holdNow = useCallback<Hold>(
    async (rowKey, field, value) => {
      const words = await hold(rowKey, field, value);
      if (words === null) setPending((old) => new Map(old).set(`${rowKey} ${field}`, value));
      return words;
    },
    [hold],
  );
  return { pending, holdNow };
}
