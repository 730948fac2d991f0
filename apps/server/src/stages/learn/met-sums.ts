import type { JudgedBy } from '@sprig/contracts';
import {
  addedTimes,
  askedBy,
  type FactTable,
  type GrainFound,
  type GroupSums,
  isoDay,
  type PlaceList,
  sumPlaces,
  type Time,
} from '@sprig/core/learn';
import { type Account, aboutLook, findGrain, rangesOf } from './account.ts';
import { groupMet } from './results.ts';

const MET_AS = { keyword: 'row', group: 'group', ad: 'ad' } as const;

/** What reports tell of what stands in today's plan, over the last range. */
export type MetSums = {
  range: Time;
  found: GrainFound;
  places: PlaceList;
  table: FactTable;
  /** Of each place its group; 0 where it is nothing of today's plan. */
  groupOf: Int32Array;
  keys: readonly string[];
  /** Groups that anything is told of, and the first place of each. */
  numbers: readonly number[];
  firstPlace: Int32Array;
  sums: GroupSums;
  /** On days whose conversions count, until `settledTo`, and which times those are. */
  settled: GroupSums;
  settledTimes: Uint8Array;
  settledTo: Time['to'];
  /** Names that nothing in today's plan answers to. */
  notMet: number;
};

/** What is said of the days that were looked at, whatever they tell. */
export type AboutSums = ReturnType<typeof aboutLook> & { settledTo: string | null; notMet: number };

/** Adds up what is told of keyword rows, ad groups or ads; `met` is null where no report tells them apart. */
export async function metSums(
  account: Account,
  by: JudgedBy,
): Promise<{ about: AboutSums; met: MetSums | null }> {
  const ranges = rangesOf({ range: null }, account.told);
  const first = findGrain(account.onHand, new Set(askedBy[by]), false, ranges);
  const { range, found } = first;
  const about = { ...aboutLook(account, first), settledTo: null, notMet: 0 };
  if (!found) return { about, met: null };
  const { places, table } = await account.series(found);
  const { groups, numberOf } = groupMet(places, MET_AS[by]);
  const added = addedTimes(table, places.campaigns, found.times);
  const isMet = Uint8Array.from(groups.of, (group) => (group > 0 ? 1 : 0));
  const sums = sumPlaces(table, { added, places: isMet, groups });
  const settledTo = account.settledIn(range);
  const settledTimes = onlyUntil(table, added, settledTo);
  const met = {
    range,
    found,
    places,
    table,
    groupOf: groups.of,
    keys: groups.keys,
    numbers: [...numberOf.values()].filter((group) => sums.has(group)),
    firstPlace: firstPlaces(groups.of, groups.keys.length),
    sums,
    settled: sumPlaces(table, { added: settledTimes, places: isMet, groups }),
    settledTimes,
    settledTo,
    notMet: groups.of.reduce((all, group) => all + (group === 0 ? 1 : 0), 0),
  };
  return {
    about: { ...about, settledTo: dayFrom(range, settledTo), notMet: met.notMet },
    met,
  };
}

/** A day as it is written; null where it is before a range begins. */
export const dayFrom = ({ from }: Time, day: Time['to']): string | null => (day >= from ? isoDay(day) : null);

/** Only days until then. */
export function onlyUntil({ times, campaigns }: FactTable, added: Uint8Array, to: number): Uint8Array {
  const until = Uint8Array.from(added);
  times.forEach((time, at) => {
    if (time.to > to) until.fill(0, at * campaigns, (at + 1) * campaigns);
  });
  return until;
}

function firstPlaces(of: Int32Array, groups: number): Int32Array {
  const first = new Int32Array(groups).fill(-1);
  for (let place = 0; place < of.length; place++) {
    const group = of[place] as number;
    if (first[group] === -1) first[group] = place;
  }
  return first;
}

/** What something was called when it was told of, the finest name first. */
export function namesOf(list: PlaceList, place: number, by: JudgedBy): string[] {
  const { campaign = '', group = '', keyword = '', match, ad = '' } = list.names[place] ?? {};
  if (by === 'group') return [group, campaign];
  return by === 'ad' ? [ad, group, campaign] : [keyword, match ?? '', group, campaign];
}
