import { randomGamma, randomLcg, randomPoisson } from 'd3-random';
import { describe, expect, test } from 'vitest';
import { unlikeDays } from './index.ts';

const DAYS = 84;
const WEEKDAYS = [1.2, 1.1, 1, 1, 0.9, 0.6, 0.5];

/** Campaigns from 2 to 400 a day with weekdays of their own, varying more than chance. */
function quiet(seed: number, campaigns: number, alpha = 0.03): Float64Array[] {
  const source = randomLcg(seed);
  return Array.from({ length: campaigns }, (_, at) => {
    const size = 2 * 1.3 ** (at % 20);
    return Float64Array.from({ length: DAYS }, (__, day) => {
      const mean = size * (WEEKDAYS[(day + at) % 7] as number);
      const rate = alpha > 0 ? mean * randomGamma.source(source)(1 / alpha, alpha)() : mean;
      return randomPoisson.source(source)(rate)();
    });
  });
}

describe('unlike days', () => {
  test.each([0, 0.03, 0.15])(
    'on quiet days fewer than 1 in 100 are flagged on each side (alpha %f)',
    (alpha) => {
      let [dips, rises, judged] = [0, 0, 0];
      for (let run = 0; run < 5; run++) {
        const series = quiet(0.1 + run / 6, 60, alpha);
        const from = 56;
        for (const { seen, expected } of unlikeDays(series, from))
          if (seen < expected) dips++;
          else rises++;
        judged += series.length * (DAYS - from);
      }
      expect(dips / judged).toBeLessThan(0.01);
      expect(rises / judged).toBeLessThan(0.01);
      expect(dips + rises).toBeGreaterThan(0);
    },
  );

  test('a day that falls to a third, and one that doubles and more, are found with what was to be expected', () => {
    const series = quiet(0.35, 40);
    const big = 39;
    const own = series[big] as Float64Array;
    own[70] = Math.round((own[70] as number) / 3);
    own[75] = (own[75] as number) * 2.6;
    const found = unlikeDays(series, 56).filter((one) => one.series === big);
    expect(found.map(({ day }) => day)).toEqual([70, 75]);
    for (const { seen, expected, low, high } of found) {
      expect(low).toBeLessThan(expected);
      expect(high).toBeGreaterThan(expected);
      expect(seen < low || seen > high).toBe(true);
    }
  });

  test('with fewer than four of the same weekdays before it is silent, and days that are not told are passed over', () => {
    const short = Float64Array.from({ length: 28 }, () => 50);
    short[27] = 0;
    expect(unlikeDays([short], 0)).toEqual([]);
    const gaps = Float64Array.from({ length: 64 }, () => 50);
    for (const day of [0, 7, 14, 21]) gaps[day] = Number.NaN;
    gaps[63] = 0;
    expect(unlikeDays([gaps], 0).map(({ day }) => day)).toEqual([63]);
    gaps[28] = Number.NaN;
    gaps[35] = Number.NaN;
    expect(unlikeDays([gaps.with(42, Number.NaN)], 0)).toEqual([]);
    expect(unlikeDays([], 0)).toEqual([]);
  });

  test('where nothing was ever counted one is no wonder, and many are', () => {
    const none = new Float64Array(70);
    expect(unlikeDays([none.with(69, 1)], 0)).toEqual([]);
    expect(unlikeDays([none.with(69, 30)], 0).map(({ seen }) => seen)).toEqual([30]);
  });
});
