import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { asMicros, medianOf } from '../money/index.ts';
import {
  type Aim,
  addForecast,
  aimedBid,
  type BidChange,
  type Curve,
  changedBid,
  forecastAt,
  nothingForecast,
  perDay,
  withinBudget,
} from './index.ts';

const penny = asMicros(10_000);
const point = (position: number, bid: number, clicks: number, share: number) => ({
  position,
  bid: asMicros(bid),
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
    expect([found.cost, found.position]).toEqual([cost, position]);
  });

  test('nothing is known: nothing comes', () =>
    expect(forecastAt([], penny)).toEqual({ clicks: 0, cost: 0, position: null, share: 0 }));

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
  ] as [Aim, number, unknown][])('%j with %i more', (aim, headroom, expected) =>
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

describe('bulk changes of bids', () => {
  test.each([
    [{ kind: 'set', to: asMicros(555_000) }, 560_000],
    [{ kind: 'percent', by: 1_000 }, 550_000],
    [{ kind: 'percent', by: -3_333 }, 330_000],
    [{ kind: 'percent', by: -10_000 }, 10_000],
    [{ kind: 'amount', by: 25_000 }, 530_000],
    [{ kind: 'amount', by: -900_000 }, 10_000],
    [{ kind: 'round', to: asMicros(200_000) }, 600_000],
    [{ kind: 'round', to: asMicros(5_000) }, 500_000],
    [{ kind: 'between', from: asMicros(600_000), to: asMicros(700_000) }, 600_000],
    [{ kind: 'between', from: asMicros(1), to: asMicros(400_000) }, 400_000],
  ] as [BidChange, number][])('£0.50, %j: %i', (change, expected) =>
    expect(changedBid(asMicros(500_000), change, penny)).toBe(expected),
  );
});

test.each([
  [[], null],
  [[5], 5],
  [[3, 1, 2], 2],
  [[1, 2], 2],
  [[4, 1, 3, 2], 3],
  [[1, 3], 2],
])('the median of %j is %j', (amounts, expected) => expect(medianOf(amounts.map(asMicros))).toBe(expected));
