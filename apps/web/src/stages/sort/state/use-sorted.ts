import * as api from '@sprig/contracts';
import { useEffect, useMemo } from 'react';
import { useOpenPlan } from '../../../data/plan.ts';
import { useStamp } from '../../../kit/use-stamp.ts';
import { useFacts } from '../../../plan/use-facts.ts';
import { useSort } from '../../../plan/use-sort-data.ts';
import type { SortInput } from '../../../pool/sorting.ts';
import { usePool, useWorked } from '../../../pool/use-pool.ts';
import { treeOf } from '../theme-tree.ts';
import { useSortActions } from '../use-sort-actions.ts';

const noFacts = api.noFacts();

/** The plan's pool in its themes, as it stands now. */
export function useSorted() {
  const plan = useOpenPlan();
  const pool = usePool();
  const { data: sort } = useSort(plan.id);
  const actions = useSortActions(plan.id);
  const facts = useFacts(plan.id).value ?? noFacts;
  const input = useMemo<SortInput | null>(
    () =>
      sort
        ? {
            language: plan.brief.language,
            functionWords: facts.functionWords,
            places: facts.places,
            ...sort,
          }
        : null,
    [sort, plan.brief.language, facts],
  );
  const stamp = `${pool.revision}:${useStamp(input)}`;
  const { data: summary = null, busy: placing } = useWorked(
    async () => (input && pool.ready ? pool.worker.sort(input) : null),
    `sort ${stamp}`,
  );
  const tree = useMemo(() => treeOf(sort?.themes ?? [], summary ?? undefined), [sort, summary]);
  // At the first look nothing is new: there was none before.
  const newest = summary?.fresh.newest ?? 0;
  const isFirstLook = sort?.seen === 0 && newest > 0;
  useEffect(() => {
    if (isFirstLook) void actions.seen(newest);
  }, [isFirstLook, newest, actions]);
  return { plan, pool, sort, actions, facts, input, stamp, summary, placing, tree };
}

export type Sorted = ReturnType<typeof useSorted>;
