import { hashOf } from '@sprig/core/text';
import type { Transaction } from 'sequelize';
import { execute, select } from '../../db/connect.ts';
import { copyInto, copyLine } from '../../db/copy.ts';
import type { Column } from '../../db/tables/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';

export type DerivedTable = {
  name: 'campaigns' | 'ad_groups' | 'keyword_rows' | 'outlet_groups' | 'ads' | 'fences';
  /** Set where a plan's rows stand once per outlet. */
  outlet: string | null;
  columns: readonly Column[];
  /** The column by which the rows of a page are found: their own key, or that of their ad group; null: all rows. */
  by: 'key' | 'group_key' | null;
  /** A column of which it is counted how often it changes. */
  counted?: string;
};

export type DerivedRow = { key: string; values: readonly unknown[] };

/** Rows written in all, and among them new ones and those whose counted column changed; rows that went. */
export type Replaced = { written: number; fresh: number; changed: number; removed: number };

/**
 * Makes the rows of a page of ad groups be exactly `rows`, and writes only those that differ: a rebuild after a small
 * edit costs a read of the hashes and a handful of rows. A row that comes from a group outside of the page is taken
 * from there. O(rows).
 */
export async function replaceRows(
  caller: PlanCaller,
  transaction: Transaction,
  table: DerivedTable,
  rows: readonly DerivedRow[],
  groups: readonly string[],
): Promise<Replaced> {
  const { outlet, columns, counted } = table;
  const there = await rowsThere(caller, transaction, table, rows, groups);
  const inCopy = outlet === null ? '' : `\t${outlet}`;
  const prefix = `${caller.plan}\t${caller.workspace}${inCopy}\t`;
  const at = counted === undefined ? -1 : columns.findIndex(({ name }) => name === counted);
  const lines: string[] = [];
  const stale: string[] = [];
  let fresh = 0;
  let changed = 0;
  for (const { key, values } of rows) {
    const text = copyLine(columns, values);
    const hash = hashOf(text);
    const known = there.get(key);
    if (known !== undefined) there.delete(key);
    if (known?.hash === hash) continue;
    if (known === undefined) fresh++;
    else {
      stale.push(key);
      if (at >= 0 && known.counted !== values[at]) changed++;
    }
    lines.push(`${prefix}${key}\t${hash}\t${text}`);
  }
  const gone = [...there.keys()];
  await removeKeys(caller, transaction, table, stale.concat(gone));
  if (lines.length > 0) {
    const names = ['plan_id', 'workspace_id', ...(outlet === null ? [] : ['outlet']), 'key', 'hash'];
    await copyInto(transaction, table.name, [...names, ...columns.map(({ name }) => name)], lines);
  }
  return { written: lines.length, fresh, changed, removed: gone.length };
}

type Known = { key: string; hash: number; counted?: unknown };

/** What stands there: the rows of the page's groups, and wherever they stand those that the page has now. */
async function rowsThere(
  { database, plan }: PlanCaller,
  transaction: Transaction,
  { name, outlet, by, counted }: DerivedTable,
  rows: readonly DerivedRow[],
  groups: readonly string[],
): Promise<Map<string, Known>> {
  const columns = `key, hash${counted === undefined ? '' : `, ${counted} as counted`}`;
  const read = (where: string, bind: unknown[]) =>
    select<Known>(
      database,
      `select ${columns} from ${name} where plan_id = $1${outlet === null ? '' : ' and outlet = $2'}${where}`,
      [plan, ...(outlet === null ? [] : [outlet]), ...bind],
      { transaction },
    );
  const place = outlet === null ? '$2' : '$3';
  if (by === null) return byKey(await read('', []));
  const known = byKey(await read(` and ${by} = any(${place}::text[])`, [groups]));
  if (by === 'key') return known;
  const missing = rows.filter(({ key }) => !known.has(key)).map(({ key }) => key);
  if (missing.length > 0)
    for (const row of await read(` and key = any(${place}::text[])`, [missing])) known.set(row.key, row);
  return known;
}

const byKey = (rows: readonly Known[]) => new Map(rows.map((row) => [row.key, row]));

async function removeKeys(
  { database, plan }: PlanCaller,
  transaction: Transaction,
  { name, outlet }: DerivedTable,
  keys: readonly string[],
): Promise<void> {
  if (keys.length === 0) return;
  await execute(
    database,
    `delete from ${name} where plan_id = $1 and key = any($2::text[])${outlet === null ? '' : ' and outlet = $3'}`,
    [plan, keys, ...(outlet === null ? [] : [outlet])],
    { transaction },
  );
}
