import {
  type GroupHeads,
  type GroupPage,
  type GroupRow,
  type groupQuery,
  MOST_ON_PAGE,
  type PlacedNegativeRow,
  patternFrom,
} from '@sprig/contracts';
import type { Covered, Layout } from '@sprig/core/build';
import { asMicros } from '@sprig/core/money';
import { plainOutlet } from '@sprig/core/outlets';
import { saidThemes } from '@sprig/core/plan';
import { normalise } from '@sprig/core/text';
import type { AdForm } from '@sprig/core/write';
import type { z } from 'zod';
import { select } from '../../db/connect.ts';
import { directionOf, orderedKeys } from '../../plan/ordered-keys.ts';
import { adTexts } from '../../plan/rebuild/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound } from '../../platform/failure.ts';
import { grouped } from '../../platform/grouped.ts';
import { listThemes } from '../sort/index.ts';
import { type HeldAt, heldAt } from './holds.ts';
import {
  type BidRules,
  bidRules,
  ROW_COLUMNS,
  ROW_TABLES,
  type StoredRow,
  toRow,
  withFigures,
} from './rows.ts';

const ORDERS = {
  made: 'c.position, g.position',
  name: 'lower(g.name)',
  searches: 'g.searches',
  keywords: 'g.keywords',
  bid: 'g.base',
};
const HELD = `(g.key in (select row_key from held) or g.key in (
  select r.group_key from keyword_rows r join held on held.row_key = r.key where r.plan_id = $1))`;
const ONLY = {
  all: 'true',
  held: HELD,
  'no-estimate': `g.base_from = 'default'`,
  paused: `g.status = 'paused'`,
};

/** The keys of the groups that the query leaves, in its order. */
export async function orderGroups(
  caller: PlanCaller,
  query: z.output<typeof groupQuery>,
): Promise<{ builtRevision: number; keys: string[] }> {
  return orderedKeys(caller, {
    sql: `with held as (select distinct split_part(row_key, '/', 1) as row_key from holds where plan_id = $1)
     select g.key from ad_groups g join campaigns c on c.plan_id = g.plan_id and c.key = g.campaign_key
     where g.plan_id = $1 and ($2 = '' or strpos(g.keyword, $2) > 0 or strpos(lower(g.name), $2) > 0
         or exists (select from keyword_rows r where r.plan_id = g.plan_id and r.group_key = g.key and strpos(r.text, $2) > 0))
       and ($3 = '' or g.campaign_key = $3) and ($4 = '' or $4 = any(g.labels)) and ${ONLY[query.only]}
     order by ${ORDERS[query.sort]} ${directionOf(query.down)}, c.position, g.position, g.key`,
    bind: [normalise(query.filter), query.campaign, query.label],
  });
}

type StoredGroup = {
  key: string;
  campaign_key: string;
  kind: GroupRow['kind'];
  theme_id: number;
  keyword: string;
  keyword_id: number;
  name: string;
  searches: number | null;
  keywords: number;
  base: number;
  base_from: GroupRow['baseFrom'];
  step: number;
  status: GroupRow['status'];
  labels: string[];
  lane: number | null;
  place: string | null;
  stage: string | null;
  covered: Covered | null;
};
const GROUP_COLUMNS = `key, campaign_key, kind, theme_id, keyword, keyword_id, name, searches, keywords, base, base_from,
  step, status, labels, lane, place, stage, covered`;

/** A page of groups with the bids of their lead keyword, in the order of `keys`. */
export async function pageGroups(caller: PlanCaller, keys: readonly string[]): Promise<GroupRow[]> {
  const { database, plan } = caller;
  const rules = await bidRules(caller);
  const groups = await select<StoredGroup>(
    database,
    `select ${GROUP_COLUMNS} from ad_groups where plan_id = $1 and key = any($2::text[])`,
    [plan, keys],
  );
  const rows = await select<StoredRow>(
    database,
    `select ${ROW_COLUMNS} from ${ROW_TABLES} join ad_groups g on g.plan_id = r.plan_id and g.key = r.group_key
     where r.plan_id = $1 and r.group_key = any($2::text[]) and r.keyword_id = g.keyword_id order by r.group_key, r.type`,
    [plan, keys],
  );
  const byGroup = grouped(rows, ({ group_key }) => group_key);
  const held = await heldAt(caller, keys, ['matching', 'rotation']);
  const byKey = new Map(
    groups.map((group) => [
      group.key,
      toGroup(group, byGroup.get(group.key) ?? [], rules, held.get(group.key)),
    ]),
  );
  return keys.flatMap((key) => byKey.get(key) ?? []);
}

const toGroup = (
  group: StoredGroup,
  rows: readonly StoredRow[],
  rules: BidRules,
  held: HeldAt = {},
): GroupRow => ({
  key: group.key,
  campaign: group.campaign_key,
  kind: group.kind,
  theme: group.theme_id,
  keyword: group.keyword,
  name: group.name,
  searches: group.searches,
  keywords: group.keywords,
  base: asMicros(group.base),
  baseFrom: group.base_from,
  step: group.step,
  status: group.status,
  labels: group.labels,
  lane: group.lane,
  matching: held.matching === 'close' || held.matching === 'wide' ? held.matching : '',
  rotation: held.rotation === 'best' || held.rotation === 'even' ? held.rotation : '',
  covered: group.covered,
  rows: rows.map((row) => toRow(row, rules)),
});

type StoredAd = {
  key: string;
  texts: string[];
  final_url: string;
  misfit: boolean;
  form: AdForm;
  status: GroupRow['status'];
  labels: string[];
  body: unknown;
};

/** One ad group whole: its keywords, negatives, fences and ads. */
export async function readGroup(caller: PlanCaller, key: string): Promise<GroupPage> {
  const { database, plan } = caller;
  const rules = await bidRules(caller);
  const read = <T extends object>(sql: string, bind: unknown[] = []) =>
    select<T>(database, sql, [plan, ...bind]);
  const [group] = await read<StoredGroup & { campaign_name: string; built: number; rows: number }>(
    `select ${GROUP_COLUMNS.split(',')
      .map((name) => `g.${name.trim()}`)
      .join(', ')}, g.rows, c.name as campaign_name, p.built_revision as built
     from ad_groups g join campaigns c on c.plan_id = g.plan_id and c.key = g.campaign_key join plans p on p.id = g.plan_id
     where g.plan_id = $1 and g.key = $2`,
    [key],
  );
  if (!group) throw notFound('ad group');
  const rows = await read<StoredRow>(
    `select ${ROW_COLUMNS} from ${ROW_TABLES} where r.plan_id = $1 and r.group_key = $2
     order by k.searches desc nulls last, r.position, r.type limit ${MOST_ON_PAGE}`,
    [key],
  );
  const [above] = await read<{ above: number }>(
    `select ((select count(*) from negatives where plan_id = $1) + (select count(*) from attached_lists a
       join shared_negatives n on n.workspace_id = a.workspace_id and n.list_id = a.list_id
       where a.plan_id = $1 and (a.campaigns is null or $2 = any(a.campaigns))))::int as above`,
    [group.campaign_key],
  );
  const ads = await read<StoredAd>(
    `select a.key, a.texts, a.final_url, a.misfit, a.form, a.status, a.labels, p.body from ads a
     left join ad_patterns p on p.plan_id = a.plan_id and p.id = a.pattern_id
     where a.plan_id = $1 and a.outlet = $2 and a.group_key = $3 order by coalesce(p.position, 0), p.id, a.key`,
    [plainOutlet.key, key],
  );
  const lead = rows.filter(({ keyword }) => keyword === group.keyword_id);
  const held = await heldAt(caller, [key], ['matching', 'rotation']);
  return {
    builtRevision: group.built,
    group: { ...toGroup(group, lead, rules, held.get(key)), place: group.place, stage: group.stage },
    campaignName: group.campaign_name,
    rows: rows.map((row) => withFigures(row, rules)),
    rowCount: group.rows,
    negatives: await negativesAt(caller, key),
    campaignNegatives: await negativesAt(caller, group.campaign_key),
    above: above?.above ?? 0,
    ...(await fencesAt(caller, key)),
    ads: ads.map(({ texts, final_url, body, ...ad }) => ({
      ...ad,
      name: patternFrom(body).name,
      texts: adTexts(texts),
      finalUrl: final_url,
    })),
  };
}

export const negativesAt = (
  { database, plan, workspace }: PlanCaller,
  place: string,
): Promise<PlacedNegativeRow[]> =>
  select<PlacedNegativeRow>(
    database,
    'select id, text, match_type as type from placed_negatives where plan_id = $1 and place = $2 and workspace_id = $3 order by id',
    [plan, place, workspace],
  );

async function fencesAt({ database, plan }: PlanCaller, key: string) {
  const fences = await select<{ text: string; phrase: number; keeper: string; name: string; count: number }>(
    database,
    `select f.text, f.phrase, f.keeper, coalesce(g.name, '') as name, f.count from (
       select unnest(texts) as text, unnest(phrases) as phrase, unnest(keepers) as keeper, cardinality(texts) as count
       from fences where plan_id = $1 and key = $2 limit ${MOST_ON_PAGE}) f
     left join ad_groups g on g.plan_id = $1 and g.key = f.keeper`,
    [plan, key],
  );
  const [keeps] = await select<{ keeps: number }>(
    database,
    `select count(distinct t)::int as keeps from fences f, unnest(f.texts, f.keepers) as u(t, k)
     where f.plan_id = $1 and u.k = $2`,
    [plan, key],
  );
  return {
    fences: fences.map(({ text, phrase, keeper, name }) => ({
      text,
      phrase: phrase === 1,
      keeper,
      keeperName: name,
    })),
    fenceCount: fences[0]?.count ?? 0,
    keeps: keeps?.keeps ?? 0,
  };
}

/** What ads are filled from, in the order in which groups are made. */
export async function headsOf(caller: PlanCaller): Promise<GroupHeads> {
  const { database, plan, workspace } = caller;
  const [state] = await select<{ built: number; layout: Layout }>(
    database,
    `select p.built_revision as built, l.body as layout from plans p join layouts l on l.plan_id = p.id
     where p.id = $1 and p.workspace_id = $2`,
    [plan, workspace],
  );
  if (!state) throw notFound('plan');
  const rows = await select<{
    key: string;
    name: string;
    keyword: string;
    searches: number | null;
    theme_id: number;
    place: string | null;
    stage: string | null;
    campaign: string;
    campaign_key: string;
  }>(
    database,
    `select g.key, g.name, g.keyword, g.searches, g.theme_id, g.place, g.stage, c.name as campaign, g.campaign_key
     from ad_groups g join campaigns c on c.plan_id = g.plan_id and c.key = g.campaign_key where g.plan_id = $1 and g.takes_ads
     order by c.position, g.position, g.key`,
    [plan],
  );
  const names = new Map(rows.map(({ campaign_key, campaign }) => [campaign_key, campaign]));
  const campaignKeys = [...names.keys()];
  const campaignAt = new Map(campaignKeys.map((key, at) => [key, at]));
  const themes = saidThemes(await listThemes(caller), state.layout);
  return {
    builtRevision: state.built,
    keys: rows.map(({ key }) => key),
    names: rows.map(({ name }) => name),
    keywords: rows.map(({ keyword }) => keyword),
    searches: rows.map(({ searches }) => searches),
    themes: rows.map(({ theme_id }) => theme_id),
    places: rows.map(({ place }) => place),
    stages: rows.map(({ stage }) => stage),
    campaigns: rows.map(({ campaign_key }) => campaignAt.get(campaign_key) ?? 0),
    campaignNames: [...names.values()],
    campaignKeys,
    themeNames: [...themes].map(([id, theme]) => ({ id, ...theme })),
  };
}
