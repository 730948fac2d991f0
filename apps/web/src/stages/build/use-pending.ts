import { holdEach } from '@sprig/contracts';
import { useCallback, useEffect, useState } from 'react';
import { call } from '../../data/call.ts';
import { refusalOf } from '../../data/run-change.ts';
import { allOrNone } from '../../kit/table/column.ts';
import type { useHolds } from '../../plan/use-holds.ts';

type Hold = ReturnType<typeof useHolds>['hold'];
/** A value to be held: the row's key, its field, the value. */
export type Held = [
  rowKey: string,
  field: 'name' | 'bid' | 'status' | 'finalUrl' | 'matching' | 'rotation' | 'bidPartners' | 'bidDisplay',
  value: string | number,
];

/**
 * Values that were just set by hand and are kept, but not built yet: shown at once in the place of the built ones
 * until rows of a build that has caught up with them are there. `seen`: the build that the rows shown are of.
 */
export function usePending(plan: number, hold: Hold, seen: number, revision: number) {
  const [pending, setPending] = useState<ReadonlyMap<string, string | number>>(new Map());
  useEffect(() => {
    if (seen >= revision) setPending((old) => (old.size === 0 ? old : new Map()));
  }, [seen, revision]);
  const holdNow = useCallback<Hold>(
    async (rowKey, field, value) => {
      const words = await hold(rowKey, field, value);
      if (words === null) setPending((old) => new Map(old).set(`${rowKey} ${field}`, value));
      return words;
    },
    [hold],
  );
  const holdEachNow = useCallback(
    async (values: Held[]) => {
      const words = await refusalOf(plan, () => call(holdEach, { params: { plan }, body: { values } }));
      if (words === null)
        setPending(
          (old) =>
            new Map([...old, ...values.map(([key, field, value]) => [`${key} ${field}`, value] as const)]),
        );
      return allOrNone(words);
    },
    [plan],
  );
  return { pending, holdNow, holdEachNow };
}
