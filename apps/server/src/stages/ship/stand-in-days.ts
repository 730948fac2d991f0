import type { Advertiser, Cell, DayOfAccount, TrafficDay } from '@sprig/market';
import type { Transaction } from 'sequelize';
import { select } from '../../db/connect.ts';
import { keepRow } from '../../db/rows.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { pack, unpack } from '../../platform/packing.ts';

/** A cell as a list, since names would be most of what is kept. */
const packed = (cell: Cell) => [
  cell.row,
  cell.term,
  cell.ad,
  cell.network === 'partners' ? 1 : 0,
  cell.impressions,
  cell.clicks,
  cell.cost,
  Math.round(cell.position * 100),
  cell.delays,
  cell.worth,
  cell.eligible,
  cell.lostBudget,
  cell.lostRank,
];
type Packed = [
  number,
  string,
  number,
  number,
  number,
  number,
  number,
  number,
  number[],
  number,
  number,
  number,
  number,
];

const unpacked = ([
  row,
  term,
  ad,
  partners,
  impressions,
  clicks,
  cost,
  position,
  delays,
  worth,
  ...rest
]: Packed): Cell => ({
  row,
  term,
  ad,
  network: partners === 1 ? 'partners' : 'search',
  impressions,
  clicks,
  cost,
  position: position / 100,
  delays,
  worth,
  eligible: rest[0],
  lostBudget: rest[1],
  lostRank: rest[2],
});

type Body = { advertiser: Advertiser | null; cells: Packed[] };

/** Keeps a day; the account stands with the first of its run. */
export async function keepDay(
  caller: PlanCaller,
  transaction: Transaction,
  outlet: string,
  run: string,
  { day, cells }: TrafficDay,
  advertiser: Advertiser,
): Promise<void> {
  const body = { advertiser: day === run ? advertiser : null, cells: cells.map(packed) };
  const data = await pack(JSON.stringify(body));
  await keepRow(caller, 'stand_in_days', { outlet, day, run, data }, transaction);
}

/** From which day to which an account has run. */
export async function daysRun(
  { database, plan, workspace }: PlanCaller,
  outlet: string,
): Promise<{ from: string; to: string; days: number } | null> {
  const [found] = await select<{ from: string | null; to: string | null; days: number }>(
    database,
    `select min(day)::text as "from", max(day)::text as "to", count(*)::int as days from stand_in_days
     where plan_id = $1 and workspace_id = $2 and outlet = $3`,
    [plan, workspace, outlet],
  );
  return found?.from && found.to ? { from: found.from, to: found.to, days: found.days } : null;
}

/** The days of each run, with the account as it was then. */
export async function* runsOf(
  { database, plan, workspace }: PlanCaller,
  outlet: string,
): AsyncGenerator<DayOfAccount> {
  const days = await select<{ day: string }>(
    database,
    `select day::text as day from stand_in_days where plan_id = $1 and workspace_id = $2 and outlet = $3 order by stand_in_days.day`,
    [plan, workspace, outlet],
  );
  let advertiser: Advertiser | null = null;
  for (const { day } of days) {
    const [row] = await select<{ data: Buffer }>(
      database,
      'select data from stand_in_days where plan_id = $1 and outlet = $2 and day = $3',
      [plan, outlet, day],
    );
    if (!row) continue;
    const body = JSON.parse((await unpack(row.data)).toString('utf8')) as Body;
    advertiser = body.advertiser ?? advertiser;
    if (advertiser) yield { advertiser, day: { day, cells: body.cells.map(unpacked) } };
  }
}
