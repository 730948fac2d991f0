import { logBeta } from './tails.ts';

/** So many of so many. */
export type Sample = { of: number; all: number };
/** Rates of a beta distribution: `of` out of `all` that were seen before anything was. */
export type Prior = Sample;

/** A prior that knows no more than this many, and one that knows next to nothing. */
const MOST_KNOWN = 1_000_000;
const LEAST_KNOWN = 1;
const TURNS = 200;

/**
 * The beta prior under which samples are most likely: their counts are beta-binomial. The mean is found for each strength,
 * and the strength by golden section over its logarithm. null where nothing was seen. O(samples × turns).
 *
 * Source: B. P. Carlin and T. A. Louis, Bayes and Empirical Bayes Methods for Data Analysis, 2nd ed., 2000, section 3.2.
 */
export function betaPrior(samples: readonly Sample[]): Prior | null {
  const seen = samples.filter(({ all }) => all > 0);
  const all = seen.reduce((sum, one) => sum + one.all, 0);
  const of = seen.reduce((sum, one) => sum + one.of, 0);
  if (all === 0) return null;
  // Where all or none of them happened the rate itself is not known either.
  const mean = Math.min(Math.max((of + 0.5) / (all + 1), 1e-9), 1 - 1e-9);
  const strength = strongest(seen, mean);
  return { of: mean * strength, all: strength };
}

const GOLDEN = (Math.sqrt(5) - 1) / 2;

function strongest(samples: readonly Sample[], mean: number): number {
  let [low, high] = [Math.log(LEAST_KNOWN), Math.log(MOST_KNOWN)];
  const likely = (log: number) => likelihood(samples, mean, Math.exp(log));
  let [a, b] = [high - GOLDEN * (high - low), low + GOLDEN * (high - low)];
  let [atA, atB] = [likely(a), likely(b)];
  for (let turn = 0; turn < TURNS && high - low > 1e-3; turn++)
    if (atA > atB) {
      high = b;
      [b, atB] = [a, atA];
      a = high - GOLDEN * (high - low);
      atA = likely(a);
    } else {
      low = a;
      [a, atA] = [b, atB];
      b = low + GOLDEN * (high - low);
      atB = likely(b);
    }
  return Math.exp((low + high) / 2);
}

function likelihood(samples: readonly Sample[], mean: number, strength: number): number {
  const [yes, no] = [mean * strength, (1 - mean) * strength];
  const before = logBeta(yes, no);
  let sum = 0;
  for (const { of, all } of samples) sum += logBeta(yes + of, no + all - of) - before;
  return sum;
}

/** The rate to expect of a sample, drawn to the prior's the more the less it has seen. */
export const shrunkRate = ({ of, all }: Sample, prior: Prior): number => (of + prior.of) / (all + prior.all);
