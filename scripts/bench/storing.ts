import { decimalFromMicros } from '@sprig/core/money';
import { manyKeywords } from '@sprig/market';
import type { Sequelize } from 'sequelize';
import { connect, select } from '../../apps/server/src/db/connect.ts';
import { copyInto } from '../../apps/server/src/db/copy.ts';
import { inChange } from '../../apps/server/src/plan/change/index.ts';
import { takeIn } from '../../apps/server/src/stages/gather/index.ts';
import { makePlan } from '../../apps/server/src/stages/plans/index.ts';
import { type Entry, median } from './measure.ts';

const ROWS = 100_000;
const RUNS = 3;
const brief = { name: 'Storing', currency: 'GBP', language: 'en' as const, site: '' };

/** Reads and stores 100,000 keywords with figures, against COPYing the same rows into the same tables. */
export async function storing(): Promise<Entry> {
  const database = connect(process.env.DATABASE_URL ?? '');
  const caller = { database, workspace: 1, actor: 1 };
  const text = manyKeywords(ROWS, 3)
    .map(({ text: keyword, searches, cpc }) => `${keyword}\t${searches}\t${decimalFromMicros(cpc, 2)}`)
    .join('\n');
  let plan = 0;
  const ms = await median(RUNS, async () => {
    plan = await makePlan(caller, brief);
    await inChange({ ...caller, plan }, 'Take in', (change) =>
      takeIn(change, pieces(text), {}, { kind: 'paste', name: 'List', job: null }),
    );
  });
  const lines = await linesOf(database, plan);
  const floorMs = await median(RUNS, () => copyRows(database, lines));
  await database.close();
  return {
    name: '100,000 keywords with figures, read and stored',
    ms,
    floor: 'COPY the same rows into the same tables and indexes',
    floorMs,
  };
}

function* pieces(text: string): Generator<string> {
  for (let at = 0; at < text.length; at += 1_048_576) yield text.slice(at, at + 1_048_576);
}

const TABLES = {
  keywords:
    'id, workspace_id, text, norm, asked, marks, cut, searches, searches_about, cpc, cpc_about, competition, figures_from, changed_revision',
  mentions:
    'source_id, keyword_id, workspace_id, line, asked, marks, searches, searches_about, cpc, cpc_about, competition, extra',
};

type Lines = Record<string, string[]>;

/** The rows as COPY takes them, but for the plan's number. */
async function linesOf(database: Sequelize, from: number): Promise<Lines> {
  const lines: Lines = {};
  for (const [table, columns] of Object.entries(TABLES)) {
    const cells = columns.split(', ').map((column) => `coalesce(${column}::text, '\\N')`);
    const rows = await select<{ line: string }>(
      database,
      `select concat_ws(E'\\t', ${cells.join(', ')}) as line from ${table} where plan_id = $1`,
      [from],
    );
    lines[table] = rows.map(({ line }) => line);
  }
  return lines;
}

async function copyRows(database: Sequelize, lines: Lines): Promise<void> {
  await database.transaction(async (transaction) => {
    const [plan] = await select<{ id: number }>(
      database,
      'insert into plans (workspace_id, created_by) values (1, 1) returning id',
      [],
      { transaction },
    );
    for (const [table, columns] of Object.entries(TABLES)) {
      const numbered = (lines[table] ?? []).map((line) => `${plan?.id}\t${line}`);
      await copyInto(transaction, table, ['plan_id', ...columns.split(', ')], numbered);
    }
  });
}
