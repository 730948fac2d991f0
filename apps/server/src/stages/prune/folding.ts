import { inChange } from '../../plan/change/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { SprigFailure } from '../../platform/failure.ts';

type Fold = { keeper: number; others: number[] };

/**
 * Folds keywords into the one that is kept. What was folded into a keyword that is folded now follows it, so that
 * nothing ever hangs on one that is not in.
 */
export function foldKeywords(caller: PlanCaller, folds: readonly Fold[]): Promise<{ revision: number }> {
  return inChange(
    caller,
    (folded: number) => `Fold ${counted(folded, 'look-alike')}`,
    async (change) => {
      const into = new Map<number, number>();
      for (const { keeper, others } of folds) for (const other of others) into.set(other, keeper);
      const there = await change.rows<{ id: number; folded_into: number | null }>(
        'select id, folded_into from keywords where plan_id = $1 and (id = any($2::int[]) or folded_into = any($3::int[]))',
        [folds.map(({ keeper }) => keeper), [...into.keys()]],
      );
      const known = new Set(there.map(({ id }) => id));
      for (const { keeper, others } of folds)
        if (!known.has(keeper) || others.includes(keeper) || into.has(keeper))
          throw new SprigFailure(
            'invalid',
            'A keyword can not be folded into one that is itself folded or gone.',
            {
              at: 'folds',
            },
          );
      for (const { id, folded_into } of there) {
        const keeper = folded_into === null ? undefined : into.get(folded_into);
        if (keeper !== undefined && keeper !== id) into.set(id, keeper);
      }
      const keepers = folds.map(({ keeper }) => keeper);
      await change.update('keywords', keepers, { folded_into: null });
      return change.updateEach(
        'keywords',
        Array.from(into, ([id, folded_into]) => ({ id, folded_into })),
        ['folded_into'],
      );
    },
  );
}

/** Lets keywords stand for themselves again; for one that others were folded into, those others. */
export function unfoldKeywords(caller: PlanCaller, ids: readonly number[]): Promise<{ revision: number }> {
  return inChange(
    caller,
    (unfolded: number) => `Unfold ${counted(unfolded, 'look-alike')}`,
    async (change) => {
      const rows = await change.rows<{ id: number }>(
        'select id from keywords where plan_id = $1 and folded_into is not null and (id = any($2::int[]) or folded_into = any($2::int[]))',
        [ids],
      );
      return change.update(
        'keywords',
        rows.map(({ id }) => id),
        { folded_into: null },
      );
    },
  );
}

export function setApart(
  caller: PlanCaller,
  ids: readonly number[],
  apart: boolean,
): Promise<{ revision: number }> {
  const label = (changed: number) =>
    apart
      ? `Keep ${counted(changed, 'keyword')} apart`
      : `Offer ${counted(changed, 'keyword')} as look-alikes again`;
  return inChange(caller, label, (change) => change.update('keywords', ids, { apart }));
}
