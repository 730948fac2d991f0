import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { asMicros, between, decimalFromMicros, microsFromDecimal, minorUnit, multiplied } from './index.ts';

const money = asMicros;

describe('reading and printing amounts', () => {
  test.each([
    ['0.58', 580_000],
    ['12', 12_000_000],
    ['.5', 500_000],
    ['0.1234565', 123_457],
    ['0.1234564', 123_456],
    ['1e3', undefined],
    ['-1', undefined],
    ['.', undefined],
    ['', undefined],
    ['0,40', undefined],
  ])('%j is %j micros', (text, expected) => expect(microsFromDecimal(text)).toBe(expected));

  test.each([
    [580_000, 2, '0.58'],
    [12_000_000, 2, '12.00'],
    [575_000, 2, '0.575'],
    [12_000_000, 0, '12'],
    [1_000, 3, '0.001'],
  ])('%i micros with %i decimals is %s', (amount, decimals, expected) =>
    expect(decimalFromMicros(money(amount), decimals)).toBe(expected),
  );

  test('the smallest amount follows the currency', () => {
    expect(['JPY', 'GBP', 'KWD'].map(minorUnit)).toEqual([1_000_000, 10_000, 1_000]);
  });
});

describe('multiplying once, rounding once', () => {
  test.each([
    ['the worked example', 400_000, [12_500, 11_500], 10_000, 580_000],
    ['half goes up', 100_000, [10_500], 10_000, 110_000],
    ['just under half goes down', 99_999, [10_500], 10_000, 100_000],
    ['no step', 123_456, [], 10_000, 120_000],
    ['five steps of the greatest size', 1_000_000_000_000, [100_000, 100_000, 100_000], 10_000, 1e15],
  ] as const)('%s', (_, base, steps, increment, expected) =>
    expect(multiplied(money(base), steps, money(increment))).toBe(expected),
  );

  test('the fast path agrees with exact integers', () => {
    const step = fc.integer({ min: 0, max: 100_000 });
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 1e9 }),
        fc.array(step, { maxLength: 4 }),
        fc.constantFrom(1_000, 10_000, 1_000_000),
        (base, steps, increment) => {
          const product = steps.reduce((sum, bp) => sum * BigInt(bp), BigInt(base));
          const unit = BigInt(increment) * 10_000n ** BigInt(steps.length);
          const expected = ((product * 2n + unit) / (unit * 2n)) * BigInt(increment);
          expect(multiplied(money(base), steps, money(increment))).toBe(Number(expected));
        },
      ),
      { seed: 7 },
    );
  });

  test('between floor and ceiling', () => {
    expect([1, 5, 9].map((n) => between(money(n), money(3), money(7)))).toEqual([3, 5, 7]);
  });
});
