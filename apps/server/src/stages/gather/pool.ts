import { CPC_ABOUT, CUT, type PoolColumns, packPool, SEARCHES_ABOUT } from '@sprig/contracts';
import { Transaction } from 'sequelize';
import type { PlanCaller } from '../../caller.ts';
import { select } from '../../database/connect.ts';
import { notFound } from '../../failure.ts';

type PoolRow = {
  id: number;
  text: string;
  norm: string;
  asked: number;
  cut: boolean;
  searches: number | null;
  searches_about: boolean;
  cpc: number | null;
  cpc_about: boolean;
  figures_from: number | null;
};

/** The pool's columns, packed: whole, or what has changed since a revision. */
export async function poolSince(caller: PlanCaller, since: number): Promise<Uint8Array> {
  return caller.database.transaction(
    { isolationLevel: Transaction.ISOLATION_LEVELS.REPEATABLE_READ, readOnly: true },
    async (transaction) => packPool(await readColumns(caller, since, transaction), codec),
  );
}

const encoder = new TextEncoder();
const decoder = new TextDecoder();
const codec = {
  encode: (text: string) => encoder.encode(text),
  decode: (bytes: Uint8Array) => decoder.decode(bytes),
};

async function readColumns(
  caller: PlanCaller,
  since: number,
  transaction: Transaction,
): Promise<PoolColumns> {
  const rows = <T extends object>(sql: string, bind: unknown[]) =>
    select<T>(caller.database, sql, bind, { transaction });
  const [plan] = await rows<{ revision: number }>(
    'select revision from plans where id = $1 and workspace_id = $2',
    [caller.plan, caller.workspace],
  );
  if (!plan) throw notFound('plan');
  const keywords = await rows<PoolRow>(
    `select id, text, norm, asked, cut, searches, searches_about, cpc, cpc_about, figures_from
     from keywords where plan_id = $1 and changed_revision > $2 order by id`,
    [caller.plan, since],
  );
  const sourcesOf = await sourcesByKeyword(caller, since, transaction);
  const removed =
    since === 0
      ? []
      : await rows<{ id: number }>(
          `select distinct keyword_id as id from removed_keywords r where plan_id = $1 and revision > $2
           and not exists (select from keywords k where k.plan_id = $1 and k.id = r.keyword_id)`,
          [caller.plan, since],
        );
  return {
    ...columnsOf(keywords, sourcesOf),
    revision: plan.revision,
    delta: since > 0,
    removed: removed.map(({ id }) => id),
  };
}

/** A keyword's row is written whenever its mentions change, so one condition finds both. */
async function sourcesByKeyword({ database, plan }: PlanCaller, since: number, transaction: Transaction) {
  const mentions = await select<{ keyword_id: number; source_id: number }>(
    database,
    since === 0
      ? 'select keyword_id, source_id from mentions where plan_id = $1 order by source_id'
      : `select m.keyword_id, m.source_id from mentions m join keywords k on k.plan_id = m.plan_id and k.id = m.keyword_id
         where m.plan_id = $1 and k.changed_revision > $2 order by m.source_id`,
    since === 0 ? [plan] : [plan, since],
    { transaction },
  );
  const byKeyword = new Map<number, number[]>();
  for (const { keyword_id, source_id } of mentions) {
    const list = byKeyword.get(keyword_id);
    if (list) list.push(source_id);
    else byKeyword.set(keyword_id, [source_id]);
  }
  return byKeyword;
}

function columnsOf(rows: readonly PoolRow[], sourcesOf: ReadonlyMap<number, number[]>) {
  const none: number[] = [];
  return {
    ids: Uint32Array.from(rows, ({ id }) => id),
    cpc: Float64Array.from(rows, ({ cpc }) => cpc ?? -1),
    searches: Int32Array.from(rows, ({ searches }) => searches ?? -1),
    figuresFrom: Uint32Array.from(rows, ({ figures_from }) => figures_from ?? 0),
    asked: Uint8Array.from(rows, ({ asked }) => asked),
    flags: Uint8Array.from(
      rows,
      ({ cut, searches_about, cpc_about }) =>
        (cut ? CUT : 0) | (searches_about ? SEARCHES_ABOUT : 0) | (cpc_about ? CPC_ABOUT : 0),
    ),
    texts: rows.map(({ text }) => text),
    norms: rows.map(({ norm }) => norm),
    sources: rows.map(({ id }) => sourcesOf.get(id) ?? none),
  };
}
