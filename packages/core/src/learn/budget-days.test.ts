import fc from 'fast-check';
import { expect, test } from 'vitest';
import { asMicros } from '../money/index.ts';
import {
  asDay,
  budgetDays,
  countsDifferMoreThanChance,
  dispersionOf,
  type FactTable,
  isoDay,
  type ToldFigures,
} from './index.ts';

type Row = Partial<ToldFigures> & { place: number; day: number };

/** Places are each their own campaign. */
function tableOf(rows: readonly Row[], places: number, days: number): FactTable {
  const names = ['impressions', 'clicks', 'cost', 'share', 'lostBudget'] as const;
  const column = (name: (typeof names)[number]) => Float64Array.from(rows, (row) => row[name] ?? Number.NaN);
  const told = names.filter((name) => rows.some((row) => row[name] !== undefined));
  return {
    rows: rows.length,
    time: Uint16Array.from(rows, ({ day }) => day),
    place: Uint32Array.from(rows, ({ place }) => place),
    times: Array.from({ length: days }, (_, at) => ({ from: asDay(20_000 + at), to: asDay(20_000 + at) })),
    campaignOf: Uint32Array.from({ length: places }, (_, at) => at),
    campaigns: places,
    figures: Object.fromEntries(told.map((name) => [name, column(name)])),
    full: new Set(told.filter((name) => rows.every((row) => row[name] !== undefined))),
  } as unknown as FactTable;
}
const M = 1_000_000;

test('a day counts as one on which the budget ran out by the share that was lost to it, and tells what was missed', () => {
  const table = tableOf(
    [
      { place: 0, day: 0, impressions: 80, clicks: 8, cost: 9 * M, share: 8_000, lostBudget: 1_000 },
      { place: 0, day: 1, impressions: 90, clicks: 9, cost: 10 * M, share: 9_600, lostBudget: 400 },
      { place: 1, day: 0, impressions: 50, clicks: 5, cost: 9.6 * M },
    ],
    2,
    3,
  );
  const found = budgetDays(table, 2, new Uint8Array(6).fill(1), () => asMicros(10 * M));
  expect(found[0]).toMatchObject({ told: 3, out: 1, last: isoDay(asDay(20_000)), cost: 19 * M });
  // 100 were to be had, a tenth of them was lost, a tenth is clicked.
  expect(found[0]?.missed?.impressions).toBeCloseTo(10, 6);
  expect(found[0]?.missed?.clicks).toBeCloseTo(1, 6);
  // No share is told of the other: all but spent counts.
  expect(found[1]).toEqual({ told: 3, out: 1, last: isoDay(asDay(20_000)), cost: 9.6 * M, missed: null });
  expect(budgetDays(table, 2, new Uint8Array(6).fill(1), () => null)[1]?.out).toBe(0);
  expect(budgetDays(table, 2, new Uint8Array(6), () => null)).toEqual([null, null]);
});

test('counts that vary by chance alone have no dispersion, those of good and bad days have', () => {
  const days = 28;
  const noise = (at: number) => ((Math.imul(at + 1, 2_654_435_761) >>> 8) % 1_000) / 1_000;
  /** Poisson by the product of uniform numbers (Knuth). */
  const poisson = (mean: number, seed: number) => {
    let [count, left] = [0, Math.exp(-mean)];
    for (let product = noise(seed); product > left; product *= noise(seed * 31 + count * 977)) count++;
    return count;
  };
  const rows = (meanOn: (day: number) => number): Row[] =>
    Array.from({ length: 40 * days }, (_, at) => ({
      place: Math.floor(at / days),
      day: at % days,
      clicks: poisson(meanOn(at % days), at),
    }));
  const alphaOf = (own: Row[]) =>
    dispersionOf(
      tableOf(own, 40, days),
      'clicks',
      Int32Array.from(own, ({ place }) => place),
      40,
      Int32Array.from({ length: days }, (_, at) => at),
      days,
    );
  const quiet = alphaOf(rows(() => 6));
  const uneven = alphaOf(rows((day) => (day % 2 === 0 ? 3 : 9)));
  expect(quiet).toBeLessThan(0.05);
  // Means of 3 and 9 vary by 9 about 6: 9 / 6² = 0.25.
  expect(uneven).toBeGreaterThan(0.18);
  expect(uneven).toBeLessThan(0.34);
});

test('the more days vary, the more two counts have to differ', () => {
  // 2,000 against 2,200 of Poisson days: z = 200 / √4,200 = 3.09.
  expect(countsDifferMoreThanChance(2_000, 2_200, 28, 0)).toBe(true);
  expect(countsDifferMoreThanChance(2_000, 2_200, 28, 0.2)).toBe(false);
  expect(countsDifferMoreThanChance(3, 4, 28, 0)).toBeNull();
  expect(countsDifferMoreThanChance(-1, 40, 28, 0)).toBeNull();
  fc.assert(
    fc.property(
      fc.nat(10_000),
      fc.nat(10_000),
      fc.integer({ min: 1, max: 60 }),
      fc.double({ min: 0, max: 1, noNaN: true }),
      (a, b, days, alpha) => {
        expect(countsDifferMoreThanChance(a, b, days, alpha)).toBe(
          countsDifferMoreThanChance(b, a, days, alpha),
        );
        if (countsDifferMoreThanChance(a, b, days, alpha))
          expect(countsDifferMoreThanChance(a, b, days, 0)).toBe(true);
      },
    ),
  );
});
