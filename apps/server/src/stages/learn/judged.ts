import {
  factsOf,
  type JudgedBy,
  type VerdictActBody,
  type VerdictsAnswer,
  verdictActBody,
} from '@sprig/contracts';
import { type Aim, type Judged, type JudgedRow, judge, type VerdictLimits } from '@sprig/core/judge';
import {
  addedTimes,
  asDay,
  askedBy,
  type FactTable,
  type GroupSums,
  grainCode,
  isoDay,
  type PlaceList,
  readIsoDay,
  sumPlaces,
  type Time,
} from '@sprig/core/learn';
import { hashOf } from '@sprig/core/text';
import { select } from '../../db/connect.ts';
import { find } from '../../db/rows.ts';
import { currencyOf } from '../../plan/currency-of.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { type Account, accountFor, daysIn, findGrain, rangesOf } from './account.ts';
import { KeptFew } from './kept-few.ts';
import { groupMet } from './results.ts';
import { brandWords, planStamp, todayOf } from './today.ts';

/** Conversions of so many days may still come. */
const LATE_DAYS = 7;

/** Everything of a plan that has a verdict, with what it rests on. */
export type AllJudged = {
  head: Omit<VerdictsAnswer, 'lists' | 'list' | 'order'>;
  by: JudgedBy;
  keys: readonly string[];
  names: readonly (readonly string[])[];
  groups: readonly (string | null)[];
  rows: readonly JudgedRow[];
  judged: readonly Judged[];
  /** Days that were looked at, of which conversions count on so many. */
  days: number;
  settledDays: number;
  acts: ReadonlyMap<string, VerdictActBody & { id: number }>;
  limits: VerdictLimits;
  /** What was counted of what was acted on, from that day on. */
  since: (key: string) => VerdictActBody['was'];
  /** The day that it is, by the account's clock. */
  today: string;
};

const kept = new KeptFew<AllJudged | null>(3);
export const forgetVerdicts = (): void => kept.clear();

const MET_AS = { keyword: 'row', group: 'group', ad: 'ad' } as const;
const MILLION = 1_000_000;

/** Judges all that reports tell of, over the last range; kept as long as nothing changes. null where no report is. */
export async function allJudged(
  caller: PlanCaller,
  code: string | null,
  by: JudgedBy,
): Promise<AllJudged | null> {
  const account = await accountFor(caller, code);
  if (!account) return null;
  const stamp = `${account.stamp}/${by}/${await planStamp(caller)}/${dayIn(account.account.timeZone)}`;
  return kept.of(stamp, () => judgeAll(account, by, String(hashOf(stamp))));
}

/** The day that it is, by a clock. */
export const dayIn = (timeZone: string): string =>
  new Intl.DateTimeFormat('en-CA', { timeZone, dateStyle: 'short' }).format(new Date());

async function judgeAll(account: Account, by: JudgedBy, stamp: string): Promise<AllJudged> {
  const { caller } = account;
  const { range, found, why } = findGrain(
    account.onHand,
    new Set(askedBy[by]),
    false,
    rangesOf({ range: null }, account.told),
  );
  const [stored] = await find(caller, 'facts', { columns: ['body'] });
  const facts = factsOf(stored?.body);
  const inCurrency = (await currencyOf(caller)) === account.account.currency;
  const aim: Aim = {
    cost: inCurrency ? facts.targetCost : null,
    return: facts.targetReturn === null ? null : facts.targetReturn / 10_000,
  };
  const head = {
    account: account.account,
    range: daysIn(range),
    settledTo: null,
    grain: found ? grainCode(found.grain) : null,
    why,
    aim,
    inCurrency,
    notMet: 0,
    stamp,
  };
  const nothing = { by, keys: [], names: [], groups: [], rows: [], judged: [], days: 0, settledDays: 0 };
  const acts = await actsOf(caller, by);
  const today = dayIn(account.account.timeZone);
  const limits = facts.verdicts;
  const none = { days: 0, impressions: 0, clicks: 0, cost: 0, conversions: 0 };
  if (!found) return { head, ...nothing, acts, limits, today, since: () => none };
  const { places, table } = await account.series(found);
  const { groups, numberOf } = groupMet(places, MET_AS[by]);
  const added = addedTimes(table, places.campaigns, found.times);
  const isMet = Uint8Array.from(groups.of, (group) => (group > 0 ? 1 : 0));
  const sums = sumPlaces(table, { added, places: isMet, groups });
  const settledTo = asDay(Math.min(range.to, account.told.to - LATE_DAYS));
  const settled = onlyUntil(table, added, settledTo);
  const told = sumPlaces(table, { added: settled, places: isMet, groups });
  const firstPlace = firstPlaces(groups.of, groups.keys.length);
  const failing = await failingGroups(caller);
  const words = brandWords(facts);
  const themeOf = (await todayOf(caller, new Set(['theme'] as const))).theme;
  const last = sinceLastConversion(table, settled, groups.of, groups.keys.length);
  const numbers = [...numberOf.values()].filter((group) => sums.has(group));
  const rows = numbers.map((group): JudgedRow => {
    const place = firstPlace[group] as number;
    const names = places.names[place] ?? {};
    const met = places.met[place];
    const of = (name: Parameters<GroupSums['figure']>[0]) => sums.figure(name, group);
    const on = (name: Parameters<GroupSums['figure']>[0]) => told.figure(name, group) ?? 0;
    return {
      impressions: of('impressions') ?? 0,
      clicks: of('clicks') ?? 0,
      cost: of('cost') ?? 0,
      position: of('position'),
      lostRank: of('lostRank'),
      settled: {
        clicks: on('clicks'),
        cost: on('cost'),
        conversions: on('conversions') / MILLION,
        value: on('value'),
      },
      since: last(group),
      type: by === 'keyword' ? (names.match ?? null) : null,
      isBrand: by === 'keyword' && names.keyword !== undefined && words.in(names.keyword) !== null,
      network: '',
      group: by === 'keyword' ? (met?.group ?? '') : '',
      theme: met?.group ? themeOf(met.group, met.row) : '',
      campaign: names.campaign ?? '',
      pageFails: failing.has(met?.group ?? ''),
    };
  });
  const seen = groups.of.reduce((all, group) => all + (group === 0 ? 1 : 0), 0);
  return {
    head: { ...head, settledTo: settledTo >= range.from ? isoDay(settledTo) : null, notMet: seen },
    by,
    keys: numbers.map((group) => groups.keys[group] as string),
    names: numbers.map((group) => namesOf(places, firstPlace[group] as number, by)),
    groups: numbers.map((group) => places.met[firstPlace[group] as number]?.group ?? null),
    rows,
    judged: judge(rows, limits, aim),
    limits,
    days: found.days.most,
    settledDays: Math.max(0, settledTo - range.from + 1),
    acts,
    today,
    since: countedSince(account, table, groups.of, groups.keys, acts),
  };
}

/** What was done last about each key. */
async function actsOf(caller: PlanCaller, by: JudgedBy): Promise<AllJudged['acts']> {
  const stored = await find(caller, 'verdict_acts', { columns: ['id', 'body'], order: ['id'] });
  const acts = new Map<string, VerdictActBody & { id: number }>();
  for (const { id, body } of stored) {
    const read = verdictActBody.safeParse(body);
    if (read.success && read.data.by === by) acts.set(read.data.key, { ...read.data, id });
  }
  return acts;
}

/** Ad groups whose final URL did not answer when it was last looked at. */
async function failingGroups({ database, plan }: PlanCaller): Promise<ReadonlySet<string>> {
  const rows = await select<{ key: string }>(
    database,
    `select distinct a.group_key as key from ads a
     join address_checks c on c.plan_id = a.plan_id and c.address = a.final_url
     where a.plan_id = $1 and (c.problem <> '' or c.status >= 400)`,
    [plan],
  );
  return new Set(rows.map(({ key }) => key));
}

/** Only days until then. */
function onlyUntil({ times, campaigns }: FactTable, added: Uint8Array, to: number): Uint8Array {
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

function namesOf(list: PlaceList, place: number, by: JudgedBy): string[] {
  const { campaign = '', group = '', keyword = '', match, ad = '' } = list.names[place] ?? {};
  if (by === 'group') return [group, campaign];
  return by === 'ad' ? [ad, group, campaign] : [keyword, match ?? '', group, campaign];
}

/** Of each group, clicks and cost on days after its last conversion; null where there was none. O(rows). */
function sinceLastConversion(
  table: FactTable,
  added: Uint8Array,
  groupOf: Int32Array,
  groups: number,
): (group: number) => JudgedRow['since'] {
  const { conversions, clicks, cost } = table.figures;
  if (!conversions) return () => null;
  const last = new Float64Array(groups).fill(Number.NEGATIVE_INFINITY);
  const sums = [new Float64Array(groups), new Float64Array(groups)] as const;
  const eachRow = (run: (row: number, group: number, day: number) => void) => {
    for (let row = 0; row < table.rows; row++) {
      const place = table.place[row] as number;
      const time = table.time[row] as number;
      if (!added[time * table.campaigns + (table.campaignOf[place] as number)]) continue;
      run(row, groupOf[place] as number, (table.times[time] as Time).to);
    }
  };
  eachRow((row, group, day) => {
    if ((conversions[row] as number) > 0 && day > (last[group] as number)) last[group] = day;
  });
  eachRow((row, group, day) => {
    if (day <= (last[group] as number)) return;
    sums[0][group] = (sums[0][group] as number) + (clicks?.[row] || 0);
    sums[1][group] = (sums[1][group] as number) + (cost?.[row] || 0);
  });
  return (group) =>
    Number.isFinite(last[group])
      ? { clicks: sums[0][group] as number, cost: sums[1][group] as number }
      : null;
}

/** What was counted of each key that was acted on from that day on, and over how many days that are told. O(rows). */
function countedSince(
  { told }: Account,
  table: FactTable,
  groupOf: Int32Array,
  keys: readonly string[],
  acts: AllJudged['acts'],
): AllJudged['since'] {
  const from = Float64Array.from(keys, (key) => {
    const act = acts.get(key);
    return act ? readIsoDay(act.on) : Number.POSITIVE_INFINITY;
  });
  const counted = new Map<number, VerdictActBody['was']>();
  const { impressions, clicks, cost, conversions } = table.figures;
  for (let row = 0; acts.size > 0 && row < table.rows; row++) {
    const group = groupOf[table.place[row] as number] as number;
    if ((table.times[table.time[row] as number] as Time).from < (from[group] as number)) continue;
    const sum = counted.get(group) ?? nothingCounted(told, from[group] as number);
    sum.impressions += impressions?.[row] || 0;
    sum.clicks += clicks?.[row] || 0;
    sum.cost += cost?.[row] || 0;
    sum.conversions += (conversions?.[row] || 0) / MILLION;
    counted.set(group, sum);
  }
  const groupAt = new Map(keys.map((key, group) => [key, group]));
  return (key) => {
    const group = groupAt.get(key) ?? -1;
    return counted.get(group) ?? nothingCounted(told, from[group] ?? Number.POSITIVE_INFINITY);
  };
}

const nothingCounted = (told: Time, from: number): VerdictActBody['was'] => ({
  days: Math.max(0, Number.isFinite(from) ? told.to - from + 1 : 0),
  impressions: 0,
  clicks: 0,
  cost: 0,
  conversions: 0,
});
