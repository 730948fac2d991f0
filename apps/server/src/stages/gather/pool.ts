import { APART, CPC_ABOUT, CUT, framed, type PoolColumns, packPool, SEARCHES_ABOUT } from '@sprig/contracts';
import { Transaction } from 'sequelize';
import { select } from '../../db/connect.ts';
import { keywords } from '../../db/tables/gather.ts';
import { columnsOf, namesOf, type TableRow } from '../../db/tables/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound } from '../../platform/failure.ts';

type PoolRow = Omit<TableRow<'keywords'>, 'changed_revision'>;
const columns = columnsOf(keywords, ({ isAside }) => !isAside);

/** Keywords in memory at once. */
const PAGE = 20_000;

type Rows = <T extends object>(sql: string, bind: unknown[]) => Promise<T[]>;

/** The pool's columns, whole or what has changed since a revision, as frames of some thousand keywords each. */
export async function poolFrames(
  caller: PlanCaller,
  since: number,
  send: (frame: Buffer) => Promise<void>,
): Promise<void> {
  await caller.database.transaction(
    { isolationLevel: Transaction.ISOLATION_LEVELS.REPEATABLE_READ, readOnly: true },
    async (transaction) => {
      const rows: Rows = (sql, bind) => select(caller.database, sql, bind, { transaction });
      for await (const page of pages(caller, since, rows))
        await send(Buffer.from(framed(packPool(page, codec))));
    },
  );
}

const encoder = new TextEncoder();
const decoder = new TextDecoder();
const codec = {
  encode: (text: string) => encoder.encode(text),
  decode: (bytes: Uint8Array) => decoder.decode(bytes),
};

async function* pages(
  { plan, workspace }: PlanCaller,
  since: number,
  rows: Rows,
): AsyncGenerator<PoolColumns> {
  const [head] = await rows<{ revision: number }>(
    'select revision from plans where id = $1 and workspace_id = $2',
    [plan, workspace],
  );
  if (!head) throw notFound('plan');
  let removed = await removedSince(plan, since, rows);
  for (let last = 0, isFirst = true; ; isFirst = false) {
    const found = await rows<PoolRow>(
      `select ${namesOf(columns)} from keywords where plan_id = $1 and changed_revision > $2 and id > $3 order by id limit ${PAGE}`,
      [plan, since, last],
    );
    if (found.length === 0 && !isFirst) return;
    const sourcesOf = await sourcesBetween(plan, since, last, found.at(-1)?.id ?? last, rows);
    yield { ...packed(found, sourcesOf), revision: head.revision, delta: since > 0, removed };
    removed = [];
    last = found.at(-1)?.id ?? last;
    if (found.length < PAGE) return;
  }
}

async function removedSince(plan: number, since: number, rows: Rows): Promise<number[]> {
  if (since === 0) return [];
  const gone = await rows<{ id: number }>(
    `select distinct keyword_id as id from removed_keywords r where plan_id = $1 and revision > $2
     and not exists (select from keywords k where k.plan_id = $1 and k.id = r.keyword_id)`,
    [plan, since],
  );
  return gone.map(({ id }) => id);
}

/** A keyword's row is written whenever its mentions change, so one condition finds both. */
async function sourcesBetween(plan: number, since: number, after: number, to: number, rows: Rows) {
  const mentions = await rows<{ keyword_id: number; source_id: number }>(
    since === 0
      ? `select keyword_id, source_id from mentions
         where plan_id = $1 and keyword_id > $2 and keyword_id <= $3 order by keyword_id, source_id`
      : `select m.keyword_id, m.source_id from keywords k
         join mentions m on m.plan_id = k.plan_id and m.keyword_id = k.id
         where k.plan_id = $1 and k.id > $2 and k.id <= $3 and k.changed_revision > $4 order by m.keyword_id, m.source_id`,
    since === 0 ? [plan, after, to] : [plan, after, to, since],
  );
  const byKeyword = new Map<number, number[]>();
  for (const { keyword_id, source_id } of mentions) {
    const list = byKeyword.get(keyword_id);
    if (list) list.push(source_id);
    else byKeyword.set(keyword_id, [source_id]);
  }
  return byKeyword;
}

/** The column of the pool that carries each of a keyword's. A new column of keywords does not compile without its place here. */
export const carriedBy = {
  id: 'ids',
  text: 'texts',
  norm: 'norms',
  asked: 'asked',
  marks: 'marks',
  cut: 'flags',
  searches: 'searches',
  searches_about: 'flags',
  cpc: 'cpc',
  cpc_about: 'flags',
  competition: 'competition',
  figures_from: 'figuresFrom',
  hand: 'hand',
  told_of: 'toldOf',
  taken_cpc: 'takenCpc',
  made_searches: 'madeSearches',
  made_cpc: 'madeCpc',
  made_competition: 'madeCompetition',
  folded_into: 'foldedInto',
  blocked_by: 'blockedBy',
  apart: 'flags',
} as const satisfies Record<keyof PoolRow, keyof PoolColumns>;

function packed(rows: readonly PoolRow[], sourcesOf: ReadonlyMap<number, number[]>) {
  const none: number[] = [];
  return {
    ids: Uint32Array.from(rows, ({ id }) => id),
    cpc: Float64Array.from(rows, ({ cpc }) => cpc ?? -1),
    takenCpc: Float64Array.from(rows, ({ taken_cpc }) => taken_cpc ?? -1),
    madeCpc: Float64Array.from(rows, ({ made_cpc }) => made_cpc ?? -1),
    searches: Int32Array.from(rows, ({ searches }) => searches ?? -1),
    madeSearches: Int32Array.from(rows, ({ made_searches }) => made_searches ?? -1),
    figuresFrom: Uint32Array.from(rows, ({ figures_from }) => figures_from ?? 0),
    foldedInto: Uint32Array.from(rows, ({ folded_into }) => folded_into ?? 0),
    blockedBy: Int32Array.from(rows, ({ blocked_by }) => blocked_by ?? 0),
    competition: Int8Array.from(rows, ({ competition }) => competition ?? -1),
    madeCompetition: Int8Array.from(rows, ({ made_competition }) => made_competition ?? -1),
    hand: Uint8Array.from(rows, ({ hand }) => hand ?? 0),
    asked: Uint8Array.from(rows, ({ asked }) => asked),
    marks: new Map(rows.flatMap(({ id, marks }) => (marks.length === 0 ? [] : [[id, marks] as const]))),
    toldOf: new Map(rows.flatMap(({ id, told_of }) => (told_of === null ? [] : [[id, told_of] as const]))),
    flags: Uint8Array.from(
      rows,
      ({ cut, apart, searches_about, cpc_about }) =>
        (cut ? CUT : 0) |
        (searches_about ? SEARCHES_ABOUT : 0) |
        (cpc_about ? CPC_ABOUT : 0) |
        (apart ? APART : 0),
    ),
    texts: rows.map(({ text }) => text),
    norms: rows.map(({ norm }) => norm),
    sources: rows.map(({ id }) => sourcesOf.get(id) ?? none),
  };
}
