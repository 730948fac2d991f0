import type { CampaignRow, Facts, SettingSet } from '@sprig/contracts';
import { ascending } from 'd3';

/** What a campaign is set to: the brief's settings, or those that it has by a name. */
export type Settings = Omit<SettingSet, 'id' | 'name' | 'shared'>;

/** A campaign with what it is set to and what it may cost a day. */
export type ShownCampaign = CampaignRow & {
  set: SettingSet | null;
  is: Settings;
  /** By the forecast; undefined: it is not there yet. */
  cost: number | undefined;
  /** The path of its final URLs by hand; empty: the plan's. */
  path: string;
  /** How it matches by hand at outlets that match by campaign; empty: as its keywords ask. */
  matching: string;
};

export const campaignSorts = [
  'made',
  'name',
  'budget',
  'cost',
  'set',
  'groups',
  'keywords',
  'searches',
] as const;
export type CampaignSort = (typeof campaignSorts)[number];

/** Campaigns with what they are set to. */
export const shownCampaigns = (
  campaigns: readonly CampaignRow[],
  sets: readonly SettingSet[],
  facts: Facts,
  costs: ReadonlyMap<string, number>,
  /** The paths and matchings that are held, by campaign. */
  held: { paths: ReadonlyMap<string, string>; matchings: ReadonlyMap<string, string> },
): ShownCampaign[] =>
  campaigns.map((campaign) => {
    const set = sets.find(({ id }) => id === campaign.settings) ?? null;
    return {
      ...campaign,
      set,
      is: set ?? facts,
      cost: costs.get(campaign.key),
      path: held.paths.get(campaign.key) ?? '',
      matching: held.matchings.get(campaign.key) ?? '',
    };
  });

const ORDERS: Record<Exclude<CampaignSort, 'made'>, (a: ShownCampaign, b: ShownCampaign) => number> = {
  name: (a, b) => ascending(a.name.toLowerCase(), b.name.toLowerCase()),
  set: (a, b) => ascending(a.set?.name.toLowerCase() ?? '', b.set?.name.toLowerCase() ?? ''),
  budget: (a, b) => a.dailyBudget - b.dailyBudget,
  cost: (a, b) => (a.cost ?? 0) - (b.cost ?? 0),
  groups: (a, b) => a.groups - b.groups,
  keywords: (a, b) => a.keywords - b.keywords,
  searches: (a, b) => a.searches - b.searches,
};

/** Those whose name, label or settings have the text, in an order; alike ones stay as they were made. */
export function foundCampaigns(
  campaigns: readonly ShownCampaign[],
  { filter, sort, down }: { filter: string; sort: CampaignSort; down: boolean },
): ShownCampaign[] {
  const wanted = filter.trim().toLowerCase();
  const found = campaigns.filter(({ name, labels, set }) =>
    [name, ...labels, set?.name ?? ''].some((text) => text.toLowerCase().includes(wanted)),
  );
  if (sort === 'made') return down ? found.reverse() : found;
  const order = ORDERS[sort];
  return found.sort((a, b) => (down ? order(b, a) : order(a, b)));
}
