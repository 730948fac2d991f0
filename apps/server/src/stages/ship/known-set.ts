import {
  type Known,
  KnownReader,
  KnownRows,
  type PackedRows,
  type ToldValues,
  toldValues,
} from '@sprig/core/sheets';
import type { Transaction } from 'sequelize';
import { execute, select } from '../../db/connect.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { unpack } from '../../platform/packing.ts';
import { FileStore } from './file-store.ts';
import type { Moment } from './moment.ts';
import type { LastSet } from './receipts.ts';

type ShippedSet = Pick<LastSet, 'id' | 'profile' | 'told'>;

/** What the cells of a set's rows stand for. Before it was kept, no sheet told a final URL of keywords, or settings of ad groups. */
function toldBy({ told, profile }: ShippedSet): ToldValues {
  if (told) return told;
  const values = toldValues(profile);
  return {
    ...values,
    keyword: values.keyword.filter((value) => value !== 'final-url'),
    group: values.group.filter((value) => value !== 'rotation' && value !== 'match-setting'),
  };
}

/** One part after another of what an outlet has by a set; each ends with a row. The next is fetched and unpacked while one is read. */
async function eachPart(
  { database }: PlanCaller,
  { id }: ShippedSet,
  transaction: Transaction | null,
  parts: Iterable<number>,
  each: (text: string, part: number) => void,
): Promise<void> {
  const decoder = new TextDecoder();
  const order = parts[Symbol.iterator]();
  const fetched = async (): Promise<{ n: number; data: Buffer } | null> => {
    const { value: n, done } = order.next();
    if (done) return null;
    const [row] = await select<{ data: Buffer }>(
      database,
      'select data from outlet_states where set_id = $1 and n = $2',
      [id, n],
      { transaction },
    );
    return row ? { n, data: await unpack(row.data) } : null;
  };
  let next = fetched();
  for (let part = await next; part; part = await next) {
    next = fetched();
    // Told when it is waited for.
    next.catch(() => {});
    each(decoder.decode(part.data), part.n);
  }
}

function* counting(): Generator<number> {
  for (let n = 0; ; n++) yield n;
}

/** All rows that an outlet has by a set, its cells in the order in which `values` are told now. */
async function eachKnown(
  caller: PlanCaller,
  set: ShippedSet,
  values: ToldValues,
  transaction: Transaction | null,
  each: (key: string, known: string, part: number) => void,
): Promise<void> {
  let at = 0;
  const reader = new KnownReader(toldBy(set), values, (key, known) => each(key, known, at));
  await eachPart(caller, set, transaction, counting(), (text, part) => {
    at = part;
    reader.take(text);
  });
}

/** All that an outlet has by a set. */
export async function knownBy(
  caller: PlanCaller,
  set: ShippedSet | null,
  values: ToldValues,
  transaction: Transaction | null,
): Promise<Known> {
  const known: Known = new Map();
  if (set) await eachKnown(caller, set, values, transaction, (key, row) => known.set(key, row));
  return known;
}

/** What an outlet has, to be compared with: little of it in memory; rows of some numbers, rising, are read again where more is needed. */
export type KnownSet = {
  rows: KnownRows;
  again: (rows: Uint32Array, each: (key: string, known: string) => void) => Promise<void>;
};

/** What an outlet has by a set. What it takes to compare with it is kept once it was worked out, so that it is not again. */
export async function knownSet(
  caller: PlanCaller,
  set: LastSet | null,
  values: ToldValues,
  { reading, writing }: Pick<Moment, 'reading' | 'writing'>,
): Promise<KnownSet> {
  if (!set) return nothingKnown();
  const order = JSON.stringify(values);
  const kept = await keptRows(caller, set, order, reading);
  const rows = kept ?? new KnownRows();
  if (!kept) {
    await eachKnown(caller, set, values, reading, (key, known, part) => rows.add(key, known, part));
    await keepRows(caller, set, order, rows, writing);
  }
  return {
    rows,
    again: (wanted, each) => readAgain(caller, set, values, reading, rows.starts, wanted, each),
  };
}

/** Reads rows again, and no more parts than they stand in. */
async function readAgain(
  caller: PlanCaller,
  set: ShippedSet,
  values: ToldValues,
  transaction: Transaction,
  starts: readonly number[],
  wanted: Uint32Array,
  each: (key: string, known: string) => void,
): Promise<void> {
  const reader = new KnownReader(toldBy(set), values, each);
  let place = 0;
  function* parts(): Generator<number> {
    for (let part = 0, at = 0; part < starts.length; part++) {
      const end = starts[part + 1] ?? Number.POSITIVE_INFINITY;
      if (at >= wanted.length || (wanted[at] as number) >= end) continue;
      while (at < wanted.length && (wanted[at] as number) < end) at++;
      yield part;
    }
  }
  await eachPart(caller, set, transaction, parts(), (text, part) => {
    place = reader.pick(text, starts[part] as number, wanted, place);
  });
}

export const nothingKnown = (): KnownSet => ({ rows: new KnownRows(), again: async () => {} });

/** As many bytes go to the database at once. */
const KEPT_BYTES = 4_194_304;

/** The rows of a set as numbers, where they were kept and its cells stand in the same order. */
async function keptRows(
  { database }: PlanCaller,
  { id }: ShippedSet,
  order: string,
  transaction: Transaction,
): Promise<KnownRows | null> {
  const [head] = await select<Pick<PackedRows, 'campaigns' | 'starts'>>(
    database,
    'select campaigns, starts from known_sets where set_id = $1 and told = $2',
    [id, order],
    { transaction },
  );
  if (!head) return null;
  const parts = await select<{ data: Buffer }>(
    database,
    'select data from known_rows where set_id = $1 order by n',
    [id],
    { transaction },
  );
  return KnownRows.unpack({
    ...head,
    rows: Buffer.concat(parts.map(({ data }) => data)),
  });
}

/** Only the set that an outlet's rows are compared with is kept so, and only while nothing else has become of it. */
async function keepRows(
  { database, plan }: PlanCaller,
  { id, judged }: LastSet,
  order: string,
  known: KnownRows,
  transaction: Transaction,
): Promise<void> {
  const run = (sql: string, bind: unknown[]) => execute(database, sql, bind, { transaction });
  const [still] = await select(
    database,
    'select 1 as one from sheet_sets where id = $1 and judged = $2 for share',
    [id, judged],
    { transaction },
  );
  if (!still) return;
  const { campaigns, starts, rows } = known.pack();
  await run(
    `delete from known_sets where set_id in (select id from sheet_sets where plan_id = $1
       and outlet = (select outlet from sheet_sets where id = $2))`,
    [plan, id],
  );
  await run('insert into known_sets (set_id, told, campaigns, starts) values ($1, $2, $3, $4)', [
    id,
    order,
    JSON.stringify(campaigns),
    starts,
  ]);
  for (let from = 0, n = 0; from < rows.length; from += KEPT_BYTES, n++)
    await run('insert into known_rows (set_id, n, data) values ($1, $2, $3)', [
      id,
      n,
      Buffer.from(rows.subarray(from, from + KEPT_BYTES)),
    ]);
}

/** What is kept of a set was worked out of what the outlet had before. */
export const forgetKnown = ({ database }: PlanCaller, set: string, transaction: Transaction): Promise<void> =>
  execute(database, 'delete from known_sets where set_id = $1', [set], { transaction });

/** Where what an outlet has by a set is kept: as plain UTF-8, whatever its sheets are; rows are added whole, and so no part ends within one. `run` writes within a transaction. */
export const stateStore = (set: string, run: (sql: string, bind: unknown[]) => Promise<void>): FileStore =>
  new FileStore(
    { encoding: 'utf-8', byteOrderMark: false },
    'csv',
    (n, data) => run('insert into outlet_states (set_id, n, data) values ($1, $2, $3)', [set, n, data]),
    false,
  );
