import { hashOf } from '@sprig/core/text';
import type { Transaction } from 'sequelize';
import type { PlanCaller } from '../caller.ts';
import { execute, select } from '../database/connect.ts';
import { type Column, copyInto, copyLine } from '../database/copy.ts';

export type DerivedTable = {
  name: 'ad_groups' | 'keyword_rows' | 'outlet_groups' | 'ads';
  /** Set where a plan's rows stand once per outlet. */
  outlet: string | null;
  columns: readonly Column[];
};

export type DerivedRow = { key: string; values: readonly unknown[] };

/** Positions above `after`, up to `to`. */
export type Range = { after: number; to: number };

/**
 * Makes a derived table's rows within a range of positions be exactly `rows`, and writes only those that differ: a
 * rebuild after a small edit costs a read of the hashes and a handful of rows. O(rows).
 */
export async function replaceRows(
  caller: PlanCaller,
  transaction: Transaction,
  table: DerivedTable,
  rows: readonly DerivedRow[],
  { after, to }: Range,
): Promise<{ written: number; removed: number }> {
  const scope = `plan_id = $1 and position > $2 and position <= $3${table.outlet === null ? '' : ' and outlet = $4'}`;
  const bind = [caller.plan, after, to, ...(table.outlet === null ? [] : [table.outlet])];
  const there = await hashes(caller, transaction, table.name, scope, bind);
  const outlet = table.outlet === null ? '' : `\t${table.outlet}`;
  const prefix = `${caller.plan}\t${caller.workspace}${outlet}\t`;
  const lines: string[] = [];
  const stale: string[] = [];
  for (const { key, values } of rows) {
    const text = copyLine(table.columns, values);
    const hash = hashOf(text);
    const known = there.get(key);
    if (known !== undefined) there.delete(key);
    if (known === hash) continue;
    if (known !== undefined) stale.push(key);
    lines.push(`${prefix}${key}\t${hash}\t${text}`);
  }
  const gone = [...there.keys()];
  await removeKeys(caller, transaction, table.name, scope, bind, stale.concat(gone));
  if (lines.length > 0) {
    const names = ['plan_id', 'workspace_id', ...(table.outlet === null ? [] : ['outlet']), 'key', 'hash'];
    await copyInto(transaction, table.name, [...names, ...table.columns.map(({ name }) => name)], lines);
  }
  return { written: lines.length, removed: gone.length };
}

async function hashes(
  { database }: PlanCaller,
  transaction: Transaction,
  name: string,
  scope: string,
  bind: unknown[],
): Promise<Map<string, number>> {
  const rows = await select<{ key: string; hash: number }>(
    database,
    `select key, hash from ${name} where ${scope}`,
    bind,
    {
      transaction,
    },
  );
  return new Map(rows.map(({ key, hash }) => [key, hash]));
}

async function removeKeys(
  { database }: PlanCaller,
  transaction: Transaction,
  name: string,
  scope: string,
  bind: unknown[],
  keys: string[],
): Promise<void> {
  if (keys.length === 0) return;
  await execute(
    database,
    `delete from ${name} where ${scope} and key = any($${bind.length + 1}::text[])`,
    [...bind, keys],
    {
      transaction,
    },
  );
}
