import { openPlan, type PlanState } from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useParams } from 'react-router';
import { question } from './question.ts';

/** The question for what the frame knows of a plan. */
export const stateOf = (plan: number) => question(openPlan, { params: { plan } });

/** The open plan's number, from the address. */
export const usePlanId = (): number => Number(useParams().plan);

/** What the frame knows of a plan: brief, revision, counts, the next undo. */
export function usePlanState(plan: number) {
  return useQuery({
    ...stateOf(plan),
    placeholderData: keepPreviousData,
  });
}

/** The open plan's state inside the frame, where it is there already. */
export function useOpenPlan(): PlanState {
  const { data } = usePlanState(usePlanId());
  if (!data) throw new Error('used outside of the plan frame');
  return data;
}
