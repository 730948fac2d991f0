import { useQuery } from '@tanstack/react-query';
import { useOpenPlan } from '../data/plan.ts';
import { computed } from '../data/question.ts';
import { type Examples, examplesOf, neutralExamples } from './examples.ts';
import { wholePool } from './pool-query.ts';
import { poolWorker } from './use-pool.ts';

const LOOKED_AT = 40;

/** What helps and empty fields of the open plan speak of: its most searched keywords. */
export function useExamples(): Examples {
  const { id, counts } = useOpenPlan();
  const { data } = useQuery({
    ...computed(id, ['examples', counts.sources, counts.keywords > 0], async () => {
      const worker = poolWorker(id);
      await worker.refresh(id);
      const { ids } = await worker.query(wholePool);
      return examplesOf((await worker.page(Array.from(ids.subarray(0, LOOKED_AT)))).map(({ text }) => text));
    }),
    enabled: counts.keywords > 0,
    staleTime: Number.POSITIVE_INFINITY,
  });
  return data ?? neutralExamples;
}
