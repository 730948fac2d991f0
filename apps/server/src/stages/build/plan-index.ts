import { setImmediate as breathe } from 'node:timers/promises';
import { factsOf } from '@sprig/contracts';
import { bidOfRow, type FencePlan, type Layout } from '@sprig/core/build';
import { AnswerIndex, type IndexedRow, synonymsOf, typeOf } from '@sprig/core/match';
import { asMicros, type Micros } from '@sprig/core/money';
import { plainOutlet } from '@sprig/core/outlets';
import { incrementOf } from '@sprig/core/sheets';
import { languagePack } from '@sprig/core/text';
import { select } from '../../db/connect.ts';
import { Blocks } from '../../plan/blocks.ts';
import { settingSetsOf, settingsOf } from '../../plan/setting-sets.ts';
import { overlapTable, targetingOf } from '../../plan/targeting.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound } from '../../platform/failure.ts';

export type IndexedGroup = {
  key: string;
  name: string;
  campaign: string;
  campaignName: string;
  enabled: boolean;
};

/** The enabled rows of a plan as it is built, ready to be searched. */
export type PlanIndex = {
  builtRevision: number;
  groups: readonly IndexedGroup[];
  rowKeys: readonly string[];
  bids: Float64Array;
  index: AnswerIndex;
  blocks: Blocks;
  fencePlan: FencePlan;
  limit: number;
};

/** Plans of which the index is kept. */
const KEPT = 2;
const PAGE = 20_000;
const kept = new Map<string, { stamp: string; index: Promise<PlanIndex> }>();

type Head = {
  built: number;
  layout: Layout;
  currency: string;
  language: string;
  facts: unknown;
};

/** The index of a plan, made when it is first asked for after a rebuild. */
export async function planIndex(caller: PlanCaller): Promise<PlanIndex> {
  const { database, plan, workspace } = caller;
  // Asked with every search: what the index is made of is read only where it has to be made.
  const [now] = await select<{ stamp: string }>(
    database,
    `select p.built_revision || ' ' || coalesce(s.fenced_for, 0) as stamp from plans p
     left join build_states s on s.plan_id = p.id where p.id = $1 and p.workspace_id = $2`,
    [plan, workspace],
  );
  if (!now) throw notFound('plan');
  const id = `${workspace}/${plan}`;
  const there = kept.get(id);
  kept.delete(id);
  if (there?.stamp === now.stamp) {
    kept.set(id, there);
    return there.index;
  }
  const index = makeIndex(caller);
  kept.set(id, { stamp: now.stamp, index });
  index.catch(() => kept.delete(id));
  for (const oldest of kept.keys()) {
    if (kept.size <= KEPT) break;
    kept.delete(oldest);
  }
  return index;
}

async function makeIndex(caller: PlanCaller): Promise<PlanIndex> {
  const read = <T extends object>(sql: string, bind: unknown[] = []) =>
    select<T>(caller.database, sql, [caller.plan, ...bind]);
  const [head] = await read<Head>(
    `select p.built_revision as built, l.body as layout, b.currency, b.language, f.body as facts
     from plans p join layouts l on l.plan_id = p.id join briefs b on b.plan_id = p.id
     join facts f on f.plan_id = p.id where p.id = $1`,
  );
  if (!head) throw notFound('plan');
  const facts = factsOf(head.facts);
  const sets = await settingSetsOf((sql) => read(sql));
  const groups = await read<IndexedGroup & { settings: number | null }>(
    `select g.key, g.name, g.campaign_key as campaign, c.name as "campaignName", c.settings_id as settings,
       g.status = 'enabled' and c.status = 'enabled' as enabled
     from ad_groups g join campaigns c on c.plan_id = g.plan_id and c.key = g.campaign_key
     where g.plan_id = $1 order by c.position, g.position, g.key`,
  );
  const placeOf = new Map(groups.map(({ key }, at) => [key, at]));
  const { rows, keys, bids, searches } = await enabledRows(read, head, groups, placeOf);
  const pack = languagePack(head.language, facts.functionWords);
  const index = new AnswerIndex(rows, { pack, synonyms: synonymsOf(facts.synonyms, pack) });
  const fences = await read<{ key: string; texts: string[]; phrases: number[] }>(
    'select key, texts, phrases from fences where plan_id = $1',
  );
  type Negative = { id: number; norm: string; type: 'broad' | 'phrase' | 'exact' };
  const targetings = groups.map(({ settings }) => targetingOf(settingsOf(sets, facts, settings)));
  return {
    builtRevision: head.built,
    groups,
    rowKeys: keys,
    bids,
    index,
    blocks: new Blocks({
      groups,
      plan: await read<Negative>(
        'select id, norm, match_type as type from negatives where plan_id = $1 order by id',
      ),
      listed: await read<Negative & { campaigns: string[] | null }>(
        `select n.id, n.norm, n.match_type as type, a.campaigns from attached_lists a join shared_negatives n
           on n.workspace_id = a.workspace_id and n.list_id = a.list_id where a.plan_id = $1 order by n.id`,
      ),
      placed: await read<Negative & { place: string }>(
        'select id, norm, match_type as type, place from placed_negatives where plan_id = $1 order by id',
      ),
      fences,
    }),
    fencePlan: {
      index,
      groups: groups.length,
      classOf: Uint32Array.from(groups.keys()),
      overlaps: overlapTable(targetings),
      searchesOf: (text) => searches.get(index.textNorms[text] as string) ?? -1,
      limit: plainOutlet.limits.negativesPerGroup,
    },
    limit: plainOutlet.limits.negativesPerGroup,
  };
}

type Read = <T extends object>(sql: string, bind?: unknown[]) => Promise<T[]>;

async function enabledRows(
  read: Read,
  { layout, currency }: Head,
  groups: readonly IndexedGroup[],
  placeOf: ReadonlyMap<string, number>,
) {
  const rows: IndexedRow[] = [];
  const keys: string[] = [];
  const bids: Micros[] = [];
  const searches = new Map<string, number>();
  const increment = incrementOf(plainOutlet, currency);
  type Stored = {
    key: string;
    group_key: string;
    text: string;
    type: number;
    marks: number[];
    base: number;
    steps: number[];
    held_bid: number | null;
    status: string;
    searches: number | null;
  };
  for (let last = ''; ; ) {
    const page = await read<Stored>(
      `select r.key, r.group_key, r.text, r.type, r.marks, r.base, r.steps, r.held_bid, r.status, k.searches
       from keyword_rows r left join keywords k on k.plan_id = r.plan_id and k.id = r.keyword_id
       where r.plan_id = $1 and r.key > $2 order by r.key limit ${PAGE}`,
      [last],
    );
    for (const row of page) {
      const owner = placeOf.get(row.group_key) ?? -1;
      if (row.status !== 'enabled' || !groups[owner]?.enabled) continue;
      const type = typeOf(row.type);
      rows.push({ norm: row.text, type, marks: row.marks, owner });
      keys.push(row.key);
      const heldBid = row.held_bid === null ? null : asMicros(row.held_bid);
      bids.push(bidOfRow({ base: asMicros(row.base), steps: row.steps, heldBid }, layout.ladder, increment));
      if (row.searches !== null) searches.set(row.text, row.searches);
    }
    await breathe();
    if (page.length < PAGE) return { rows, keys, bids: Float64Array.from(bids), searches };
    last = page.at(-1)?.key ?? last;
  }
}
