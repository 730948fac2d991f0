import { normalQuantile } from './tails.ts';

/**
 * The interval that holds a rate, by the score method without correction. Of nothing it is 0 to 1.
 *
 * Source: E. B. Wilson, Probable inference, the law of succession, and statistical inference, 1927; worked examples in R. G.
 * Newcombe, Two-sided confidence intervals for the single proportion, Statistics in Medicine 17, 1998, table I: 81 of 263 at
 * 95% are 0.2553 to 0.3662.
 */
export function wilson(of: number, all: number, level: number): { low: number; high: number } {
  if (all <= 0) return { low: 0, high: 1 };
  const z = zOf(level);
  const rate = Math.min(1, Math.max(0, of / all));
  const middle = rate + (z * z) / (2 * all);
  const half = z * Math.sqrt((rate * (1 - rate)) / all + (z * z) / (4 * all * all));
  const whole = 1 + (z * z) / all;
  return { low: Math.max(0, (middle - half) / whole), high: Math.min(1, (middle + half) / whole) };
}

const quantiles = new Map<number, number>();

function zOf(level: number): number {
  let z = quantiles.get(level);
  if (z === undefined) {
    z = normalQuantile((1 + level) / 2);
    quantiles.set(level, z);
  }
  return z;
}
