import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { asMicros } from '../money/index.ts';
import { bandOf, boundedBid, usualBidRules, worthOfClicks } from './index.ts';

const M = 1_000_000;
const earned = (rows: readonly (readonly [clicks: number, conversions: number, value?: number])[]) => ({
  clicks: Float64Array.from(rows, ([clicks]) => clicks),
  conversions: Float64Array.from(rows, ([, conversions]) => conversions),
  value: Float64Array.from(rows, ([, , value = 0]) => value * M),
});

test.each([
  [1, null],
  [3.4, null],
  [3.5, 20],
  [7.9, 20],
  [8, 35],
  [40, 35],
])('at position %f bids change by %s percent', (position, by) => {
  expect(bandOf(position, usualBidRules.bands)?.by ?? null).toBe(by);
  expect(bandOf(position, usualBidRules.bands.toReversed())?.by ?? null).toBe(by);
});

describe('what a click may cost', () => {
  test('is the rate to expect times what a conversion may cost', () => {
    const found = worthOfClicks(earned([[100_000, 5_000]]), [], { cost: 20 * M, return: null });
    expect(found?.rates[0]).toBeCloseTo(0.05, 3);
    expect((found?.worth?.[0] ?? 0) / M).toBeCloseTo(1, 2);
  });

  test('by a return is what it brings by that return, valued by what is nearest with enough', () => {
    const rows = earned([
      [100_000, 5_000, 250_000],
      [100_000, 5_000, 100_000],
      [100, 2, 999_999],
    ]);
    const groups = Int32Array.of(0, 1, 1);
    const { rates, worth } = worthOfClicks(rows, [groups], { cost: null, return: 5 }) ?? {};
    // 50 and 20 a conversion; the third is valued by its ad group, not by its own two.
    expect((worth?.[0] ?? 0) / M).toBeCloseTo(((rates?.[0] ?? 0) * 50) / 5, 6);
    expect((worth?.[1] ?? 0) / M).toBeCloseTo(((rates?.[1] ?? 0) * 20) / 5, 6);
    expect((worth?.[2] ?? 0) / M).toBeCloseTo(((rates?.[2] ?? 0) * (1_099_999 / 5_002)) / 5, 6);
  });

  test('is by the aim of each row, and none where a row has none', () => {
    const rows = earned([
      [100_000, 5_000],
      [100_000, 5_000],
      [100_000, 5_000],
    ]);
    const costs = [10 * M, 20 * M, null];
    const { worth } = worthOfClicks(rows, [], (row) => ({ cost: costs[row] ?? null, return: null })) ?? {};
    expect((worth?.[1] ?? 0) / (worth?.[0] ?? 1)).toBeCloseTo(2, 6);
    expect(worth?.[2]).toBeNaN();
  });

  test('is not told without an aim, without a value, or where nothing sold', () => {
    const rows = earned([[1_000, 40]]);
    expect(worthOfClicks(rows, [], { cost: null, return: null })?.worth).toBeNull();
    expect(worthOfClicks(rows, [], { cost: null, return: 4 })?.worth).toBeNull();
    expect(worthOfClicks(earned([[1_000, 0]]), [], { cost: M, return: null })).toBeNull();
    expect(worthOfClicks(earned([[1_000, -3]]), [], { cost: M, return: null })).toBeNull();
    expect(worthOfClicks(earned([]), [], { cost: M, return: null })).toBeNull();
    expect(worthOfClicks(rows, [], { cost: 0, return: null })?.worth).toBeNull();
  });
});

describe('a bid on its way', () => {
  const bounds = { most: 30, floor: asMicros(50_000), ceiling: asMicros(5 * M), increment: asMicros(10_000) };
  test.each([
    [1_000_000, 1_100_000, 1_100_000, 'none'],
    [1_000_000, 2_000_000, 1_300_000, 'most'],
    [1_000_000, 10_000, 700_000, 'most'],
    [4_500_000, 5_600_000, 5_000_000, 'ceiling'],
    [60_000, 40_000, 50_000, 'floor'],
    // Held above the ceiling by hand: it stays there, or comes down.
    [6_000_000, 7_000_000, 6_000_000, 'ceiling'],
    [6_000_000, 5_500_000, 5_500_000, 'none'],
    [1_000_000, 1_004_000, 1_000_000, 'none'],
    [10_000, 0, 10_000, 'most'],
  ])('from %i towards %i is %i', (now, wanted, bid, by) => {
    expect(boundedBid(asMicros(now), wanted, bounds)).toEqual({ bid, by });
  });

  test('never goes the other way, nor beyond what is wanted by more than half an increment', () => {
    const cents = fc.integer({ min: 1, max: 1_000 });
    fc.assert(
      fc.property(
        cents,
        fc.integer({ min: 0, max: 20_000_000 }),
        fc.integer({ min: 0, max: 100 }),
        (now, to, most) => {
          const from = now * 10_000;
          const { bid } = boundedBid(asMicros(from), to, { ...bounds, most });
          expect(bid % 10_000).toBe(0);
          expect(bid).toBeGreaterThan(0);
          if (to >= from) expect(bid).toBeGreaterThanOrEqual(from);
          else expect(bid).toBeLessThanOrEqual(from);
          expect(Math.abs(bid - from)).toBeLessThanOrEqual(
            Math.max((from * most) / 100, Math.abs(to - from)) + 5_000,
          );
        },
      ),
    );
  });
});
