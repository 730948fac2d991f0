import { randomBinomial, randomLcg } from 'd3-random';
import { describe, expect, test } from 'vitest';
import { type AdCell, OddsSums, testAds, usualAdTestRules } from './ad-test.ts';

/** Days of some ad groups with rates of their own; version B's odds are so much better. */
function simulated(seed: number, better: number, { days = 40, groups = 6, shown = 260 } = {}): AdCell[] {
  const source = randomLcg(seed);
  const binomial = randomBinomial.source(source);
  const cells: AdCell[] = [];
  for (let time = 0; time < days; time++)
    for (let stratum = 0; stratum < groups; stratum++) {
      const rate = 0.02 + stratum * 0.012;
      const triesA = Math.round(shown * (0.5 + ((stratum * 7 + time) % 10) / 10));
      const triesB = Math.round(shown * (0.5 + ((stratum * 3 + time * 7) % 10) / 10));
      const odds = (rate / (1 - rate)) * (1 + better);
      const hitsA = binomial(triesA, rate)();
      const hitsB = binomial(triesB, odds / (1 + odds))();
      cells.push({ time, stratum, triesA, hitsA, triesB, hitsB, clicksA: hitsA, clicksB: hitsB });
    }
  return cells;
}

describe('common odds', () => {
  // Eight clinics, topical cream against control: A. Agresti, Categorical Data Analysis, 2nd ed., 2002, table 6.9.
  const clinics = [
    [11, 36, 10, 37],
    [16, 20, 22, 32],
    [14, 19, 7, 19],
    [2, 16, 1, 17],
    [6, 17, 0, 12],
    [1, 11, 0, 10],
    [1, 5, 1, 9],
    [4, 6, 6, 7],
  ] as const;
  const strata = clinics.map(([hitsB, triesB, hitsA, triesA]) => ({ hitsB, triesB, hitsA, triesA }));

  test('are those of a published example', () => {
    const sums = new OddsSums();
    for (const stratum of strata) sums.add(stratum);
    const odds = sums.odds();
    expect(odds?.log).toBeCloseTo(0.758, 3);
    // The variance by its own formula, written out once more over all strata.
    const part = strata.map(({ hitsB: x, triesB, hitsA: y, triesA }) => {
      const n = triesA + triesB;
      return { p: (x + triesA - y) / n, r: (x * (triesA - y)) / n, s: ((triesB - x) * y) / n };
    });
    const sum = (of: (one: (typeof part)[number]) => number) => part.reduce((all, one) => all + of(one), 0);
    const [r, s] = [sum((one) => one.r), sum((one) => one.s)];
    const variance =
      sum((one) => one.p * one.r) / (2 * r * r) +
      sum((one) => one.p * one.s + (1 - one.p) * one.r) / (2 * r * s) +
      sum((one) => (1 - one.p) * one.s) / (2 * s * s);
    expect(odds?.variance).toBeCloseTo(variance, 12);
    // A standard error of 0.30.
    expect(Math.sqrt(odds?.variance ?? 0)).toBeCloseTo(0.3, 1);
  });

  test('what is taken out again leaves nothing behind, and the other way round is the same with another sign', () => {
    const [one, all, turned] = [new OddsSums(), new OddsSums(), new OddsSums()];
    for (const stratum of strata) {
      all.add(stratum);
      const { hitsA, triesA, hitsB, triesB } = stratum;
      turned.add({ hitsA: hitsB, triesA: triesB, hitsB: hitsA, triesB: triesA });
    }
    for (const stratum of strata.slice(1)) all.add(stratum, -1);
    one.add(strata[0] as (typeof strata)[number]);
    expect(all.odds()?.log).toBeCloseTo(one.odds()?.log ?? 0, 9);
    const whole = new OddsSums();
    for (const stratum of strata) whole.add(stratum);
    expect(turned.odds()?.log).toBeCloseTo(-(whole.odds()?.log ?? 0), 9);
    expect(turned.odds()?.variance).toBeCloseTo(whole.odds()?.variance ?? 0, 9);
  });

  test('of what only one version had nothing is told', () => {
    const sums = new OddsSums();
    sums.add({ triesA: 100, hitsA: 10, triesB: 0, hitsB: 0 });
    expect(sums.odds()).toBeNull();
    sums.add({ triesA: 100, hitsA: 0, triesB: 100, hitsB: 4 });
    expect(sums.odds()).toBeNull();
  });
});

describe('two ads', () => {
  test('without a difference are decided in at most 6 of 100 tests over all looks', () => {
    let decided = 0;
    for (let run = 0; run < 2_000; run++) {
      const { verdict } = testAds(simulated((run + 0.5) / 2_000, 0, { days: 60 }), usualAdTestRules);
      if (verdict === 'a' || verdict === 'b') decided++;
    }
    expect(decided / 2_000).toBeLessThanOrEqual(0.06);
    expect(decided).toBeGreaterThan(0);
  });

  test('with the difference that was promised are decided in 78 of 100, for the better one', () => {
    let [better, worse, looks] = [0, 0, 0];
    for (let run = 0; run < 500; run++) {
      const found = testAds(simulated((run + 0.25) / 500, 0.158, { days: 60 }), usualAdTestRules);
      expect(found.told).toBe(1);
      if (found.verdict === 'b') better++;
      if (found.verdict === 'a') worse++;
      looks += found.looks;
    }
    expect(better / 500).toBeGreaterThanOrEqual(0.78);
    expect(worse).toBe(0);
    // Many are decided before the last look.
    expect(looks / 500).toBeLessThan(usualAdTestRules.looks);
  });

  test('are alike where as much was told as the difference needs, and open before that with what is missing', () => {
    const cells = simulated(0.11, 0, { days: 60 });
    expect(testAds(cells, usualAdTestRules).verdict).toBe('alike');
    const some = testAds(cells.slice(0, 18), usualAdTestRules);
    expect(some.verdict).toBe('open');
    const tries = some.a.tries + some.b.tries;
    expect(((some.more ?? 0) + tries) * some.told).toBeCloseTo(tries, -2);
    expect(testAds(cells.slice(0, 4), usualAdTestRules).verdict).toBe('few');
    expect(testAds([], usualAdTestRules)).toMatchObject({
      verdict: 'few',
      difference: null,
      more: null,
      looks: 0,
    });
  });

  test('what was decided stands, whatever comes after', () => {
    const cells = simulated(0.4, 0.5, { days: 60 });
    const early = testAds(cells, usualAdTestRules);
    expect(early.verdict).toBe('b');
    const turned = cells.map((cell) =>
      cell.time <= (early.at ?? 0) ? cell : { ...cell, hitsB: 0, clicksB: 0 },
    );
    expect(testAds(turned, usualAdTestRules)).toMatchObject({ verdict: 'b', at: early.at });
  });

  test('the difference is told as a part of the rate of the first, with an interval', () => {
    const { difference } = testAds(simulated(0.6, 0.3, { days: 200 }), usualAdTestRules);
    expect(difference?.by).toBeGreaterThan(0.22);
    expect(difference?.by).toBeLessThan(0.34);
    expect(difference?.low ?? 1).toBeLessThan(difference?.by ?? 0);
    expect(difference?.high ?? 0).toBeGreaterThan(difference?.by ?? 1);
  });
});
