import {
  type Comparison,
  compareFacts,
  type FactTable,
  FactTableBuilder,
  type PlaceList,
  StandingImports,
  type Time,
  timeKey,
  wholeFacts,
} from '@sprig/core/learn';
import type { Transaction } from 'sequelize';
import type { PlanCaller } from '../../platform/caller.ts';
import { timesOf } from './bodies.ts';
import type { StoredImport } from './imports-of-plan.ts';
import { factsOf, placesOf } from './packed.ts';

/** What stands of one account by one grain. */
export type Series = { places: PlaceList; table: FactTable; standing: StandingImports };

type Numbered = { times: Time[]; timeAt: Map<string, number> };

function timesIn(imports: readonly StoredImport[]): Numbered {
  const timeAt = new Map<string, number>();
  const times: Time[] = [];
  for (const { body } of imports)
    for (const time of timesOf(body.times)) {
      const key = timeKey(time);
      if (timeAt.has(key)) continue;
      timeAt.set(key, times.length);
      times.push(time);
    }
  return { times, timeAt };
}

const numbersOf = (body: StoredImport['body'], { timeAt }: Numbered): number[] =>
  timesOf(body.times).map((time) => timeAt.get(timeKey(time)) as number);

/** Puts together what stands of the imports of one series. Rows of imports that are replaced whole are not read. */
export async function readSeries(
  caller: PlanCaller,
  series: string,
  imports: readonly StoredImport[],
  transaction: Transaction | null = null,
): Promise<Series> {
  const places = await placesOf(caller, series, transaction);
  const numbered = timesIn(imports);
  for (const { body } of imports) for (const name of body.campaigns ?? []) places.campaignNumber(name);
  const campaigns = places.campaigns.length;
  const standing = new StandingImports(numbered.times.length, campaigns);
  for (const [nth, { body }] of imports.entries())
    standing.claim(
      nth,
      numbersOf(body, numbered),
      body.campaigns?.map((name) => places.campaignNumber(name)) ?? null,
    );
  const rows = imports.reduce((sum, { body }, nth) => sum + (standing.has(nth) ? body.rows : 0), 0);
  const builder = new FactTableBuilder(
    rows,
    numbered.times,
    Uint32Array.from(places.campaign),
    standing,
    campaigns,
  );
  for (const [nth, { body }] of imports.entries()) {
    if (!standing.has(nth)) continue;
    const timeOf = numbersOf(body, numbered);
    const own = body.campaigns?.map((name) => places.campaignNumber(name)) ?? null;
    const isWhole = standing.isWhole(nth, timeOf, own);
    for await (const part of factsOf(caller, body.reading, transaction))
      builder.add(nth, part, timeOf, isWhole);
  }
  return { places, table: builder.done(), standing };
}

/** What a reading speaks for. */
export type Speaking = {
  series: string;
  reading: string;
  times: readonly (readonly [number, number])[];
  /** null: the whole account. */
  campaigns: readonly string[] | null;
  rows: number;
};

/** What it would do to what stands of its series if a reading were taken in. */
export async function replacingOf(
  caller: PlanCaller,
  { series, reading, times, campaigns, rows }: Speaking,
  imports: readonly StoredImport[],
  transaction: Transaction | null = null,
): Promise<Comparison> {
  const said = timesOf(times);
  const keys = new Set(said.map(timeKey));
  const isHit = imports.some(
    ({ body }) =>
      timesOf(body.times).some((time) => keys.has(timeKey(time))) &&
      (campaigns === null ||
        body.campaigns === null ||
        body.campaigns.some((name) => campaigns.includes(name))),
  );
  if (!isHit) return { rows: 0, times: 0, campaigns: 0, added: rows, gone: 0, changed: 0 };
  const { table, places } = await readSeries(caller, series, imports, transaction);
  const timeAt = new Map(table.times.map((time, at) => [timeKey(time), at]));
  const timeOf = said.map((time, at) => timeAt.get(timeKey(time)) ?? table.times.length + at);
  const claimed = new Uint8Array(table.times.length * table.campaigns);
  const named = places.campaigns;
  const own = campaigns === null ? null : new Set(campaigns);
  for (const time of timeOf) {
    if (time >= table.times.length) continue;
    for (let campaign = 0; campaign < table.campaigns; campaign++)
      if (own === null || own.has(named[campaign] ?? '')) claimed[time * table.campaigns + campaign] = 1;
  }
  const parts = [];
  for await (const part of factsOf(caller, reading, transaction)) parts.push(wholeFacts(part));
  return compareFacts(table, claimed, parts, timeOf, places.size);
}

/** Of each import, how many times of campaigns it is the last to speak for, and of how many it speaks. */
export function standingCells(imports: readonly StoredImport[]): Map<number, { some: number; of: number }> {
  const found = new Map<number, { some: number; of: number }>();
  const bySeries = new Map<string, StoredImport[]>();
  for (const one of imports) bySeries.set(one.body.series, [...(bySeries.get(one.body.series) ?? []), one]);
  for (const own of bySeries.values()) {
    const last = new Map<string, number>();
    const campaigns = [...new Set(own.flatMap(({ body }) => body.campaigns ?? []))];
    const cells = ({ body }: StoredImport) =>
      body.times.flatMap((time) => (body.campaigns ?? campaigns).map((name) => `${time.join()} ${name}`));
    for (const one of own) for (const cell of cells(one)) last.set(cell, one.id);
    for (const one of own) {
      const all = cells(one);
      found.set(one.id, { some: all.filter((cell) => last.get(cell) === one.id).length, of: all.length });
    }
  }
  return found;
}
