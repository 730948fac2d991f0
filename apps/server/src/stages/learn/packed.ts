import {
  type FactColumns,
  type OpenFacts,
  openFacts,
  PlaceList,
  type PlacePart,
  packFacts,
} from '@sprig/core/learn';
import type { Transaction } from 'sequelize';
import { execute, select } from '../../db/connect.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { SprigFailure } from '../../platform/failure.ts';
import { pack, unpack } from '../../platform/packing.ts';

type Table = 'report_parts' | 'report_places';
const OF: Record<Table, string> = { report_parts: 'reading', report_places: 'series' };

async function keep(
  { database, plan, workspace }: PlanCaller,
  transaction: Transaction,
  table: Table,
  of: string,
  data: Buffer,
): Promise<void> {
  await execute(
    database,
    `insert into ${table} (plan_id, workspace_id, ${OF[table]}, n, data)
     select $1, $2, $3, coalesce(max(n) + 1, 0), $4 from ${table} where plan_id = $1 and ${OF[table]} = $3`,
    [plan, workspace, of, data],
    { transaction },
  );
}

/** Parts one after another: the next is fetched while one is worked through, so that no more than two are held. */
async function* partsOf(
  { database, plan, workspace }: PlanCaller,
  transaction: Transaction | null,
  table: Table,
  of: string,
): AsyncGenerator<Buffer> {
  const fetched = async (n: number): Promise<Buffer | null> => {
    const [part] = await select<{ data: Buffer }>(
      database,
      `select data from ${table} where plan_id = $1 and workspace_id = $2 and ${OF[table]} = $3 and n = $4`,
      [plan, workspace, of, n],
      { transaction },
    );
    return part ? unpack(part.data) : null;
  };
  let next = fetched(0);
  for (let n = 1; ; n++) {
    const part = await next;
    if (!part) return;
    next = fetched(n);
    // Told when it is waited for.
    next.catch(() => {});
    yield part;
  }
}

export const keepFacts = async (
  caller: PlanCaller,
  transaction: Transaction,
  reading: string,
  facts: FactColumns,
): Promise<void> => keep(caller, transaction, 'report_parts', reading, await pack(packFacts(facts)));

const unsound = () =>
  new SprigFailure(
    'invalid',
    'Rows of a report that was taken in can’t be read: what is kept of it is damaged. Take the report back and bring it in again.',
  );

/** The rows of a reading, part by part. */
export async function* factsOf(
  caller: PlanCaller,
  reading: string,
  transaction: Transaction | null = null,
): AsyncGenerator<OpenFacts> {
  for await (const data of partsOf(caller, transaction, 'report_parts', reading)) {
    try {
      yield openFacts(data);
    } catch (error) {
      throw error instanceof RangeError ? unsound() : error;
    }
  }
}

/** What rows of a series are of. */
export async function placesOf(
  caller: PlanCaller,
  series: string,
  transaction: Transaction | null = null,
): Promise<PlaceList> {
  const list = new PlaceList();
  for await (const data of partsOf(caller, transaction, 'report_places', series)) {
    let part: PlacePart;
    try {
      part = JSON.parse(data.toString('utf8')) as PlacePart;
    } catch {
      throw unsound();
    }
    list.load(part);
  }
  return list;
}

/** Keeps what of a list is new, or known anew. */
export async function keepPlaces(
  caller: PlanCaller,
  transaction: Transaction,
  series: string,
  list: PlaceList,
): Promise<void> {
  const part = list.part();
  if (part) await keep(caller, transaction, 'report_places', series, await pack(JSON.stringify(part)));
}
