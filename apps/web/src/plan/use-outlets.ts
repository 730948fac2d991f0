import { listOutlets } from '@sprig/contracts';
import { keywordLimits, type Outlet, plainOutlet } from '@sprig/core/outlets';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { question } from '../data/question.ts';

/** All outlets that a plan can ship to. */
export const useOutlets = (plan: number) =>
  useQuery({
    ...question(listOutlets, { params: { plan } }),
    select: ({ outlets }) => outlets,
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
