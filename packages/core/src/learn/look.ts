import { normalise } from '../text/index.ts';
import { isoDay, type Time, timeKey, weekdayOf } from './day.ts';
import type { FactTable } from './fact-table.ts';
import type { ResultFigure } from './figure-sums.ts';
import type { Dimension } from './grain.ts';
import { GroupSums, LEFT_OUT } from './group-sums.ts';
import type { PlaceList } from './place-list.ts';

/** What rows of a look may be told apart by. Codes that are kept in saved looks. */
export const lookGroupings = [
  'campaign',
  'group',
  'keyword',
  'match',
  'term',
  'ad',
  'extra',
  'theme',
  'stage',
  'source',
  'brand',
  'label',
  'place',
  'device',
  'network',
  'page',
  'hour',
  'weekday',
  'day',
] as const;
export type LookGrouping = (typeof lookGroupings)[number];

/** What a report has to tell, so that a look can tell its rows apart by this. */
export const askedBy: Readonly<Record<LookGrouping, readonly Dimension[]>> = {
  campaign: ['campaign'],
  group: ['campaign', 'group'],
  keyword: ['campaign', 'group', 'keyword'],
  match: ['campaign', 'group', 'keyword'],
  term: ['term'],
  ad: ['campaign', 'group', 'ad'],
  extra: ['extra'],
  theme: ['campaign', 'group'],
  stage: ['campaign', 'group'],
  source: ['campaign', 'group', 'keyword'],
  brand: ['campaign', 'group', 'keyword'],
  label: ['campaign', 'group', 'keyword'],
  place: ['place'],
  device: ['device'],
  network: ['network'],
  page: ['page'],
  hour: ['hour'],
  weekday: [],
  day: [],
};

/** What the plan says today of what a report's rows are of; what it does not know is ''. */
export type Today = {
  /** Where its keyword is now; where no keyword is told, of its ad group. */
  theme: (group: string, row: string | null) => string;
  stage: (group: string, row: string | null) => string;
  source: (row: string) => string;
  brand: (row: string) => string;
  label: (group: string, row: string | null) => string;
};

/** A condition on what rows are of: only what is called so, whatever its case. */
export type NameCondition = { by: Exclude<LookGrouping, 'day' | 'weekday'>; is: string };
/** A condition on a figure of a group, in the units of `FigureSums.figure`. */
export type FigureCondition = { figure: ResultFigure; is: 'over' | 'under'; than: number };

/** Places told apart by one thing: of each its group, and of each group its names as they came first. */
export type PlaceGroups = { of: Int32Array; keys: string[]; names: string[][] };

/**
 * Tells places apart. Keywords are told apart by what their ad group and match type are too, and ad groups by their
 * campaign; each name of a group is given, the finest first. O(places).
 */
export function groupPlaces(list: PlaceList, by: LookGrouping, today: Today): PlaceGroups {
  const of = new Int32Array(list.size);
  const groups = new Map<string, number>();
  const keys: string[] = [];
  const names: string[][] = [];
  const normal = normals();
  for (let place = 0; place < list.size; place++) {
    const own = namesBy(list, place, by, today);
    const key = own.length === 1 ? normal(own[0] ?? '') : own.map(normal).join('\t');
    let group = groups.get(key);
    if (group === undefined) {
      group = names.length;
      groups.set(key, group);
      keys.push(key);
      names.push(own);
    }
    of[place] = group;
  }
  return { of, keys, names };
}

/** Normal forms, each worked out once: places say the same names again and again. */
function normals(): (name: string) => string {
  const known = new Map<string, string>();
  return (name) => {
    let normal = known.get(name);
    if (normal === undefined) {
      normal = normalise(name);
      known.set(name, normal);
    }
    return normal;
  };
}

function namesBy(list: PlaceList, place: number, by: LookGrouping, today: Today): string[] {
  const { campaign = '', group = '', keyword = '', match, ad = '', ...rest } = list.names[place] ?? {};
  const met = list.met[place];
  switch (by) {
    case 'day':
    case 'weekday':
      return [''];
    case 'campaign':
      return [campaign];
    case 'group':
      return [group, campaign];
    case 'keyword':
      return [keyword, match ?? '', group, campaign];
    case 'match':
      return [match ?? ''];
    case 'ad':
      return [ad, group, campaign];
    case 'theme':
    case 'stage':
      return [met?.group ? today[by](met.group, met.row) : ''];
    case 'source':
    case 'brand':
      return [met?.row ? today[by](met.row) : ''];
    case 'label':
      return [met?.group ? today.label(met.group, met.row) : ''];
    default:
      return [rest[by] ?? ''];
  }
}

/** Of each place, whether it meets all conditions. */
export function placesThat(list: PlaceList, conditions: readonly NameCondition[], today: Today): Uint8Array {
  const kept = new Uint8Array(list.size).fill(1);
  const normal = normals();
  for (const { by, is } of conditions) {
    const wanted = normalise(is);
    for (let place = 0; place < list.size; place++)
      if (kept[place] && normal(namesBy(list, place, by, today)[0] ?? '') !== wanted) kept[place] = 0;
  }
  return kept;
}

/** By `time * campaigns + campaign` whether rows of it are added: those times that were picked of each campaign. */
export function addedTimes(
  table: FactTable,
  campaigns: readonly string[],
  picked: ReadonlyMap<string, readonly Time[]>,
): Uint8Array {
  const timeAt = new Map(table.times.map((time, at) => [timeKey(time), at]));
  const added = new Uint8Array(table.times.length * table.campaigns);
  for (const [at, campaign] of campaigns.entries())
    for (const time of picked.get(campaign) ?? []) {
      const of = timeAt.get(timeKey(time));
      if (of !== undefined) added[of * table.campaigns + at] = 1;
    }
  return added;
}

/** What a look adds: which times of which campaigns, which places, and how they are told apart. */
export type Adding = { added: Uint8Array; places: Uint8Array; groups: PlaceGroups };

/** The sums of each group of places. O(rows). */
export function sumPlaces(table: FactTable, { added, places, groups }: Adding): GroupSums {
  const groupOfPlace = groups.of.map((group, place) => (places[place] ? group : LEFT_OUT));
  return new GroupSums(table, rowsIn(table, added, groupOfPlace, null), groups.names.length);
}

/**
 * Of each row, the group of its place, or where times are told apart the group of its time; `LEFT_OUT` where its time is not
 * added of its campaign, or its place is left out. O(rows).
 */
function rowsIn(
  { rows, time, place, campaignOf, campaigns, times }: FactTable,
  added: Uint8Array,
  groupOfPlace: Int32Array,
  groupOfTime: Int32Array | null,
): Int32Array {
  const groupOf = new Int32Array(rows);
  const ofAll = addedOfAll(added, times.length, campaigns);
  for (let row = 0; row < rows; row++) {
    const of = place[row] as number;
    const at = time[row] as number;
    const isAdded = ofAll ? ofAll[at] : added[at * campaigns + (campaignOf[of] as number)];
    const group = isAdded ? (groupOfPlace[of] as number) : LEFT_OUT;
    groupOf[row] = group === LEFT_OUT || !groupOfTime ? group : (groupOfTime[at] as number);
  }
  return groupOf;
}

/** Of each time whether it is added, where that is so of all campaigns alike, as it mostly is; else null. */
function addedOfAll(added: Uint8Array, times: number, campaigns: number): Uint8Array | null {
  const ofAll = new Uint8Array(times);
  for (let time = 0; time < times; time++) {
    const own = added.subarray(time * campaigns, (time + 1) * campaigns);
    const [first = 0] = own;
    if (!own.every((one) => one === first)) return null;
    ofAll[time] = first;
  }
  return ofAll;
}

/** Days, or weekdays (1 is Monday), by the first day of each time. */
export function groupTimes(table: FactTable, by: 'day' | 'weekday'): { of: Int32Array; names: string[] } {
  const known = new Map<string, number>();
  const of = Int32Array.from(table.times, ({ from }) => {
    const name = by === 'day' ? isoDay(from) : String(weekdayOf(from));
    const group = known.get(name) ?? known.size;
    known.set(name, group);
    return group;
  });
  return { of, names: [...known.keys()] };
}

/** The sums of each group of times. O(rows). */
export function sumTimes(
  table: FactTable,
  { added, places }: Omit<Adding, 'groups'>,
  groups: { of: Int32Array; names: readonly string[] },
): GroupSums {
  const isIn = Int32Array.from(places, (kept) => (kept ? 0 : LEFT_OUT));
  return new GroupSums(table, rowsIn(table, added, isIn, groups.of), groups.names.length);
}

/** The groups that were seen and meet all conditions, in the order in which they came. */
export function groupsThat(sums: GroupSums, conditions: readonly FigureCondition[]): number[] {
  const kept: number[] = [];
  for (let group = 0; group < sums.groups; group++)
    if (sums.has(group) && conditions.every((one) => meets(sums, group, one))) kept.push(group);
  return kept;
}

function meets(sums: GroupSums, group: number, { figure, is, than }: FigureCondition): boolean {
  const value = sums.figure(figure, group);
  return value !== null && (is === 'over' ? value > than : value < than);
}

/** Groups in the order of a figure; those without it stand last, either way. Ties stay as they came. */
export function byFigure(
  sums: GroupSums,
  groups: readonly number[],
  figure: ResultFigure,
  down: boolean,
): number[] {
  const value = new Float64Array(sums.groups);
  for (const group of groups) value[group] = sums.figure(figure, group) ?? Number.NaN;
  const way = down ? -1 : 1;
  return [...groups].sort((a, b) => {
    const [x, y] = [value[a] as number, value[b] as number];
    if (Number.isNaN(x) || Number.isNaN(y)) return Number(Number.isNaN(x)) - Number(Number.isNaN(y));
    return (x - y) * way;
  });
}
