import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { eligibleOf, FigureSums, noneTold, resultFigures, type ToldFigures } from './index.ts';

const M = 1_000_000;
const sums = (...rows: Partial<ToldFigures>[]) =>
  rows.reduce((all, row) => all.add({ ...noneTold, ...row }), new FigureSums());

describe('sums of what was told', () => {
  test('ratios are of sums, not means of ratios', () => {
    const all = sums(
      { impressions: 1_000, clicks: 10, cost: 5 * M, conversions: M, value: 40 * M, position: 2_000 },
      { impressions: 10, clicks: 5, cost: M, conversions: 0, value: 0, position: 8_000 },
    );
    expect(all.figure('ctr')).toBeCloseTo(15 / 1_010, 12);
    expect(all.figure('cpc')).toBeCloseTo((6 * M) / 15, 6);
    expect(all.figure('cpm')).toBeCloseTo((6 * M * 1_000) / 1_010, 6);
    expect(all.figure('rate')).toBeCloseTo(1 / 15, 12);
    expect(all.figure('costPerConversion')).toBe(6 * M);
    expect(all.figure('return')).toBeCloseTo(40 / 6, 12);
    // Weighed by impressions.
    expect(all.figure('position')).toBeCloseTo((2 * 1_000 + 8 * 10) / 1_010, 12);
  });

  test('what no row tells is no figure, and nothing over nothing is none', () => {
    const all = sums({ impressions: 0, clicks: 0 });
    expect(all.figure('clicks')).toBe(0);
    expect(all.figure('conversions')).toBeNull();
    expect(all.figure('ctr')).toBeNull();
    expect(all.figure('position')).toBeNull();
  });

  test('a report without conversions does not thin out the rate of one that has them', () => {
    const all = sums({ clicks: 100, conversions: 4 * M }, { clicks: 900 });
    expect(all.figure('clicks')).toBe(1_000);
    expect(all.figure('rate')).toBeCloseTo(0.04, 12);
  });

  test('conversions may be parts, and taken back', () => {
    expect(
      sums({ clicks: 10, conversions: 330_000 }, { clicks: 10, conversions: -M }).figure('conversions'),
    ).toBe(-670_000);
  });

  test('shares add up by what there was to be had', () => {
    // 500 of 1,000 and 100 of 1,000: 600 of 2,000.
    const all = sums(
      { impressions: 500, share: 5_000, lostBudget: 5_000 },
      { impressions: 100, share: 1_000, lostBudget: 0 },
    );
    expect(all.figure('share')).toBeCloseTo(0.3, 12);
    expect(all.figure('lostBudget')).toBeCloseTo(0.25, 12);
    // Without the share, by what was lost.
    expect(eligibleOf({ ...noneTold, impressions: 300, lostBudget: 2_000, lostRank: 5_000 })).toBe(1_000);
    expect(eligibleOf({ ...noneTold, impressions: 300, lostRank: 5_000 })).toBeNull();
    expect(eligibleOf({ ...noneTold, impressions: 0, share: 0 })).toBeNull();
  });

  test('the order of rows, and in which sums they were added, do not matter', () => {
    const row = fc.record({
      impressions: fc.option(fc.nat(1_000)),
      clicks: fc.option(fc.nat(100)),
      cost: fc.option(fc.nat(50 * M)),
      conversions: fc.option(fc.integer({ min: -M, max: 5 * M })),
      value: fc.option(fc.nat(90 * M)),
      position: fc.option(fc.integer({ min: 1_000, max: 12_000 })),
      share: fc.option(fc.integer({ min: 1, max: 10_000 })),
      lostBudget: fc.option(fc.nat(5_000)),
      lostRank: fc.option(fc.nat(4_000)),
    });
    fc.assert(
      fc.property(fc.array(row, { maxLength: 12 }), fc.nat(12), (rows, cut) => {
        const whole = sums(...rows);
        const parts = sums(...rows.slice(cut)).addAll(sums(...rows.slice(0, cut)));
        for (const name of resultFigures) {
          const [a, b] = [whole.figure(name), parts.figure(name)];
          if (a === null || b === null) expect(a).toBe(b);
          else expect(b).toBeCloseTo(a, 6);
        }
      }),
    );
  });
});
