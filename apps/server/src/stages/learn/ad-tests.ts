import {
  type AdsBy,
  type AdTest,
  type AdTestGroup,
  type AdTestsAnswer,
  type keepBetterAd,
  MOST_AD_TESTS,
} from '@sprig/contracts';
import { groupOfAd, patternOfAd, versionOfAd } from '@sprig/core/build';
import { type AdCell, type AdTested, type AdTestRules, adCells, testAds } from '@sprig/core/judge';
import {
  addedTimes,
  asDay,
  askedBy,
  type FactTable,
  grainCode,
  isoDay,
  type PlaceList,
} from '@sprig/core/learn';
import { hashOf } from '@sprig/core/text';
import type { AdPattern } from '@sprig/core/write';
import type { z } from 'zod';
import { select } from '../../db/connect.ts';
import { patternsOf } from '../../plan/ad-inputs.ts';
import { type Change, inChange } from '../../plan/change/index.ts';
import { planFacts } from '../../plan/plan-facts.ts';
import { revisionOf } from '../../plan/revision-of.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { SprigFailure } from '../../platform/failure.ts';
import { holdAll } from '../build/index.ts';
import { type Account, accountFor, daysIn, findGrain } from './account.ts';
import { KeptFew } from './kept-few.ts';
import { LATE_DAYS, onlyUntil } from './met-sums.ts';
import { planStamp } from './today.ts';

/** Two sides that some ads are on. */
type Sides = {
  id: string;
  names: [string, string];
  pattern: string | null;
  /** The side of an ad of today's plan. */
  sideOf: (ad: string) => 0 | 1 | -1;
  paused: 'a' | 'b' | null;
};
type Tested = { sides: Sides; cells: readonly AdCell[]; found: AdTested };
type AllTests = {
  about: Omit<AdTestsAnswer, 'tests' | 'others'>;
  rules: AdTestRules;
  tests: readonly Tested[];
  /** The ad group of each stratum. */
  groups: readonly string[];
  stamp: string;
};

const kept = new KeptFew<AllTests | null>(3);
export const forgetAdTests = (): void => kept.clear();

async function allTests(caller: PlanCaller, code: string | null, by: AdsBy): Promise<AllTests | null> {
  const account = await accountFor(caller, code);
  if (!account) return null;
  const stamp = `${account.stamp}/${by}/${await planStamp(caller)}`;
  return kept.of(stamp, () => testAll(account, by, String(hashOf(stamp))));
}

async function testAll(account: Account, by: AdsBy, stamp: string): Promise<AllTests> {
  const { caller } = account;
  const { adTests: rules } = await planFacts(caller);
  const asked = new Set(askedBy.ad);
  const daily = findGrain(account.onHand, asked, true, [account.told]);
  const { range, found, why } = daily.found ? daily : findGrain(account.onHand, asked, false, [account.told]);
  const settledTo = asDay(account.told.to - LATE_DAYS);
  const about = {
    account: account.account,
    range: daysIn(range),
    settledTo: rules.by === 'conversions' ? isoDay(settledTo) : null,
    grain: found ? grainCode(found.grain) : null,
    why,
    byDay: daily.found !== null,
  };
  if (!found) return { about, rules, tests: [], groups: [], stamp };
  const { places, table } = await account.series(found);
  const added = addedTimes(table, places.campaigns, found.times);
  const times = rules.by === 'conversions' ? onlyUntil(table, added, settledTo) : added;
  const { stratum, groups } = strataOf(places);
  const tests = (await sidesBy(caller, by, places)).flatMap((sides): Tested[] => {
    const cells = cellsOf(table, times, places, stratum, sides, rules);
    return cells.length > 0 ? [{ sides, cells, found: testAds(cells, rules) }] : [];
  });
  const size = ({ found: { a, b } }: Tested) => a.tries + b.tries;
  tests.sort((one, other) => RANK[one.found.verdict] - RANK[other.found.verdict] || size(other) - size(one));
  return { about, rules, tests, groups, stamp };
}

/** What is decided first. */
const RANK = { a: 0, b: 0, alike: 1, open: 2, few: 3 };

/** Ad groups, and what else reports tell them apart by: only what both sides had there is held against each other. */
function strataOf(places: PlaceList): { stratum: Int32Array; groups: string[] } {
  const known = new Map<string, number>();
  const groups: string[] = [];
  const stratum = new Int32Array(places.size);
  for (let place = 0; place < places.size; place++) {
    const { ad } = places.met[place] ?? {};
    if (!ad) continue;
    const group = groupOfAd(ad);
    const { device = '', network = '' } = places.names[place] ?? {};
    const key = JSON.stringify([group, device, network]);
    const number = known.get(key) ?? known.size;
    if (number === known.size) {
      known.set(key, number);
      groups.push(group);
    }
    stratum[place] = number;
  }
  return { stratum, groups };
}

function cellsOf(
  table: FactTable,
  added: Uint8Array,
  places: PlaceList,
  stratum: Int32Array,
  { sideOf }: Sides,
  { by }: AdTestRules,
): AdCell[] {
  const of = Int8Array.from(places.met, ({ ad }) => (ad === null ? -1 : sideOf(ad)));
  return adCells(table, added, { of, stratum }, by);
}

async function sidesBy(caller: PlanCaller, by: AdsBy, places: PlaceList): Promise<Sides[]> {
  const patterns = await patternsOf((sql) => select(caller.database, sql, [caller.plan]));
  if (by === 'version') return patterns.flatMap(({ id, body }) => versionsIn(id, body));
  return by === 'pattern' ? pairsOfPatterns(patterns) : pairsOfLabels(caller, places);
}

function versionsIn(id: number, { name, split }: AdPattern): Sides[] {
  if (split.by === 'none') return [];
  return [
    {
      id: String(id),
      names: [split.labels[0] || 'first version', split.labels[1] || 'second version'],
      pattern: name,
      sideOf: (ad) => (patternOfAd(ad) !== id ? -1 : versionOfAd(ad) === 'a' ? 0 : 1),
      paused: split.paused,
    },
  ];
}

type Numbered = { id: number; body: AdPattern };

const pairsOf = <T>(all: readonly T[]): [T, T][] =>
  all.flatMap((one, at) => all.slice(at + 1).map((other): [T, T] => [one, other]));

const pairsOfPatterns = (patterns: readonly Numbered[]): Sides[] =>
  pairsOf(patterns).map(([one, other]) => ({
    id: `${one.id} ${other.id}`,
    names: [one.body.name, other.body.name],
    pattern: null,
    sideOf: (ad) => {
      const pattern = patternOfAd(ad);
      return pattern === one.id ? 0 : pattern === other.id ? 1 : -1;
    },
    paused: one.body.status === 'paused' ? 'a' : other.body.status === 'paused' ? 'b' : null,
  }));

/** More labels than these are not held against each other, each against each. */
const MOST_LABELS = 12;

/** Labels of ads that reports tell of; an ad that has both is on no side. */
async function pairsOfLabels({ database, plan }: PlanCaller, places: PlaceList): Promise<Sides[]> {
  const told = new Set(places.met.flatMap(({ ad }) => (ad === null ? [] : [ad])));
  const rows = await select<{ key: string; labels: string[]; status: string }>(
    database,
    `select key, labels, status from ads where plan_id = $1 and outlet = 'plain' and labels <> '{}'`,
    [plan],
  );
  const labelsOf = new Map<string, ReadonlySet<string>>();
  const running = new Set<string>();
  const counts = new Map<string, number>();
  for (const { key, labels, status } of rows) {
    if (!told.has(key)) continue;
    labelsOf.set(key, new Set(labels));
    for (const label of labels) {
      counts.set(label, (counts.get(label) ?? 0) + 1);
      if (status === 'enabled') running.add(label);
    }
  }
  const most = [...counts].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1)).slice(0, MOST_LABELS);
  return pairsOf(most.map(([label]) => label).sort()).map(([one, other]) => ({
    id: JSON.stringify([one, other]),
    names: [one, other],
    pattern: null,
    sideOf: (ad) => {
      const labels = labelsOf.get(ad);
      const [first, second] = [labels?.has(one) ?? false, labels?.has(other) ?? false];
      return first === second ? -1 : first ? 0 : 1;
    },
    paused: !running.has(one) ? 'a' : !running.has(other) ? 'b' : null,
  }));
}

const answered = ({ at, ...found }: AdTested) => ({ ...found, on: at === null ? null : isoDay(asDay(at)) });

export async function adTestsOf(
  caller: PlanCaller,
  account: string | null,
  by: AdsBy,
): Promise<AdTestsAnswer> {
  const all = await allTests(caller, account, by);
  if (!all) return nobody;
  return {
    ...all.about,
    tests: all.tests.slice(0, MOST_AD_TESTS).map(({ sides, cells, found }): AdTest => {
      const { id, names, pattern, paused } = sides;
      const groups = new Set(cells.map(({ stratum }) => all.groups[stratum])).size;
      return { ...answered(found), id, names, pattern, paused, groups };
    }),
    others: Math.max(0, all.tests.length - MOST_AD_TESTS),
  };
}
const nobody: AdTestsAnswer = {
  account: null,
  range: null,
  settledTo: null,
  grain: null,
  why: { none: 'reports' },
  byDay: false,
  tests: [],
  others: 0,
};

type OfGroup = { key: string; cells: AdCell[]; tries: number };

async function groupsIn(
  caller: PlanCaller,
  account: string | null,
  by: AdsBy,
  test: string,
): Promise<{ groups: OfGroup[]; rules: AdTestRules; stamp: string }> {
  const all = await allTests(caller, account, by);
  const one = all?.tests.find(({ sides }) => sides.id === test);
  if (!all || !one) throw new SprigFailure('not-found', 'These are not held against each other any more.');
  const byGroup = new Map<string, OfGroup>();
  for (const cell of one.cells) {
    const key = all.groups[cell.stratum] as string;
    const there = byGroup.get(key) ?? { key, cells: [], tries: 0 };
    there.cells.push(cell);
    there.tries += cell.triesA + cell.triesB;
    byGroup.set(key, there);
  }
  return { groups: [...byGroup.values()], rules: all.rules, stamp: all.stamp };
}

type AskedGroups = { account: string | null; by: AdsBy; test: string };

/** Ad groups of a test by their numbers, those with the most to tell first. */
export async function adTestGroups(caller: PlanCaller, { account, by, test }: AskedGroups) {
  const { groups, stamp } = await groupsIn(caller, account, by, test);
  const order = [...groups.keys()].sort((a, b) => (groups[b]?.tries ?? 0) - (groups[a]?.tries ?? 0) || a - b);
  return { order, stamp };
}

export async function adTestRows(
  caller: PlanCaller,
  { account, by, test, rows }: AskedGroups & { rows: readonly number[] },
): Promise<AdTestGroup[]> {
  const { groups, rules } = await groupsIn(caller, account, by, test);
  const asked = rows.filter((n) => groups[n] !== undefined);
  const names = await select<{ key: string; name: string }>(
    caller.database,
    'select key, name from ad_groups where plan_id = $1 and key = any($2)',
    [caller.plan, asked.map((n) => groups[n]?.key)],
  );
  const nameOf = new Map(names.map(({ key, name }) => [key, name]));
  return asked.map((n) => {
    const { key, cells } = groups[n] as OfGroup;
    return { ...answered(testAds(cells, rules)), n, key, name: nameOf.get(key) ?? '' };
  });
}

/** Ads that are paused by hand run again as their patterns have it. */
async function letGo(change: Change, ads: readonly { key: string }[]): Promise<void> {
  const held = await change.rows<{ id: number }>(
    `select id from holds where plan_id = $1 and field = 'status' and outlet is null and row_key = any($2::text[])`,
    [ads.map(({ key }) => key)],
  );
  await change.remove('holds', held);
}

type Keeping = z.output<(typeof keepBetterAd)['body']>;

/** Has one side run alone: a version by its pattern, a pattern by its status, a label by all ads that have it. */
export async function keepBetter(
  caller: PlanCaller,
  { account, by, test, keep, dry }: Keeping,
): Promise<{ revision: number; ads: number }> {
  const all = await allTests(caller, account, by);
  const sides = all?.tests.find((one) => one.sides.id === test)?.sides;
  if (!sides) throw new SprigFailure('not-found', 'These are not held against each other any more.');
  const paused = keep === 'both' ? null : keep === 'a' ? 'b' : 'a';
  const there = await select<{ key: string; status: string }>(
    caller.database,
    `select key, status from ads where plan_id = $1 and outlet = 'plain'`,
    [caller.plan],
  );
  const onSide = (side: 'a' | 'b') => there.filter(({ key }) => sides.sideOf(key) === (side === 'a' ? 0 : 1));
  const changing =
    paused === null
      ? (['a', 'b'] as const).flatMap(onSide).filter(({ status }) => status === 'paused')
      : onSide(paused).filter(({ status }) => status === 'enabled');
  if (dry || (changing.length === 0 && sides.paused === paused))
    return { revision: await revisionOf(caller), ads: changing.length };
  const [a, b] = sides.names;
  const label =
    keep === 'both' ? `Run both ads again: ${a}, ${b}` : `Keep the better ad: ${keep === 'a' ? a : b}`;
  const { revision } = await inChange(
    caller,
    `${label}, ${counted(changing.length, 'ad')}`,
    async (change) => {
      const patterns = await patternsOf((sql) => change.rows(sql));
      const put = async (id: number, part: (body: AdPattern) => AdPattern) => {
        const pattern = patterns.find((one) => one.id === id);
        if (pattern) await change.update('ad_patterns', [id], { body: part(pattern.body) });
      };
      if (by === 'version')
        await put(Number(test), (body) => ({ ...body, split: { ...body.split, paused } }));
      else if (by === 'pattern')
        for (const [at, id] of test.split(' ').entries()) {
          const isPaused = paused === (at === 0 ? 'a' : 'b');
          await put(Number(id), (body) => ({ ...body, status: isPaused ? 'paused' : 'enabled' }));
        }
      else if (paused === null) await letGo(change, changing);
      else
        await holdAll(
          change,
          changing.map(({ key }) => ({ rowKey: key, value: 'paused' })),
          'status',
        );
    },
  );
  return { revision, ads: changing.length };
}
