import { viewBuild } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { question } from '../data/question.ts';

/** The campaigns that are built, and their largest ad groups, by key and name. */
export function useBuiltPlaces(plan: number) {
  const { data } = useQuery(question(viewBuild, { params: { plan } }));
  return useMemo(() => {
    const campaigns = data?.campaigns ?? [];
    const all = campaigns.flatMap(({ key, name, largest }) => [
      { key, name },
      ...largest.map((group) => ({ key: group.key, name: `${name} › ${group.name}` })),
    ]);
    return { campaigns, all, isThere: data !== undefined };
  }, [data]);
}
