/// <reference path="./jstat.d.ts" />
import jstat from 'jstat';

/** The quantile of the standard normal distribution. */
export const normalQuantile = (p: number): number => jstat.normal.inv(p, 0, 1);
/** How often a standard normal is under `z`. */
export const normalBelow = (z: number): number => jstat.normal.cdf(z, 0, 1);

/** How often `of` or fewer of `all` happen where each does so with this chance. By the incomplete beta function. */
export function binomialAtMost(of: number, all: number, chance: number): number {
  if (of >= all || chance <= 0) return 1;
  if (of < 0 || chance >= 1) return 0;
  return 1 - jstat.beta.cdf(chance, of + 1, all - of);
}

/** Expected counts above which a Poisson is as good as normal. */
const MANY = 1_000;

/** How often `of` or more happen where this many are expected. */
export function poissonAtLeast(of: number, expected: number): number {
  if (of <= 0) return 1;
  if (expected <= 0) return 0;
  if (expected > MANY) return normalBelow((expected - (of - 0.5)) / Math.sqrt(expected));
  return Math.min(1, jstat.lowRegGamma(of, expected));
}

/** How often `of` or fewer are counted, of counts with this mean and variance; a variance above the mean. */
export function negativeBinomialAtMost(of: number, mean: number, variance: number): number {
  if (of < 0) return 0;
  if (mean <= 0) return 1;
  const size = (mean * mean) / Math.max(variance - mean, 1e-9 * mean);
  return jstat.beta.cdf(size / (size + mean), size, Math.floor(of) + 1);
}

export const logGamma = (x: number): number => jstat.gammaln(x);
/** The logarithm of the beta function. */
export const logBeta = (a: number, b: number): number => logGamma(a) + logGamma(b) - logGamma(a + b);
