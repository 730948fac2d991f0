import {
  type Look,
  type LookAnswer,
  type LookRow,
  MOST_POINTS,
  type readLookNames,
  type readLookPoints,
} from '@sprig/contracts';
import {
  addedTimes,
  askedBy,
  byFigure,
  type CountedFigure,
  countedFigures,
  type Dimension,
  daysOf,
  dispersionOf,
  type FactTable,
  type GrainFound,
  type GroupSums,
  grainCode,
  groupPlaces,
  groupsThat,
  groupTimes,
  type LookGrouping,
  notBrokenDown,
  type PlaceGroups,
  placesThat,
  type ResultFigure,
  resultFigures,
  sumPlaces,
  sumTimes,
  type Time,
} from '@sprig/core/learn';
import { hashOf, normalise } from '@sprig/core/text';
import type { z } from 'zod';
import type { PlanCaller } from '../../platform/caller.ts';
import { KeptFew } from '../../platform/kept-few.ts';
import { type Account, accountFor, againstOf, daysIn, findGrain, forgetSeries, rangesOf } from './account.ts';
import { forgetAdTests } from './ad-tests.ts';
import { forgetBids } from './bids.ts';
import { budgetsIn } from './budgets.ts';
import { forgetVerdicts } from './judged.ts';
import { markedDays } from './marked-days.ts';
import { forgetResults } from './results.ts';
import { forgetTerms } from './terms.ts';
import { ofToday, planStamp, todayOf } from './today.ts';

/** Looks that are kept in mind. */
const sumsKept = new KeptFew<Summed>(8);

/** As in a process that nobody has looked at anything in yet. */
export function forgetLooks(): void {
  forgetSeries();
  forgetResults();
  forgetAdTests();
  forgetBids();
  forgetVerdicts();
  forgetTerms();
  sumsKept.clear();
}

/** What a look adds up, whatever its conditions on figures and its order. */
type Summed = {
  head: LookAnswer;
  /** The finest name of each group first. */
  names: readonly (readonly string[])[];
  sums: GroupSums | null;
  before: GroupSums | null;
};

/** Whatever a look tells apart or keeps by. */
const askedOf = (asked: Look): ReadonlySet<Dimension> =>
  new Set([...namedIn(asked)].flatMap((one) => askedBy[one]));

/** Groupings that it goes by. */
const namedIn = ({ by, names }: Look): ReadonlySet<LookGrouping> =>
  new Set([by, ...names.map((one) => one.by)]);

const isTime = (by: LookGrouping): by is 'day' | 'weekday' => by === 'day' || by === 'weekday';

const nobody: LookAnswer = {
  account: null,
  told: null,
  range: null,
  against: null,
  grain: null,
  why: { none: 'reports' },
  days: null,
  daysBefore: null,
  all: 0,
  order: [],
  totals: [],
  totalsBefore: null,
  dispersion: null,
  notBrokenDown: null,
  stamp: '',
};
const nothing = { names: [], sums: null, before: null };

async function summed(caller: PlanCaller, asked: Look): Promise<Summed> {
  const account = await accountFor(caller, asked.account);
  if (!account) return { head: nobody, ...nothing };
  const { figures: _, sort: __, down: ___, ...adds } = asked;
  const stamp = `${account.stamp}/${[...namedIn(asked)].some((one) => ofToday.has(one)) ? await planStamp(caller) : ''}/${JSON.stringify(adds)}`;
  return sumsKept.of(stamp, () => sumUp(account, asked, String(hashOf(stamp))));
}

async function sumUp(account: Account, asked: Look, stamp: string): Promise<Summed> {
  const { by, names } = asked;
  const dimensions = askedOf(asked);
  const { range, found, why } = findGrain(
    account.onHand,
    dimensions,
    isTime(by),
    rangesOf(asked, account.told),
  );
  const against = againstOf(asked, range);
  const head = {
    ...nobody,
    account: account.account,
    told: daysIn(account.told),
    range: daysIn(range),
    against: against && daysIn(against),
    why,
    stamp,
  };
  if (!found) return { head, ...nothing };
  const { places, table } = await account.series(found);
  const today = await todayOf(account.caller, namedIn(asked));
  const kept = placesThat(places, names, today);
  const groups = isTime(by) ? groupTimes(table, by) : groupPlaces(places, by, today);
  const sum = (times: GrainFound['times']) => {
    const adding = { added: addedTimes(table, places.campaigns, times), places: kept };
    return isTime(by)
      ? sumTimes(table, adding, groups as ReturnType<typeof groupTimes>)
      : sumPlaces(table, { ...adding, groups: groups as PlaceGroups });
  };
  const sums = sum(found.times);
  // The same grain, or none: two grains tell the same clicks otherwise.
  const same = account.onHand.filter(({ grain }) => grainCode(grain) === grainCode(found.grain));
  const then = against && by !== 'day' ? findGrain(same, dimensions, isTime(by), [against]).found : null;
  const before = then ? sum(then.times) : null;
  const all = groupsThat(sums, []);
  return {
    head: {
      ...head,
      grain: grainCode(found.grain),
      days: found.days,
      daysBefore: then?.days ?? null,
      dispersion: before && found.grain.step === 'day' ? dispersionIn(table, sums, range) : null,
      all: all.length,
      notBrokenDown: await restOf(account, asked, found, range, sums.together(all)),
    },
    names: isTime(by)
      ? (groups as ReturnType<typeof groupTimes>).names.map((name) => [name])
      : (groups as PlaceGroups).names,
    sums,
    before,
  };
}

/** How much counts of a group vary from day to day. */
function dispersionIn(table: FactTable, sums: GroupSums, range: Time): LookAnswer['dispersion'] {
  const days = daysOf(range);
  const dayOf = Int32Array.from(table.times, ({ from, to }) =>
    from === to && from >= range.from && to <= range.to ? from - range.from : -1,
  );
  const of = (figure: CountedFigure) => dispersionOf(table, figure, sums.groupOf, sums.groups, dayOf, days);
  return { impressions: of('impressions'), clicks: of('clicks'), conversions: of('conversions') };
}

/**
 * What campaigns' own rows have beyond those that break them down. Known only where the campaigns are told by themselves, for
 * the same days.
 */
async function restOf(
  account: Account,
  { names }: Look,
  found: GrainFound,
  range: Time,
  parts: readonly (number | null)[],
): Promise<(number | null)[] | null> {
  if (found.grain.level === 'campaign' || names.some(({ by }) => by !== 'campaign')) return null;
  const own = account.onHand.filter(({ grain }) => grain.level === 'campaign' && grain.splits.length === 0);
  const whole = findGrain(own, new Set(['campaign']), false, [range]).found;
  if (!whole || !covers(whole, found)) return null;
  const { places, table } = await account.series(whole);
  const today = await todayOf(account.caller, new Set());
  const kept = placesThat(places, names, today);
  const groups = groupPlaces(places, 'campaign', today);
  const sums = sumPlaces(table, {
    added: addedTimes(table, places.campaigns, whole.times),
    places: kept,
    groups,
  });
  const rest = notBrokenDown(toldBy(sums.together(groupsThat(sums, []))), toldBy(parts));
  return countedFigures.map((name) => rest[name]);
}

const toldBy = (figures: readonly (number | null)[]) => ({
  figure: (name: ResultFigure) => figures[resultFigures.indexOf(name)] ?? null,
});

/** Whether both tell the same number of days of each campaign that the finer one knows. */
function covers(whole: GrainFound, found: GrainFound): boolean {
  const days = (times: readonly Time[] = []) => times.reduce((sum, time) => sum + daysOf(time), 0);
  return [...found.times].every(([campaign, times]) => days(whole.times.get(campaign)) === days(times));
}

/** The groups that meet a look's conditions on figures, in its order. */
const orderOf = (sums: GroupSums, { figures, sort, down }: Look): number[] =>
  byFigure(sums, groupsThat(sums, figures), sort, down);

export async function lookAt(caller: PlanCaller, asked: Look): Promise<LookAnswer> {
  const { head, sums, before } = await summed(caller, asked);
  if (!sums) return head;
  const order = orderOf(sums, asked);
  const isNarrowed = asked.figures.length > 0;
  return {
    ...head,
    order,
    totals: sums.together(order),
    totalsBefore: before?.together(isNarrowed ? order : groupsThat(before, [])) ?? null,
    notBrokenDown: isNarrowed ? null : head.notBrokenDown,
  };
}

export async function lookRows(caller: PlanCaller, asked: Look, rows: readonly number[]): Promise<LookRow[]> {
  const { names, sums, before } = await summed(caller, asked);
  return rows.flatMap((n) => {
    const own = names[n];
    if (!own || !sums) return [];
    return [{ n, names: [...own], figures: sums.figures(n), before: before?.figures(n) ?? null }];
  });
}

type Points = z.output<(typeof readLookPoints)['answer']>;

/** The groups of a look by two figures and a size, the largest first. */
export async function lookPoints(
  caller: PlanCaller,
  { look: asked, x, y, size }: z.output<(typeof readLookPoints)['body']>,
): Promise<Points> {
  const { names, sums } = await summed(caller, asked);
  const points: Points = { n: [], x: [], y: [], size: [], names: [], impressions: [], clicks: [], of: 0 };
  if (!sums) return points;
  const drawn = orderOf(sums, asked).flatMap((n) => {
    const [left, up] = [sums.figure(x, n), sums.figure(y, n)];
    return left === null || up === null ? [] : [{ n, left, up, large: sums.figure(size, n) ?? 0 }];
  });
  points.of = drawn.length;
  drawn.sort((a, b) => b.large - a.large);
  for (const { n, left, up, large } of drawn.slice(0, MOST_POINTS)) {
    points.n.push(n);
    points.x.push(left);
    points.y.push(up);
    points.size.push(large);
    points.impressions.push(sums.figure('impressions', n) ?? 0);
    points.clicks.push(sums.figure('clicks', n) ?? 0);
    points.names.push(names[n]?.[0] ?? '');
  }
  return points;
}

/** What a look has looked at, day by day: only groups that meet its conditions on figures. */
export async function lookDays(caller: PlanCaller, asked: Look) {
  const account = await accountFor(caller, asked.account);
  if (!account) return { days: [], marks: [], budget: null, why: { none: 'reports' } as const };
  const ranges = rangesOf(asked, account.told);
  const { found, why, range } = findGrain(account.onHand, askedOf(asked), true, ranges);
  if (!found) return { days: [], marks: [], budget: null, why };
  const { places, table } = await account.series(found);
  const { by, names, figures } = asked;
  const today = await todayOf(caller, namedIn(asked));
  const kept = placesThat(places, names, today);
  const added = addedTimes(table, places.campaigns, found.times);
  if (figures.length > 0 && !isTime(by)) {
    const groups = groupPlaces(places, by, today);
    const meet = new Set(groupsThat(sumPlaces(table, { added, places: kept, groups }), figures));
    for (let place = 0; place < kept.length; place++)
      if (!meet.has(groups.of[place] as number)) kept[place] = 0;
  }
  const byDay = groupTimes(table, 'day');
  const sums = sumTimes(table, { added, places: kept }, byDay);
  return {
    days: groupsThat(sums, [])
      .map((group) => ({ day: byDay.names[group] ?? '', figures: sums.figures(group) }))
      .sort((a, b) => (a.day < b.day ? -1 : 1)),
    marks: await markedDays(caller, account.account, daysIn(range)),
    budget: await budgetOf(account, asked),
    why: null,
  };
}

/** What whole campaigns may spend and have spent; null where a look is of parts of them. */
async function budgetOf(account: Account, { names, figures }: Look) {
  if (figures.length > 0 || names.some(({ by }) => by !== 'campaign')) return null;
  const { rows, month } = await budgetsIn(account);
  const wanted = names.map(({ is }) => normalise(is));
  const own = rows.filter(({ name }) => wanted.every((one) => normalise(name) === one));
  if (!month || own.length === 0 || own.some(({ budget }) => budget === null)) return null;
  const sum = (of: (row: (typeof own)[number]) => number) => own.reduce((all, row) => all + of(row), 0);
  return { daily: sum(({ budget }) => budget ?? 0), spent: sum((row) => row.month), ...month };
}

const MOST_NAMES = 50;

/** Names that a look can be narrowed to. */
export async function lookNames(
  caller: PlanCaller,
  { account: code, by, like }: z.output<(typeof readLookNames)['body']>,
): Promise<{ names: string[] }> {
  const account = await accountFor(caller, code);
  if (!account) return { names: [] };
  const { found } = findGrain(account.onHand, new Set(askedBy[by]), false, [account.told]);
  if (!found) return { names: [] };
  const { places } = await account.series(found);
  const groups = groupPlaces(places, by, await todayOf(caller, new Set([by])));
  const wanted = normalise(like);
  const names = new Set<string>();
  for (const [name = ''] of groups.names) {
    if (name === '' || !normalise(name).includes(wanted)) continue;
    names.add(name);
    if (names.size === MOST_NAMES) break;
  }
  return { names: [...names] };
}
