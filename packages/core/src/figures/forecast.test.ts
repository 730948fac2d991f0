import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { asMicros, medianOf } from '../money/index.ts';
import {
  type Aim,
  type Assumptions,
  addForecast,
  aimedBid,
  assumptionLimits,
  type Curve,
  CurveMaker,
  ForecastRange,
  forecastAt,
  type Headroom,
  nothingForecast,
  perDay,
  TOLD_DOUBT,
  usualAssumptions,
  withinBudget,
} from './index.ts';

const penny = asMicros(10_000);
const point = (position: number, bid: number, clicks: number, share: number) => ({
  position,
  bid: asMicros(bid),
  impressions: clicks * 10,
  clicks,
  share,
});
const curve: Curve = [point(1, 1_000_000, 100, 0.9), point(2, 800_000, 60, 0.8), point(3, 500_000, 30, 0.6)];

describe('what a bid brings', () => {
  test.each([
    ['under the last position', 490_000, 0, 0, null, 0],
    ['at a position', 800_000, 60, 48_000_000, 2, 0.8],
    ['between two', 900_000, 80, 72_000_000, 1.5, 0.85],
    ['above the top its price is paid', 5_000_000, 100, 100_000_000, 1, 0.9],
  ])('%s', (_, bid, clicks, cost, position, share) => {
    const found = forecastAt(curve, asMicros(bid));
    expect(found.clicks).toBeCloseTo(clicks);
    expect(found.share).toBeCloseTo(share);
    expect(found.impressions).toBeCloseTo(clicks * 10);
    expect([found.cost, found.position]).toEqual([cost, position]);
  });

  test('nothing is known: nothing comes', () =>
    expect(forecastAt([], penny)).toEqual({ clicks: 0, cost: 0, position: null, impressions: 0, share: 0 }));

  test('a higher bid never brings less and never costs less; cost is whole micros', () => {
    fc.assert(
      fc.property(fc.nat(2_000_000), fc.nat(500_000), (bid, more) => {
        const [low, high] = [forecastAt(curve, asMicros(bid)), forecastAt(curve, asMicros(bid + more))];
        expect(high.clicks).toBeGreaterThanOrEqual(low.clicks);
        expect(high.cost).toBeGreaterThanOrEqual(low.cost);
        expect(Number.isInteger(low.cost)).toBe(true);
      }),
      { seed: 3 },
    );
  });

  test('by day, and within its budget', () => {
    const month = addForecast({ clicks: 365, cost: asMicros(365_000_000) }, nothingForecast);
    expect(perDay(month)).toEqual({ clicks: 12, cost: 12_000_000 });
    expect(withinBudget(perDay(month), asMicros(20_000_000))).toEqual({
      clicks: 12,
      cost: 12_000_000,
      reached: 10_000,
    });
    expect(withinBudget(perDay(month), asMicros(3_000_000))).toEqual({
      clicks: 3,
      cost: 3_000_000,
      reached: 2_500,
    });
    expect(withinBudget(perDay(month), asMicros(0))).toEqual({ clicks: 0, cost: 0, reached: 0 });
  });
});

describe('aim', () => {
  const limits = { ceiling: asMicros(900_000), increment: penny };
  test.each([
    [{ kind: 'position', at: 3 }, 0, { bid: 500_000 }],
    [{ kind: 'position', at: 2 }, 1_000, { bid: 880_000 }],
    [{ kind: 'position', at: 2 }, 5_000, { bid: 900_000 }],
    [{ kind: 'position', at: 1.5 }, 0, { bid: 900_000 }],
    [{ kind: 'position', at: 1 }, 0, { unreachable: 'above-ceiling' }],
    [{ kind: 'position', at: 8 }, 0, { bid: 500_000 }],
    [{ kind: 'share', at: 7_000 }, 0, { bid: 650_000 }],
    [{ kind: 'share', at: 8_000 }, 0, { bid: 800_000 }],
    [{ kind: 'share', at: 9_500 }, 0, { unreachable: 'out-of-reach' }],
    [{ kind: 'position', at: 3 }, { next: 5_000 }, { bid: 650_000 }],
    [{ kind: 'position', at: 2.5 }, { next: 10_000 }, { bid: 800_000 }],
    [{ kind: 'position', at: 2 }, { next: 10_000 }, { bid: 900_000 }],
    [{ kind: 'share', at: 7_000 }, { next: 0 }, { bid: 650_000 }],
  ] as [Aim, Headroom, unknown][])('%j with %j more', (aim, headroom, expected) =>
    expect(aimedBid(curve, aim, headroom, limits)).toEqual(expected),
  );
  test('nothing is known', () =>
    expect(aimedBid([], { kind: 'position', at: 1 }, 0, limits)).toEqual({ unreachable: 'no-estimate' }));

  test('what is aimed at is reached', () => {
    fc.assert(
      fc.property(fc.double({ min: 1, max: 3, noNaN: true }), (at) => {
        const aimed = aimedBid(curve, { kind: 'position', at }, 0, {
          ceiling: asMicros(9e6),
          increment: asMicros(1),
        });
        expect('bid' in aimed && (forecastAt(curve, aimed.bid).position ?? 9)).toBeLessThanOrEqual(at + 1e-4);
      }),
      { seed: 4 },
    );
  });
});

test.each([
  [[], null],
  [[5], 5],
  [[3, 1, 2], 2],
  [[1, 2], 2],
  [[4, 1, 3, 2], 3],
  [[1, 3], 2],
])('the median of %j is %j', (amounts, expected) => expect(medianOf(amounts.map(asMicros))).toBe(expected));

describe('curves by the plan’s assumptions', () => {
  const maker = new CurveMaker(usualAssumptions);
  const cpc = 400_000;

  test('worked by hand: 1,000 searches at £0.40, competition not known', () => {
    const curve = maker.of({ searches: 1_000, cpc, competition: null });
    expect(curve.map(({ position }) => position)).toEqual([1, 2, 3, 4, 5, 6, 7, 8]);
    expect(curve.map(({ bid }) => bid)).toEqual([
      500_000, 400_000, 320_000, 256_000, 204_800, 163_840, 131_072, 104_858,
    ]);
    expect(curve[0]?.impressions).toBeCloseTo(950);
    expect(curve[0]?.clicks).toBeCloseTo(76);
    expect(curve[1]?.impressions).toBeCloseTo(874);
    expect(curve[1]?.clicks).toBeCloseTo(874 * 0.08 * 0.68);
    expect(curve[7]?.share).toBeCloseTo(0.95 * 0.92 ** 7);
  });

  test.each([
    [0, 440_000],
    [100, 580_000],
    [50, 510_000],
  ])('competition %i: the top costs %i', (competition, top) =>
    expect(maker.of({ searches: 10, cpc, competition })[0]?.bid).toBe(top),
  );

  test.each([
    { searches: null, cpc, competition: 3 },
    { searches: 10, cpc: null, competition: 3 },
    { searches: 10, cpc: 0, competition: null },
  ])('without a figure there is no forecast: %j', (keyword) => {
    expect(maker.of(keyword)).toEqual([]);
    expect(maker.add(keyword, asMicros(1e6), { clicks: 0, cost: 0, impressions: 0 })).toBe(false);
  });

  test('told 0 searches are forecast: nothing comes', () =>
    expect(forecastAt(maker.of({ searches: 0, cpc, competition: 1 }), asMicros(1e9))).toMatchObject({
      clicks: 0,
      cost: 0,
      position: 1,
    }));

  test('what was measured stands before what is assumed', () => {
    const measured = new CurveMaker({
      ...usualAssumptions,
      measured: { ctr: [0.2, 0.1], price: [2, 1], account: 'Spring', from: '2026-11-01', to: '2026-11-28' },
    });
    const curve = measured.of({ searches: 100, cpc, competition: null });
    expect(curve.slice(0, 2).map(({ bid, clicks }) => [bid, Math.round(clicks * 100) / 100])).toEqual([
      [800_000, 19],
      [400_000, 8.74],
    ]);
  });

  const assumed = fc.record(
    Object.fromEntries(
      Object.entries(assumptionLimits).map(([name, [from, to]]) => [
        name,
        fc.integer({ min: from, max: to }),
      ]),
    ),
  ) as unknown as fc.Arbitrary<Assumptions>;
  const keywords = fc.record({
    searches: fc.nat(2_000_000),
    cpc: fc.integer({ min: 1, max: 90_000_000 }),
    competition: fc.option(fc.nat(100)),
  });

  test('whatever is assumed: more bid never brings less, clicks never pass the searches, and both ways agree', () => {
    fc.assert(
      fc.property(
        assumed,
        keywords,
        fc.nat(200_000_000),
        fc.nat(50_000_000),
        (assumptions, keyword, bid, more) => {
          const any = new CurveMaker(assumptions);
          const curve = any.of(keyword);
          const [low, high] = [forecastAt(curve, asMicros(bid)), forecastAt(curve, asMicros(bid + more))];
          expect(high.clicks).toBeGreaterThanOrEqual(low.clicks - 1e-9);
          expect(high.impressions).toBeGreaterThanOrEqual(low.impressions - 1e-9);
          expect(high.cost).toBeGreaterThanOrEqual(low.cost);
          expect(high.impressions).toBeLessThanOrEqual(keyword.searches + 1e-9);
          const sum = { clicks: 0, cost: 0, impressions: 0 };
          any.add(keyword, asMicros(bid), sum);
          expect(sum.clicks).toBeCloseTo(low.clicks, 6);
          expect(Math.abs(sum.cost - low.cost)).toBeLessThanOrEqual(1);
          expect(sum.impressions).toBeCloseTo(low.impressions, 6);
        },
      ),
      { seed: 5, numRuns: 400 },
    );
  });
});

describe('the range of a forecast', () => {
  const rangeOf = (keywords: number) => {
    const range = new ForecastRange();
    for (let n = 0; n < keywords; n++) range.add({ clicks: 10, cost: asMicros(5_000_000) }, TOLD_DOUBT);
    const { low, high } = range.between();
    return {
      low: low.clicks / (keywords * 10),
      high: high.clicks / (keywords * 10),
      cost: high.cost / (keywords * 5e6),
    };
  };

  test('of one keyword it holds its own doubt and that of the assumptions; of many the latter stays', () => {
    const [one, many] = [rangeOf(1), rangeOf(10_000)];
    expect(one.high).toBeCloseTo(1.33, 2);
    expect(one.cost).toBeGreaterThan(one.high);
    expect(many.high).toBeCloseTo(1.25, 2);
    expect(many.low).toBeCloseTo(0.8, 2);
  });

  test('of nothing there is none', () =>
    expect(rangeOf(0)).toEqual({ low: Number.NaN, high: Number.NaN, cost: Number.NaN }));
});
