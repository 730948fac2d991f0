import { listOutlets } from '@sprig/contracts';
import { keywordLimits, networkNames, type Outlet, plainOutlet, tells } from '@sprig/core/outlets';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { question } from '../data/question.ts';
import { networkWords } from '../kit/network-words.ts';

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

const NETWORKS = networkNames.map((value) => ({ value, words: networkWords[value] }));

/** The networks for which bids can be set: more than search where an outlet of the plan takes a bid for each. */
export function useBidNetworks(plan: number): typeof NETWORKS {
  const outlets = useShippedTo(plan);
  return useMemo(
    () => NETWORKS.filter(({ value }) => value === 'search' || outlets?.some(({ bids }) => bids.perNetwork)),
    [outlets],
  );
}

/** What some engine to which the plan ships lets ad groups differ in from their campaigns. */
export function useGroupSettings(plan: number): { matching: boolean; rotation: boolean } {
  const outlets = useShippedTo(plan);
  return useMemo(() => {
    const some = (is: (outlet: Outlet) => boolean) =>
      outlets?.some((outlet) => outlet.key !== plainOutlet.key && is(outlet)) ?? false;
    return {
      matching: some((outlet) => outlet.match === 'setting' && tells(outlet, 'group', 'match-setting')),
      rotation: some((outlet) => tells(outlet, 'group', 'rotation')),
    };
  }, [outlets]);
}
