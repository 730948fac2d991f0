import { type CampaignRow, readGroupSizes } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { question } from '../../data/question.ts';
import { type SizeNode, sizeTree } from './size-tree.ts';
import type { Measure } from './use-build.ts';

const none: readonly SizeNode[] = [];

/** All that is built by its size, from the campaigns down; empty until it is there. */
export function useGroupSizes(
  plan: number,
  campaigns: readonly CampaignRow[],
  by: Measure,
  costs: ReadonlyMap<string, number>,
): readonly SizeNode[] {
  const { data } = useQuery(question(readGroupSizes, { params: { plan } }));
  return useMemo(() => {
    if (!data) return none;
    const groups = data.keys.map((key, at) => ({
      key,
      name: data.names[at] ?? '',
      campaign: data.campaignKeys[data.campaigns[at] ?? 0] ?? '',
      theme: data.themes[at] ?? 0,
      searches: data.searches[at] ?? 0,
      keywords: data.keywords[at] ?? 0,
    }));
    return sizeTree({
      campaigns,
      groups,
      themes: data.themeNames,
      measureOf: (one) => (by === 'cost' ? (costs.get(one.key) ?? 0) : one[by]),
    });
  }, [data, campaigns, by, costs]);
}
