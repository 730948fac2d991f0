import { listOutlets } from '@sprig/contracts';
import { keywordLimits, type Outlet, plainOutlet } from '@sprig/core/outlets';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { call } from '../api/call.ts';
import { planKey } from '../api/plan.ts';

/** All outlets that a plan can ship to. */
export const useOutlets = (plan: number) =>
  useQuery({
    queryKey: [...planKey(plan), 'outlets'],
    queryFn: async () => (await call(listOutlets, { params: { plan } })).outlets,
  });

/** The outlets that a plan ships to; undefined while they are fetched. */
export function useShippedTo(plan: number): readonly Outlet[] | undefined {
  const { data } = useOutlets(plan);
  return useMemo(() => data?.filter(({ chosen }) => chosen).map(({ outlet }) => outlet), [data]);
}

/** How long a keyword may be to be taken by all outlets that the plan ships to. */
export function useKeywordLimits(plan: number): { words: number; length: number } {
  const outlets = useShippedTo(plan);
  return useMemo(() => keywordLimits(outlets ?? [plainOutlet]), [outlets]);
}
