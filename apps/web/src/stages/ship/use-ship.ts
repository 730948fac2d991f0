import {
  listReceipts,
  type PlanState,
  type Receipt,
  type ShipView,
  startCheck,
  viewShip,
} from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { call, wordsOf } from '../../data/call.ts';
import { fetchChanged } from '../../data/fetch-again.ts';
import { finishJob } from '../../data/jobs.ts';
import { queryClient } from '../../data/query-client.ts';
import { question } from '../../data/question.ts';

export const useShipView = (plan: number) => useQuery(question(viewShip, { params: { plan } }));

const noReceipts: Receipt[] = [];
export function useReceipts(plan: number): Receipt[] {
  const { data = noReceipts } = useQuery({
    ...question(listReceipts, { params: { plan } }),
    select: ({ receipts }) => receipts,
  });
  return data;
}

/** What Ship shows hangs on all of these. */
export async function refreshShip(plan: number): Promise<void> {
  await fetchChanged(queryClient, plan, new Set(['receipts']));
}

/** Has the plan looked through for its outlets whenever that is not done yet. */
export function useChecked(plan: PlanState, view: ShipView | undefined) {
  const [job, setJob] = useState<string | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const asked = useRef('');
  const isBehind = view === undefined || view.builtRevision < plan.revision;
  const wanted =
    view && !isBehind && !view.checked && plan.counts.keywords > 0
      ? `${view.builtRevision}:${view.outlets.map(({ stamp }) => stamp).join()}`
      : '';
  useEffect(() => {
    if (wanted === '' || asked.current === wanted || refusal !== null) return;
    asked.current = wanted;
    void (async () => {
      try {
        const started = await call(startCheck, { params: { plan: plan.id } });
        setJob(started.job);
        await finishJob(plan.id, started.job);
        setRefusal(null);
        await refreshShip(plan.id);
      } catch (error) {
        setRefusal(wordsOf(error));
      }
      setJob(null);
    })();
  }, [wanted, plan.id, refusal]);
  const again = () => {
    asked.current = '';
    setRefusal(null);
  };
  return {
    isBehind,
    isChecking: job !== null || (wanted !== '' && refusal === null),
    refusal,
    again,
  };
}
