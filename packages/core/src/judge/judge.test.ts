import { describe, expect, test } from 'vitest';
import { believed, binomialAtMost, negativeBinomialAtMost, poissonAtLeast, wilson } from './index.ts';

describe('intervals of rates', () => {
  // Newcombe 1998, table I, method 3.
  test.each([
    [81, 263, 0.2553, 0.3662],
    [15, 148, 0.0624, 0.1605],
    [0, 20, 0, 0.1611],
    [1, 29, 0.0061, 0.1718],
  ])('%i of %i are from %f to %f at 95%%', (of, all, low, high) => {
    const found = wilson(of, all, 0.95);
    expect(found.low).toBeCloseTo(low, 4);
    expect(found.high).toBeCloseTo(high, 4);
  });

  test('of nothing all is possible, and what is no share is taken for the nearest', () => {
    expect(wilson(0, 0, 0.9)).toEqual({ low: 0, high: 1 });
    expect(wilson(12, 10, 0.9).high).toBe(1);
    expect(wilson(-3, 10, 0.9).low).toBe(0);
  });
});

test('tails of counts are as they are worked out by hand', () => {
  // (1 - 0.3)^5, and with one of them 5 × 0.3 × 0.7^4 more.
  expect(binomialAtMost(0, 5, 0.3)).toBeCloseTo(0.16807, 10);
  expect(binomialAtMost(1, 5, 0.3)).toBeCloseTo(0.16807 + 0.36015, 10);
  expect(binomialAtMost(5, 5, 0.3)).toBe(1);
  expect(poissonAtLeast(1, 2)).toBeCloseTo(1 - Math.exp(-2), 10);
  expect(poissonAtLeast(3, 2)).toBeCloseTo(1 - 5 * Math.exp(-2), 10);
  // A geometric distribution: mean 1, variance 2, half of what is left each time.
  expect(negativeBinomialAtMost(0, 1, 2)).toBeCloseTo(0.5, 10);
  expect(negativeBinomialAtMost(2, 1, 2)).toBeCloseTo(0.875, 10);
  // Next to no more spread than Poisson.
  expect(negativeBinomialAtMost(1, 2, 2 + 1e-6)).toBeCloseTo(3 * Math.exp(-2), 4);
  // Where many are expected the normal distribution stands in: near enough on both sides of the border.
  expect(poissonAtLeast(1_060, 1_001)).toBeCloseTo(poissonAtLeast(1_060, 999.999), 2);
});

test('of many tests those are believed of which few are wrong', () => {
  // Benjamini and Hochberg 1995, section 4.1.
  const chances = [
    0.0001, 0.0004, 0.0019, 0.0095, 0.0201, 0.0278, 0.0298, 0.0344, 0.0459, 0.324, 0.4262, 0.5719, 0.6528,
    0.759, 1,
  ];
  expect(believed(chances, 0.05).filter(Boolean)).toHaveLength(4);
  expect(believed(chances.toReversed(), 0.05).indexOf(true)).toBe(11);
  expect(believed([], 0.05)).toEqual([]);
});
