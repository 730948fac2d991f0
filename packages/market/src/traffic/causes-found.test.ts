import {
  type AdCell,
  type JudgedRow,
  judge,
  testAds,
  usualAdTestRules,
  usualVerdictLimits,
} from '@sprig/core/judge';
import { onlyCosting, termRuns } from '@sprig/core/learn';
import { describe, expect, test } from 'vitest';
import { type Advertiser, type Cell, Traffic } from './index.ts';

/** What statistics tell of traffic is held against what is behind it. */
const WORDS = ['oak', 'ash', 'elm', 'fir', 'yew', 'box', 'bay', 'fig', 'plum', 'pear'];
const advertiser: Advertiser = {
  campaigns: [
    { name: 'Trees', budget: null },
    { name: 'Fruit', budget: null },
  ],
  groups: WORDS.map((word, at) => ({
    name: word,
    campaign: at < 6 ? 0 : 1,
    ads: ['first', 'second'].map((headline) => ({
      headline,
      name: headline,
      page: `https://leaf.example/${word}`,
      texts: headline,
    })),
  })),
  rows: WORDS.map((word, group) => ({ text: `${word} tree`, type: 'phrase', group, bid: 900_000 })),
  negatives: [],
};
const demands = WORDS.map((word) => ({ text: `${word} tree`, searches: 24_000, cpc: 600_000 }));
const SEEDS = 24;
const LATE = 7;

const runs = Array.from({ length: SEEDS }, (_, seed) => {
  const traffic = new Traffic(advertiser, demands, seed + 1, false);
  return {
    causes: traffic.causes,
    days: Array.from({ length: 42 }, (__, nth) => traffic.day(nth, nth % 7, 10)),
  };
});
const groupOf = ({ row }: Cell) => advertiser.rows[row]?.group ?? -1;

/** Each ad group by the last 28 days that are told on a day; conversions as they are known then. */
function rowsOn(days: readonly (readonly Cell[])[], on: number): JudgedRow[] {
  const from = Math.max(0, on - 27);
  return WORDS.map((word, group): JudgedRow => {
    const sums = { impressions: 0, clicks: 0, cost: 0, places: 0 };
    const settled = { clicks: 0, cost: 0, conversions: 0, value: 0 };
    let since: { clicks: number; cost: number } | null = null;
    for (let day = from; day <= on; day++) {
      const own = (days[day] ?? []).filter((cell) => groupOf(cell) === group);
      const sold = own.reduce(
        (all, { delays }) => all + delays.filter((delay) => day + delay <= on).length,
        0,
      );
      const clicks = own.reduce((all, cell) => all + cell.clicks, 0);
      const cost = own.reduce((all, cell) => all + cell.cost, 0);
      for (const cell of own) {
        sums.impressions += cell.impressions;
        sums.places += cell.impressions * cell.position;
      }
      sums.clicks += clicks;
      sums.cost += cost;
      if (day > on - LATE) continue;
      settled.clicks += clicks;
      settled.cost += cost;
      settled.conversions += sold;
      if (sold > 0) since = { clicks: 0, cost: 0 };
      else if (since) since = { clicks: since.clicks + clicks, cost: since.cost + cost };
    }
    return {
      ...sums,
      position: sums.places / sums.impressions,
      lostRank: null,
      settled,
      since,
      type: null,
      isBrand: false,
      network: '',
      group: '',
      theme: '',
      campaign: advertiser.campaigns[advertiser.groups[group]?.campaign ?? 0]?.name ?? '',
      pageFails: false,
      ...{ word },
    };
  });
}

describe('what is behind traffic is found', () => {
  test('a page that broke, by its name, and hardly any other is blamed', () => {
    let [broke, found, blamed, wrongly] = [0, 0, 0, 0];
    for (const { causes, days } of runs) {
      const told = judge(rowsOn(days, causes.page?.to ?? 0), usualVerdictLimits, {
        cost: null,
        return: null,
      });
      told.forEach(({ verdict }, group) => {
        const isBroken = causes.page?.address === `https://leaf.example/${WORDS[group]}`;
        if (isBroken) broke++;
        if (isBroken && verdict === 'broken-page') found++;
        if (verdict !== 'broken-page' && verdict !== 'not-sold') return;
        blamed++;
        if (!isBroken) wrongly++;
      });
    }
    expect(broke).toBe(SEEDS);
    expect(found / broke).toBeGreaterThanOrEqual(0.9);
    expect(wrongly / blamed).toBeLessThanOrEqual(0.1);
  });

  test('a rival that came, as positions that are too low, in no other campaign', () => {
    let [pressed, low, other] = [0, 0, 0];
    for (const { causes, days } of runs) {
      const limits = { ...usualVerdictLimits, position: 2.6 };
      const told = judge(rowsOn(days, 41), limits, { cost: null, return: null });
      told.forEach(({ verdict }, group) => {
        const isPressed =
          advertiser.campaigns[advertiser.groups[group]?.campaign ?? 0]?.name === causes.rival?.campaign;
        if (isPressed) pressed++;
        if (verdict !== 'too-low') return;
        if (isPressed) low++;
        else other++;
      });
    }
    expect(low / pressed).toBeGreaterThanOrEqual(0.9);
    expect(other).toBe(0);
  });

  test('the better of two ads, over ad groups that have both', () => {
    for (const { causes, days } of runs) {
      const cells = new Map<string, AdCell>();
      days.forEach((day, time) => {
        for (const cell of day) {
          const key = `${time} ${groupOf(cell)}`;
          const there = cells.get(key) ?? {
            time,
            stratum: groupOf(cell),
            triesA: 0,
            hitsA: 0,
            triesB: 0,
            hitsB: 0,
            clicksA: 0,
            clicksB: 0,
          };
          const side = cell.ad === 0 ? 'A' : 'B';
          there[`tries${side}`] += cell.impressions;
          there[`hits${side}`] += cell.clicks;
          there[`clicks${side}`] += cell.clicks;
          cells.set(key, there);
        }
      });
      const { verdict, difference } = testAds([...cells.values()], usualAdTestRules);
      const isFirst = causes.ad?.headline === 'first';
      expect(verdict).toBe(isFirst ? 'a' : 'b');
      // Clicked half as often again.
      expect(Math.abs(Math.log(1 + (difference?.by ?? 0)))).toBeCloseTo(Math.log(causes.ad?.times ?? 1), 1);
    }
  });

  test('words that only cost', () => {
    let [put, found] = [0, 0];
    for (const { causes, days } of runs) {
      const terms = new Map<string, { term: string; cost: number; clicks: number; conversions: number }>();
      for (const cell of days.flat()) {
        const there = terms.get(cell.term) ?? { term: cell.term, cost: 0, clicks: 0, conversions: 0 };
        there.cost += cell.cost;
        there.clicks += cell.clicks;
        there.conversions += cell.delays.length;
        terms.set(cell.term, there);
      }
      const costing = new Set(onlyCosting(termRuns(terms.values(), new Set())).map(({ run }) => run));
      for (const word of causes.onlyCost) {
        const isSeen = [...terms.values()].some(({ term, clicks }) => clicks > 0 && term.includes(word));
        if (!isSeen) continue;
        put++;
        if (word.split(' ').some((one) => costing.has(one))) found++;
      }
      expect(costing.has(causes.worthOwn.word)).toBe(false);
    }
    expect(put).toBeGreaterThan(SEEDS);
    expect(found / put).toBeGreaterThanOrEqual(0.9);
  });
});
