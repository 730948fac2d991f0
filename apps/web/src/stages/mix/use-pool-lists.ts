import type { Facts, PlanState } from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import { computed } from '../../data/question.ts';
import type { IdeasInput } from '../../pool/ideas.ts';
import type { usePool } from '../../pool/use-pool.ts';
import { useSideWorker } from '../../pool/use-side-worker.ts';

export type PoolLists = {
  /** Lists that the pool's own words make. */
  lists: string[][];
  /** Words that would fit a list's words. */
  fitting: (words: string[]) => Promise<string[]>;
};

/** What the pool's own words give for lists, found in a worker of its own once it is asked for. */
export function usePoolLists(
  plan: PlanState,
  facts: Facts,
  pool: ReturnType<typeof usePool>,
  isWanted: boolean,
): PoolLists {
  const side = useSideWorker();
  const { language } = plan.brief;
  const { functionWords, places } = facts;
  const ask = useCallback(
    async <T>(question: (worker: ReturnType<typeof side>, input: IdeasInput) => Promise<T>): Promise<T> => {
      const worker = side();
      await worker.refresh(plan.id);
      return question(worker, { language, functionWords, places, dismissed: [] });
    },
    [side, plan.id, language, functionWords, places],
  );
  const { data: lists = [] } = useQuery({
    ...computed(plan.id, ['pool lists', pool.revision, language, functionWords], () =>
      ask((worker, input) => worker.poolLists(input)),
    ),
    enabled: isWanted && pool.ready && pool.length > 0,
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const fitting = useCallback(
    (words: string[]) => ask((worker, input) => worker.fitting(words, input)),
    [ask],
  );
  return { lists, fitting };
}
