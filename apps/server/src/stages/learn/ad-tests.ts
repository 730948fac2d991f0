import {
  type AdsBy,
  type AdTest,
  type AdTestGroup,
  type AdTestsAnswer,
  type keepBetterAd,
  MOST_AD_TESTS,
} from '@sprig/contracts';
import { groupOfAd } from '@sprig/core/build';
import { type AdCell, type AdTested, type AdTestRules, adCells, testAds } from '@sprig/core/judge';
import { addedTimes, asDay, askedBy, isoDay, type PlaceList } from '@sprig/core/learn';
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
import { KeptFew } from '../../platform/kept-few.ts';
import { holdAll } from '../build/index.ts';
import { type Account, aboutLook, accountFor, findGrain } from './account.ts';
import { type Sides, sidesBy, toldAd } from './ad-sides.ts';
import { onlyUntil } from './met-sums.ts';
import { planStamp } from './today.ts';

/** `tries`: of each ad group. */
type Tested = { sides: Sides; found: AdTested; tries: Float64Array };
type AllTests = {
  about: Omit<AdTestsAnswer, 'tests' | 'others'>;
  rules: AdTestRules;
  tests: readonly Tested[];
  /** Ad groups by their numbers, and that of each stratum. */
  groups: readonly string[];
  groupOf: Int32Array;
  cellsOf: (sides: Sides) => Iterable<AdCell>;
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
  const first = daily.found ? daily : findGrain(account.onHand, asked, false, [account.told]);
  const { found } = first;
  const settledTo = account.settledIn(account.told);
  const about = {
    ...aboutLook(account, first),
    settledTo: rules.by === 'conversions' ? isoDay(settledTo) : null,
    byDay: daily.found !== null,
  };
  const empty = { groups: [], groupOf: new Int32Array(0), cellsOf: () => [] };
  if (!found) return { about, rules, tests: [], ...empty, stamp };
  const { places, table } = await account.series(found);
  const added = addedTimes(table, places.campaigns, found.times);
  const times = rules.by === 'conversions' ? onlyUntil(table, added, settledTo) : added;
  const ads = places.met.map(({ ad }) => (ad === null ? null : toldAd(ad)));
  const { stratum, groups, groupOf } = strataOf(places);
  const cellsOf = ({ sideOf }: Sides) => {
    const of = Int8Array.from(ads, (ad) => (ad ? sideOf(ad) : -1));
    return adCells(table, times, { of, stratum, strata: groupOf.length }, rules.by);
  };
  const tests = (await sidesBy(caller, by, ads)).flatMap((sides): Tested[] => {
    const tries = new Float64Array(groups.length);
    const tested = testAds(countedIn(cellsOf(sides), groupOf, tries), rules);
    return tested.a.tries + tested.b.tries > 0 ? [{ sides, found: tested, tries }] : [];
  });
  const size = ({ found: { a, b } }: Tested) => a.tries + b.tries;
  tests.sort((one, other) => RANK[one.found.verdict] - RANK[other.found.verdict] || size(other) - size(one));
  return { about, rules, tests, groups, groupOf, cellsOf, stamp };
}

/** The same cells, their tries added up by ad groups. */
function* countedIn(cells: Iterable<AdCell>, groupOf: Int32Array, tries: Float64Array): Generator<AdCell> {
  for (const cell of cells) {
    const group = groupOf[cell.stratum] as number;
    tries[group] = (tries[group] as number) + cell.triesA + cell.triesB;
    yield cell;
  }
}

/** What is decided first. */
const RANK = { a: 0, b: 0, alike: 1, open: 2, few: 3 };

/** Ad groups, and what else reports tell them apart by: only what both sides had there is held against each other. */
function strataOf(places: PlaceList): { stratum: Int32Array; groups: string[]; groupOf: Int32Array } {
  const strata = new Map<string, number>();
  const numberOf = new Map<string, number>();
  const groupOf: number[] = [];
  const stratum = new Int32Array(places.size);
  for (let place = 0; place < places.size; place++) {
    const { ad } = places.met[place] ?? {};
    if (!ad) continue;
    const group = groupOfAd(ad);
    const { device = '', network = '' } = places.names[place] ?? {};
    const key = device === '' && network === '' ? group : JSON.stringify([group, device, network]);
    const number = strata.get(key) ?? strata.size;
    if (number === strata.size) {
      strata.set(key, number);
      const at = numberOf.get(group) ?? numberOf.size;
      numberOf.set(group, at);
      groupOf.push(at);
    }
    stratum[place] = number;
  }
  return { stratum, groups: [...numberOf.keys()], groupOf: Int32Array.from(groupOf) };
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
    tests: all.tests.slice(0, MOST_AD_TESTS).map(({ sides, found, tries }): AdTest => {
      const { id, names, pattern, paused } = sides;
      const groups = tries.reduce((sum, own) => sum + (own > 0 ? 1 : 0), 0);
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

type AskedGroups = { account: string | null; by: AdsBy; test: string };

async function testNamed(caller: PlanCaller, { account, by, test }: AskedGroups) {
  const all = await allTests(caller, account, by);
  const one = all?.tests.find(({ sides }) => sides.id === test);
  if (!all || !one) throw new SprigFailure('not-found', 'These are not held against each other any more.');
  return { all, one };
}

/** Ad groups of a test by their numbers, those with the most to tell first. */
export async function adTestGroups(caller: PlanCaller, asked: AskedGroups) {
  const { all, one } = await testNamed(caller, asked);
  const { tries } = one;
  const order = [...tries.keys()].filter((n) => (tries[n] as number) > 0);
  order.sort((a, b) => (tries[b] as number) - (tries[a] as number) || a - b);
  return { order, stamp: all.stamp };
}

export async function adTestRows(
  caller: PlanCaller,
  { rows, ...asked }: AskedGroups & { rows: readonly number[] },
): Promise<AdTestGroup[]> {
  const { all, one } = await testNamed(caller, asked);
  const known = rows.filter((n) => (one.tries[n] ?? 0) > 0);
  const cells = new Map<number, AdCell[]>(known.map((n) => [n, []]));
  for (const cell of all.cellsOf(one.sides)) cells.get(all.groupOf[cell.stratum] as number)?.push(cell);
  const names = await select<{ key: string; name: string }>(
    caller.database,
    'select key, name from ad_groups where plan_id = $1 and key = any($2)',
    [caller.plan, known.map((n) => all.groups[n])],
  );
  const nameOf = new Map(names.map(({ key, name }) => [key, name]));
  return known.map((n) => {
    const key = all.groups[n] as string;
    return { ...answered(testAds(cells.get(n) ?? [], all.rules)), n, key, name: nameOf.get(key) ?? '' };
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
  const onSide = (side: 'a' | 'b') =>
    there.filter(({ key }) => sides.sideOf(toldAd(key)) === (side === 'a' ? 0 : 1));
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
