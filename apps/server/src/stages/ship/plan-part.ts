import type { WrittenAd } from '@sprig/core/ads';
import { type BaseFrom, groupKeyPattern, type Status } from '@sprig/core/build';
import { type MatchType, typeOf } from '@sprig/core/match';
import type { CampaignFacts, NetworkName, Outlet } from '@sprig/core/outlets';
import type { GroupOfAds } from '@sprig/core/plan';
import type {
  AdSheetRow,
  CampaignSheetRow,
  GroupRows,
  NegativeSheetRow,
  OutletPlace,
} from '@sprig/core/sheets';
import { adFields, inNotation } from '@sprig/core/write';
import { grouped } from '../../platform/grouped.ts';

export type GroupHead = GroupOfAds & {
  campaign_name: string;
  campaign_status: Status;
  campaign_labels: string[];
  daily_budget: number;
  settings_id: number | null;
  base: number;
  base_from: BaseFrom;
  status: Status;
  labels: string[];
  rows: number;
  searches: number | null;
  takes_ads: boolean;
};

export type NegativeRow = { norm: string; type: MatchType };

/** A campaign of the plan at an outlet, before what the outlet can carry of it is decided. */
export type PlanCampaign = {
  key: string;
  row: CampaignSheetRow;
  types: ReadonlySet<MatchType>;
  networks: readonly NetworkName[];
  strategy: CampaignFacts['strategy'];
  negatives: NegativeSheetRow[];
};

/** An ad group of the plan at an outlet: its rows, and its ads as they were written. */
export type PlanGroup = GroupRows & {
  head: GroupHead;
  place: OutletPlace;
  written: WrittenAd[];
};

export type PlanPart = { campaign: PlanCampaign | null; groups: PlanGroup[] };

/**
 * Keys of ad groups as they stand within a query; ask for them by `(select …)`, else the planner weighs each of thousands.
 * They are made by our code, of letters, digits and points: nothing else is let in.
 */
export function arrayOf(keys: readonly string[]): string {
  const strange = keys.find((key) => !groupKeyPattern.test(key));
  if (strange !== undefined) throw new Error(`${strange} is no key of an ad group`);
  return `'{${keys.join(',')}}'::text[]`;
}

export const NONE: string[] = [];

export const NO_MARKS: number[] = [];

export const negativeRow = (
  campaign: string,
  group: string,
  { norm, type }: NegativeRow,
): NegativeSheetRow => ({
  kind: 'negative',
  campaign,
  group,
  text: norm,
  type,
  status: 'enabled',
});

/** `leftOut`: how many of its fields the outlet has no room for. */
export function adRowOf(
  ad: WrittenAd,
  { campaign, name }: OutletPlace,
  { ad: { insertion } }: Outlet,
  leftOut: number,
): AdSheetRow {
  const texts: AdSheetRow['texts'] = {};
  for (const field of adFields) {
    const fit = ad.fields[field];
    if (fit?.status === 'fits') texts[field] = inNotation(fit.text, fit.live, insertion);
  }
  const { final, mobile } = ad.address;
  const row: AdSheetRow = {
    kind: 'ad',
    campaign,
    group: name,
    form: ad.form,
    texts,
    kept: ad.kept,
    finalUrl: final.status === 'address' ? final.href : '',
    mobileUrl: mobile?.status === 'address' ? mobile.href : '',
    labels: ad.labels,
    status: ad.status,
  };
  if (leftOut > 0) row.leftOut = leftOut;
  return row;
}

/** Negatives, each once in its place, by the key of its campaign or ad group; under '' those of every campaign. The plan's own before those of lists. */
export async function negativesByPlace(
  rows: <T extends object>(sql: string) => Promise<T[]>,
): Promise<ReadonlyMap<string, NegativeRow[]>> {
  const found = await rows<NegativeRow & { place: string }>(
    `select place, norm, match_type as type from (
       select '' as place, norm, match_type, 0 as shared, id from negatives where plan_id = $1
       union all
       select place, norm, match_type, 0, id from placed_negatives where plan_id = $1
       union all
       select coalesce(c, ''), n.norm, n.match_type, 1, n.id from attached_lists a
         join shared_negatives n on n.workspace_id = a.workspace_id and n.list_id = a.list_id
         left join lateral unnest(a.campaigns) c on true
         where a.plan_id = $1 and (a.campaigns is null or c is not null)) all_of_them
     group by place, norm, match_type order by min(shared), min(id)`,
  );
  return grouped(found, ({ place }) => place);
}

/** The match types that the keywords of each campaign have, by its name at the outlet. */
export async function typesByCampaign(
  rows: <T extends object>(sql: string) => Promise<T[]>,
  heads: readonly { key: string }[],
  places: readonly OutletPlace[],
): Promise<ReadonlyMap<string, ReadonlySet<MatchType>>> {
  const found = await rows<{ key: string; types: number[] }>(
    'select group_key as key, array_agg(distinct type) as types from keyword_rows where plan_id = $1 group by group_key',
  );
  const byGroup = new Map(found.map(({ key, types }) => [key, types]));
  const byCampaign = new Map<string, Set<MatchType>>();
  heads.forEach(({ key }, at) => {
    const { campaign } = places[at] as OutletPlace;
    const types = byCampaign.get(campaign) ?? new Set<MatchType>();
    byCampaign.set(campaign, types);
    for (const type of byGroup.get(key) ?? []) types.add(typeOf(type));
  });
  return byCampaign;
}
