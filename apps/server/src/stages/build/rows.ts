import type { BuiltRowView, LongRow, RowQuery } from '@sprig/contracts';
import { bidOf, type Layout } from '@sprig/core/build';
import { forecastAt } from '@sprig/core/figures';
import { typeOf } from '@sprig/core/match';
import { asMicros } from '@sprig/core/money';
import { plainOutlet } from '@sprig/core/outlets';
import { incrementOf } from '@sprig/core/sheets';
import { normalise } from '@sprig/core/text';
import { select } from '../../db/connect.ts';
import { PlanFigures } from '../../figures/plan-figures.ts';
import { directionOf, orderedRows } from '../../plan/ordered-keys.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound } from '../../platform/failure.ts';
import { heldAt } from './holds.ts';

export type StoredRow = {
  key: string;
  group_key: string;
  keyword: number;
  text: string;
  type: number;
  marks: number[];
  base: number;
  steps: number[];
  held_bid: number | null;
  held_url: string | null;
  rule_url: string | null;
  status: 'enabled' | 'paused';
  labels: string[];
  searches: number | null;
  cpc: number | null;
};

/** Columns of `keyword_rows r join keywords k`. */
export const ROW_COLUMNS = `r.key, r.group_key, r.keyword_id as keyword, r.text, r.type, r.marks, r.base, r.steps, r.held_bid,
  r.held_url, r.rule_url, r.status, r.labels, k.searches, k.cpc`;
export const ROW_TABLES =
  'keyword_rows r left join keywords k on k.plan_id = r.plan_id and k.id = r.keyword_id';

export type BidRules = { layout: Layout; currency: string };

export async function bidRules({ database, plan, workspace }: PlanCaller): Promise<BidRules> {
  const [head] = await select<BidRules>(
    database,
    `select l.body as layout, b.currency from layouts l join briefs b on b.plan_id = l.plan_id
     where l.plan_id = $1 and l.workspace_id = $2`,
    [plan, workspace],
  );
  if (!head) throw notFound('plan');
  return head;
}

/** A row with its bid at the outlet's increment. */
export function toRow(row: StoredRow, { layout, currency }: BidRules): BuiltRowView {
  const increment = incrementOf(plainOutlet, currency);
  const rule = { base: asMicros(row.base), steps: row.steps, held: null };
  const ruleBid = bidOf(rule, layout.ladder, increment);
  const held = row.held_bid === null ? null : asMicros(row.held_bid);
  return {
    key: row.key,
    keyword: row.keyword,
    text: row.text,
    type: typeOf(row.type),
    marks: row.marks,
    bid: held === null ? ruleBid : bidOf({ ...rule, held }, layout.ladder, increment),
    held: held !== null,
    ruleBid,
    heldUrl: row.held_url,
    ruleUrl: row.rule_url,
    status: row.status,
    labels: row.labels,
  };
}

export const withFigures = (row: StoredRow, rules: BidRules) => ({
  ...toRow(row, rules),
  searches: row.searches,
  cpc: row.cpc === null ? null : asMicros(row.cpc),
});

const ORDERS = {
  made: 'r.position',
  text: 'r.text',
  type: 'r.type',
  bid: 'r.bid',
  searches: 'k.searches',
  group: 'lower(g.name)',
};
const ONLY = {
  all: 'true',
  held: 'exists (select from holds h where h.plan_id = r.plan_id and h.row_key = r.key)',
  paused: `(r.status = 'paused' or g.status = 'paused')`,
  unreached: 'true',
  twice: `(r.text, r.type) in (select text, type from keyword_rows where plan_id = $1 group by text, type having count(*) > 1)`,
};

/** The keys of the keyword rows that the query leaves, in its order. */
export async function orderRows(
  caller: PlanCaller,
  query: RowQuery,
): Promise<{ builtRevision: number; keys: string[] }> {
  const { positionFrom, positionTo, only } = query;
  const ordered = await orderedRows<{ key: string; text: string; bid: number }>(caller, {
    sql: `with recursive below(id) as (select nullif($12, '')::int union
       select t.id from themes t join below b on t.parent_id = b.id where t.plan_id = $1 and b.id > 0)
     select r.key, r.text, r.bid from ${ROW_TABLES} join ad_groups g on g.plan_id = r.plan_id and g.key = r.group_key
     where r.plan_id = $1 and ($2 = '' or strpos(r.text, $2) > 0 or strpos(lower(g.name), $2) > 0)
       and ($3 = '' or g.campaign_key = $3) and ($4 = '' or r.group_key = $4) and (1 << r.type) & $5::int > 0 and ${ONLY[query.only]}
       and ($6 = '' or r.bid >= $6::bigint) and ($7 = '' or r.bid <= $7::bigint)
       and ($8 = '' or k.searches >= $8::bigint) and ($9 = '' or coalesce(k.searches, 0) <= $9::bigint)
       and ($10 = '' or $10 = any(r.labels) or $10 = any(g.labels)) and ($11 = '' or g.stage = $11)
       and ($12 = '' or g.theme_id in (select id from below))
     order by ${ORDERS[query.sort]} ${directionOf(query.down)}, r.position, r.type, r.key`,
    bind: [
      normalise(query.filter),
      query.campaign,
      query.group,
      query.types,
      ...[query.bidFrom, query.bidTo, query.searchesFrom, query.searchesTo].map(String),
      query.label,
      query.stage,
      String(query.theme),
    ],
  });
  const { builtRevision } = ordered;
  const hasRange = positionFrom !== '' || positionTo !== '';
  if (!hasRange && only !== 'unreached') return { builtRevision, keys: ordered.rows.map(({ key }) => key) };
  const standing = await standingOf(caller, ordered.rows);
  const [from, to] = [positionFrom || 0, positionTo || Number.POSITIVE_INFINITY];
  const isWanted = ({ position, isKnown }: Standing) =>
    position === null
      ? isKnown && only === 'unreached' && !hasRange
      : only !== 'unreached' && position >= from && position <= to;
  return {
    builtRevision,
    keys: ordered.rows.flatMap(({ key }, at) => (isWanted(standing[at] as Standing) ? [key] : [])),
  };
}

/** `isKnown`: whether the forecast knows what positions cost. */
type Standing = { position: number | null; isKnown: boolean };

/** The positions that bids reach by the forecast, in the order of the rows. */
async function standingOf(
  caller: PlanCaller,
  rows: readonly { text: string; bid: number }[],
): Promise<Standing[]> {
  const figures = await PlanFigures.of(caller);
  const curves = await figures.curvesOf(rows.map(({ text }) => text));
  return rows.map(({ text, bid }) => {
    const curve = curves.get(text) ?? [];
    return { position: forecastAt(curve, asMicros(bid)).position, isKnown: curve.length > 0 };
  });
}

/** Rows in the order of `keys`. */
export async function pageRows(caller: PlanCaller, keys: readonly string[]): Promise<LongRow[]> {
  const rules = await bidRules(caller);
  const rows = await select<StoredRow & { group_name: string }>(
    caller.database,
    `select ${ROW_COLUMNS}, g.name as group_name from ${ROW_TABLES}
     join ad_groups g on g.plan_id = r.plan_id and g.key = r.group_key where r.plan_id = $1 and r.key = any($2::text[])`,
    [caller.plan, keys],
  );
  const shown = rows.map((row) => withFigures(row, rules));
  const standing = await standingOf(caller, shown);
  const held = await heldAt(caller, keys, ['bidPartners', 'bidDisplay']);
  const amount = (value: string | number | undefined) =>
    value === undefined ? null : asMicros(Number(value));
  const byKey = new Map(
    rows.map((row, at): [string, LongRow] => [
      row.key,
      {
        ...(shown[at] as (typeof shown)[number]),
        group: row.group_key,
        groupName: row.group_name,
        position: standing[at]?.position ?? null,
        bidPartners: amount(held.get(row.key)?.bidPartners),
        bidDisplay: amount(held.get(row.key)?.bidDisplay),
      },
    ]),
  );
  return keys.flatMap((key) => byKey.get(key) ?? []);
}
