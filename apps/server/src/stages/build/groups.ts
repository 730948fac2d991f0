import type { GroupRow } from '@sprig/contracts';
import { bidOf, type Covered, type Layout } from '@sprig/core/build';
import { type MatchType, matchTypes } from '@sprig/core/match';
import { asMicros, type Micros } from '@sprig/core/money';
import { incrementOf, plainOutlet } from '@sprig/core/ship';
import { normalise } from '@sprig/core/text';
import type { PlanCaller } from '../../caller.ts';
import { select } from '../../database/connect.ts';
import { notFound } from '../../failure.ts';

export type GroupQuery = {
  filter: string;
  sort: 'made' | 'name' | 'searches' | 'bid';
  down: 'true' | 'false';
  only: 'all' | 'held' | 'no-estimate';
};

const ORDERS = { made: 'position', name: 'lower(name)', searches: 'searches', bid: 'base' };
const ONLY = { all: 'true', held: 'held', 'no-estimate': `base_from = 'default'` };

/** The keys of the groups that the query leaves, in its order. */
export async function orderGroups(
  caller: PlanCaller,
  query: GroupQuery,
): Promise<{ builtRevision: number; keys: string[] }> {
  const { database, plan, workspace } = caller;
  const [state] = await select<{ built: number }>(
    database,
    'select built_revision as built from plans where id = $1 and workspace_id = $2',
    [plan, workspace],
  );
  if (!state) throw notFound('plan');
  const direction = query.down === 'true' ? 'desc nulls last' : 'asc nulls last';
  const rows = await select<{ key: string }>(
    database,
    `select key from (
       select g.*, exists (select from holds h where h.plan_id = g.plan_id
         and h.row_key in (g.key, g.key || ':b', g.key || ':m', g.key || ':p', g.key || ':e', g.key || '/a1')) as held
       from ad_groups g where g.plan_id = $1
         and ($2 = '' or strpos(g.keyword, $2) > 0 or strpos(lower(g.name), $2) > 0)) listed
     where ${ONLY[query.only]} order by ${ORDERS[query.sort]} ${direction}, position`,
    [plan, normalise(query.filter)],
  );
  return { builtRevision: state.built, keys: rows.map(({ key }) => key) };
}

type StoredGroup = {
  key: string;
  keyword: string;
  name: string;
  searches: number | null;
  base: number;
  base_from: GroupRow['baseFrom'];
  covered: Covered | null;
};
type StoredRow = {
  key: string;
  group_key: string;
  type: number;
  base: number;
  steps: number[];
  held_bid: number | null;
};

/** A page of groups with their rows' bids at the outlet's increment, in the order of `keys`. */
export async function pageGroups(caller: PlanCaller, keys: readonly string[]): Promise<GroupRow[]> {
  const { database, plan, workspace } = caller;
  const [head] = await select<{ layout: Layout; currency: string }>(
    database,
    `select l.body as layout, b.currency from layouts l join briefs b on b.plan_id = l.plan_id where l.plan_id = $1 and l.workspace_id = $2`,
    [plan, workspace],
  );
  if (!head) throw notFound('plan');
  const groups = await select<StoredGroup>(
    database,
    'select key, keyword, name, searches, base, base_from, covered from ad_groups where plan_id = $1 and key = any($2::text[])',
    [plan, keys],
  );
  const rows = await select<StoredRow>(
    database,
    `select key, group_key, type, base, steps, held_bid from keyword_rows
     where plan_id = $1 and group_key = any($2::text[]) order by group_key, type`,
    [plan, keys],
  );
  const increment = incrementOf(plainOutlet, head.currency);
  const byKey = new Map(groups.map((group) => [group.key, toGroup(group, rows, head.layout, increment)]));
  return keys.flatMap((key) => byKey.get(key) ?? []);
}

function toGroup(
  group: StoredGroup,
  rows: readonly StoredRow[],
  layout: Layout,
  increment: Micros,
): GroupRow {
  return {
    key: group.key,
    keyword: group.keyword,
    name: group.name,
    searches: group.searches,
    base: asMicros(group.base),
    baseFrom: group.base_from,
    covered: group.covered,
    rows: rows
      .filter(({ group_key }) => group_key === group.key)
      .map((row) => {
        const rule = { base: asMicros(row.base), steps: row.steps, held: null };
        const ruleBid = bidOf(rule, layout.ladder, increment);
        const held = row.held_bid === null ? null : asMicros(row.held_bid);
        const bid = held === null ? ruleBid : bidOf({ ...rule, held }, layout.ladder, increment);
        return { key: row.key, type: matchTypes[row.type] as MatchType, bid, held: held !== null, ruleBid };
      }),
  };
}
