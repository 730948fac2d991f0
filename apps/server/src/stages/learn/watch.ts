import {
  type Facts,
  type readSellers,
  type readUnlikeDays,
  type Seller,
  type SellersBy,
  type UnlikeDayRow,
  type UnlikeFigure,
  unlikeFigures,
} from '@sprig/contracts';
import { deviceAdjustment, deviceNamed, unlikeDays } from '@sprig/core/judge';
import {
  addedTimes,
  asDay,
  askedBy,
  daysOf,
  differMoreThanChance,
  type FactTable,
  groupPlaces,
  isoDay,
  sumPlaces,
  type Time,
} from '@sprig/core/learn';
import type { z } from 'zod';
import { planFacts } from '../../plan/plan-facts.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { aboutLook, accountFor, daysIn, findGrain, rangesOf } from './account.ts';
import { markedDays } from './marked-days.ts';
import { dayFrom, onlyUntil } from './met-sums.ts';
import { todayOf } from './today.ts';

const MILLION = 1_000_000;
/** Days that are judged, and those before them that they are held against. */
const JUDGED_DAYS = 28;
const BEFORE_DAYS = 56;
const nobody = { account: null, range: null, grain: null, why: { none: 'reports' } as const };

type Unlike = z.output<(typeof readUnlikeDays)['answer']>;

/** Days of the last four weeks on which campaigns had far more or far less than on the same weekdays before. */
export async function unlikeDaysOf(caller: PlanCaller, code: string | null): Promise<Unlike> {
  const account = await accountFor(caller, code);
  if (!account) return { ...nobody, days: [], silent: 0 };
  const { told } = account;
  const all: Time = {
    from: asDay(Math.max(told.from, told.to - JUDGED_DAYS - BEFORE_DAYS + 1)),
    to: told.to,
  };
  const { found, why } = findGrain(account.onHand, new Set(['campaign'] as const), true, [all]);
  const judged: Time = { from: asDay(Math.max(all.from, told.to - JUDGED_DAYS + 1)), to: told.to };
  const about = aboutLook(account, { range: judged, found, why });
  if (!found) return { ...about, days: [], silent: 0 };
  const { places, table } = await account.series(found);
  const added = addedTimes(table, places.campaigns, found.times);
  const called = places.campaignsAsWritten();
  const marks = await markedDays(caller, account.account, daysIn(judged));
  const labelsOf = new Map(marks.map(({ day, labels }) => [day, labels]));
  const days: UnlikeDayRow[] = [];
  let silent = 0;
  for (const figure of unlikeFigures) {
    // Conversions of the last days may still come.
    const to = figure === 'conversions' ? account.settledIn(told) : told.to;
    const series = seriesOf(table, added, figure, { from: all.from, to });
    if (!series) continue;
    if (figure === 'clicks') silent = series.filter((one) => !isLong(one)).length;
    const sums = [together(series), ...series];
    for (const { series: at, day, ...one } of unlikeDays(sums, judged.from - all.from)) {
      const iso = isoDay(asDay(all.from + day));
      const campaign = at === 0 ? null : (called[at - 1] ?? '');
      days.push({ ...one, day: iso, campaign, figure, labels: labelsOf.get(iso) ?? [] });
    }
  }
  days.sort((a, b) => (a.day < b.day ? 1 : -1) || (a.campaign ?? '').localeCompare(b.campaign ?? ''));
  return { ...about, days, silent };
}

/** Whether any of its days has four of the same weekdays before it. */
const isLong = (counts: Float64Array): boolean => {
  const first = counts.findIndex((one) => !Number.isNaN(one));
  return first >= 0 && counts.length - first > 4 * 7;
};

/** Counts of each campaign by day; a day before its first row is not told, one after it without a row is none. null where no report tells it. */
function seriesOf(
  table: FactTable,
  added: Uint8Array,
  figure: UnlikeFigure,
  { from, to }: Time,
): Float64Array[] | null {
  const column = table.figures[figure];
  if (!column || to < from) return null;
  const length = to - from + 1;
  const { campaigns } = table;
  const isTold = new Uint8Array(campaigns * length);
  table.times.forEach((time, at) => {
    if (daysOf(time) !== 1 || time.from < from || time.from > to) return;
    for (let campaign = 0; campaign < campaigns; campaign++)
      if (added[at * campaigns + campaign]) isTold[campaign * length + (time.from - from)] = 1;
  });
  const counts = Array.from({ length: campaigns }, () => new Float64Array(length));
  const first = new Float64Array(campaigns).fill(Number.POSITIVE_INFINITY);
  const unit = figure === 'conversions' ? MILLION : 1;
  for (let row = 0; row < table.rows; row++) {
    const at = table.time[row] as number;
    const time = table.times[at] as Time;
    const campaign = table.campaignOf[table.place[row] as number] as number;
    if (daysOf(time) !== 1 || time.from < from || time.from > to || !added[at * campaigns + campaign])
      continue;
    const day = time.from - from;
    const own = counts[campaign] as Float64Array;
    own[day] = (own[day] as number) + (column[row] || 0) / unit;
    first[campaign] = Math.min(first[campaign] as number, day);
  }
  return counts.map((own, campaign) =>
    own.map((count, day) =>
      isTold[campaign * length + day] && day >= (first[campaign] as number) ? count : Number.NaN,
    ),
  );
}

/** All campaigns that are told on a day; a day on which none is is not told. */
function together(series: readonly Float64Array[]): Float64Array {
  const sum = new Float64Array(series[0]?.length ?? 0).fill(Number.NaN);
  for (const counts of series)
    counts.forEach((count, day) => {
      if (!Number.isNaN(count)) sum[day] = (sum[day] || 0) + count;
    });
  return sum;
}

/** What sells, by what the plan says of keywords today or by match type, on days whose conversions count. */
export async function sellersOf(
  caller: PlanCaller,
  code: string | null,
  by: SellersBy,
): Promise<z.output<(typeof readSellers)['answer']>> {
  const account = await accountFor(caller, code);
  if (!account) return { ...nobody, settledTo: null, rows: [] };
  const ranges = rangesOf({ range: null }, account.told);
  const first = findGrain(account.onHand, new Set(askedBy[by]), false, ranges);
  const { range, found } = first;
  const settledTo = account.settledIn(range);
  const about = { ...aboutLook(account, first), settledTo: dayFrom(range, settledTo) };
  if (!found) return { ...about, rows: [] };
  const { places, table } = await account.series(found);
  const groups = groupPlaces(places, by, await todayOf(caller, new Set([by])));
  const added = onlyUntil(table, addedTimes(table, places.campaigns, found.times), settledTo);
  const sums = sumPlaces(table, { added, places: new Uint8Array(places.size).fill(1), groups });
  const facts = by === 'device' ? await planFacts(caller) : null;
  const rows = groups.keys.flatMap((_, group): Omit<Seller, 'than' | 'adjust'>[] => {
    if (!sums.has(group)) return [];
    const of = (name: 'clicks' | 'cost' | 'conversions' | 'value') => sums.figure(name, group) ?? 0;
    return [
      {
        name: groups.names[group]?.[0] ?? '',
        clicks: of('clicks'),
        cost: of('cost'),
        conversions: of('conversions') / MILLION,
        value: of('value'),
      },
    ];
  });
  const all = { clicks: 0, conversions: 0 };
  for (const { clicks, conversions } of rows) {
    all.clicks += clicks;
    all.conversions += conversions;
  }
  return {
    ...about,
    rows: rows
      .map((row) => {
        const than = against(row, all);
        const adjust = facts && than !== null && than !== 'alike' ? adjustmentOf(row, all, facts) : null;
        return { ...row, than, adjust };
      })
      .sort((a, b) => b.conversions - a.conversions || b.cost - a.cost),
  };
}

/** What the bids of a device would be adjusted by; null for what has no adjustment, or where it is so already. */
function adjustmentOf(
  { name, clicks, conversions }: Pick<Seller, 'name' | 'clicks' | 'conversions'>,
  all: { clicks: number; conversions: number },
  { devices, bids }: Facts,
): Seller['adjust'] {
  const device = deviceNamed(name);
  if (device === null) return null;
  const now = devices[device];
  const rate = Math.max(0, conversions) / clicks;
  const after = deviceAdjustment(rate, all.conversions / all.clicks, now, bids.most);
  return after === now ? null : { device, now, after };
}

/** Its rate of conversions against that of all others. */
function against(
  { clicks, conversions }: Pick<Seller, 'clicks' | 'conversions'>,
  all: { clicks: number; conversions: number },
): Seller['than'] {
  const own = { of: Math.max(0, Math.round(conversions)), all: clicks };
  const rest = { of: Math.max(0, Math.round(all.conversions - conversions)), all: all.clicks - clicks };
  const differs = differMoreThanChance(own, rest);
  if (differs === null) return null;
  if (!differs) return 'alike';
  return own.of / own.all > rest.of / rest.all ? 'better' : 'worse';
}
