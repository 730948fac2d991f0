import { logBeta, logGamma } from './tails.ts';

/** What came of many rows: so many of so many each. Where `of` may be more than `all` they are counted, not drawn. */
export type RatedRows = { of: Float64Array; all: Float64Array };

/** Rows and what they lie in, from the nearest outwards; all of them lie in the plan. Numbers from 0 on. */
type Level = { parent: Int32Array; size: number };

/** A prior is fitted to as many rows at most, those that tell the most. */
const MOST_FITTED = 2_000;
const LEAST_KNOWN = 1;
const MOST_KNOWN = 1_000_000;
const GOLDEN = (Math.sqrt(5) - 1) / 2;
const ROUNDS = 3;
const USUAL_STRENGTH = 100;

/**
 * The rate to expect of each row: its own, drawn to what it lies in the more the less it has seen; that in turn is drawn to
 * what lies around it, up to the plan. How much a level tells about what is in it is found by maximum likelihood
 * (beta-binomial; gamma-Poisson where rows have more than one a try). A level that has nothing but one row each is left out.
 * null where nothing was seen at all. O(rows) and a fit to few.
 *
 * @param levels of each row the number of what it lies in, such as its ad group, then its theme; each has to be in one of the next
 *
 * Source: W. S. Jewell, The use of collateral data in credibility theory: a hierarchical model, Giornale dell’Istituto
 * Italiano degli Attuari 38, 1975, for the weights; B. P. Carlin and T. A. Louis, Bayes and Empirical Bayes Methods for Data
 * Analysis, 2nd ed., 2000, section 3.2, for the likelihoods.
 */
export function expectedRates({ of, all }: RatedRows, levels: readonly Int32Array[]): Float64Array | null {
  const rows = all.length;
  let [seen, sold] = [0, 0];
  for (let row = 0; row < rows; row++) {
    seen += all[row] as number;
    sold += of[row] as number;
  }
  if (seen <= 0) return null;
  const chain = chainOf(all, levels);
  const isDrawn = of.every((one, row) => one <= (all[row] as number));
  const strengths = chain.map(() => USUAL_STRENGTH);
  const mean = Math.max((sold + 0.5) / (seen + 1), 1e-9);
  let up = weighUp({ of, all }, chain, strengths, mean);
  for (let round = 0; round < ROUNDS; round++) {
    for (const at of chain.keys()) {
      // Weights count as what was seen: of rows they are that.
      const own = at === 0 ? { of, all } : asSamples(up[at] as Weighed);
      const around = outside(up, chain, strengths, at, mean);
      strengths[at] = strengthOf(own, around, isDrawn || at > 0);
    }
    up = weighUp({ of, all }, chain, strengths, mean);
  }
  return drawDown(up, chain, strengths, mean);
}

/** Those rates where it is known how much each level, and in the end the plan, tells about what is in it. */
export function ratesUnder(
  seen: RatedRows,
  levels: readonly Int32Array[],
  strengths: readonly number[],
  mean: number,
) {
  const chain = chainOf(seen.all, levels);
  return drawDown(weighUp(seen, chain, strengths, mean), chain, strengths, mean);
}

/** Each level below the plan that has anything with two in it; the last has the plan as its parent. */
function chainOf(all: Float64Array, levels: readonly Int32Array[]): Level[] {
  const chain: Level[] = [];
  // What of the level below each row is in: at first itself.
  let own = Int32Array.from(all.keys());
  let size = all.length;
  for (const level of levels) {
    const count = level.reduce((most, one) => Math.max(most, one + 1), 0);
    const parent = new Int32Array(size);
    const first = new Int32Array(count).fill(-1);
    let isNeeded = false;
    for (let row = 0; row < own.length; row++) {
      const [child, into] = [own[row] as number, level[row] as number];
      parent[child] = into;
      if ((all[row] as number) <= 0) continue;
      if (first[into] === -1) first[into] = child;
      else if (first[into] !== child) isNeeded = true;
    }
    if (!isNeeded) continue;
    chain.push({ parent, size });
    own = Int32Array.from(level);
    size = count;
  }
  chain.push({ parent: new Int32Array(size), size });
  return chain;
}

/** Of each at a level: what it tells about the rate of what it lies in, and how much. */
type Weighed = { rate: Float64Array; weight: Float64Array };

const asSamples = ({ rate, weight }: Weighed): RatedRows => ({
  of: rate.map((one, at) => one * (weight[at] as number)),
  all: weight,
});

/** From rows up: sums of each level by what they tell. The first are the rows themselves, the last is the plan. */
function weighUp(
  { of, all }: RatedRows,
  chain: readonly Level[],
  strengths: readonly number[],
  mean: number,
) {
  const rate = of.map((one, row) => ((all[row] as number) > 0 ? one / (all[row] as number) : mean));
  const up: Weighed[] = [{ rate, weight: all }];
  for (const [at, { parent }] of chain.entries()) {
    const below = up[at] as Weighed;
    const strength = strengths[at] as number;
    const size = chain[at + 1]?.size ?? 1;
    const sum = { rate: new Float64Array(size), weight: new Float64Array(size) };
    for (let child = 0; child < parent.length; child++) {
      const told = toldBy(below.weight[child] as number, strength);
      const into = parent[child] as number;
      sum.weight[into] = (sum.weight[into] as number) + told;
      sum.rate[into] = (sum.rate[into] as number) + told * (below.rate[child] as number);
    }
    for (let into = 0; into < size; into++) {
      const weight = sum.weight[into] as number;
      sum.rate[into] = weight > 0 ? (sum.rate[into] as number) / weight : mean;
    }
    up.push(sum);
  }
  return up;
}

/** How much a sample tells about what it lies in: never more than the strength of that. */
const toldBy = (seen: number, strength: number): number => (seen * strength) / (seen + strength);

/** From the plan down: each drawn to what it lies in. */
function drawDown(
  up: readonly Weighed[],
  chain: readonly Level[],
  strengths: readonly number[],
  mean: number,
): Float64Array {
  let above = Float64Array.of(
    (up.at(-1) as Weighed).weight[0] ? ((up.at(-1) as Weighed).rate[0] as number) : mean,
  );
  for (let at = chain.length - 1; at >= 0; at--) {
    const { parent } = chain[at] as Level;
    const { rate, weight } = up[at] as Weighed;
    const strength = strengths[at] as number;
    const outer = above;
    above = rate.map((own, child) => {
      const seen = weight[child] as number;
      return (own * seen + strength * (outer[parent[child] as number] as number)) / (seen + strength);
    });
  }
  return above;
}

/** What each at a level would be expected to be by all that is around it, itself left out. */
function outside(
  up: readonly Weighed[],
  chain: readonly Level[],
  strengths: readonly number[],
  at: number,
  mean: number,
): Float64Array {
  const { parent } = chain[at] as Level;
  const [own, into] = [up[at] as Weighed, up[at + 1] as Weighed];
  const isPlan = at === chain.length - 1;
  const further = isPlan
    ? null
    : drawDown(up.slice(at + 1), chain.slice(at + 1), strengths.slice(at + 1), mean);
  const strength = strengths[at] as number;
  const next = isPlan ? 0 : (strengths[at + 1] as number);
  return own.rate.map((rate, child) => {
    const outer = parent[child] as number;
    const told = toldBy(own.weight[child] as number, strength);
    const rest = (into.weight[outer] as number) - told;
    const sum = (into.weight[outer] as number) * (into.rate[outer] as number) - told * rate;
    const prior = further ? (further[outer] as number) : mean;
    const weight = rest + next;
    return weight > 1e-9 ? (sum + next * prior) / weight : prior;
  });
}

/** The strength under which what was seen is most likely. By golden section over its logarithm. */
function strengthOf({ of, all }: RatedRows, means: Float64Array, isDrawn: boolean): number {
  const seen = Array.from(all.keys()).filter((at) => (all[at] as number) >= 1);
  if (seen.length > MOST_FITTED) seen.sort((a, b) => (all[b] as number) - (all[a] as number) || a - b);
  const fitted = seen.slice(0, MOST_FITTED).map((at) => {
    const mean = Math.max(means[at] as number, 1e-9);
    return { of: of[at] as number, all: all[at] as number, mean: isDrawn ? Math.min(mean, 1 - 1e-9) : mean };
  });
  const likely = (log: number) => {
    const strength = Math.exp(log);
    return fitted.reduce((sum, one) => sum + (isDrawn ? drawn(one, strength) : counted(one, strength)), 0);
  };
  let [low, high] = [Math.log(LEAST_KNOWN), Math.log(MOST_KNOWN)];
  let [a, b] = [high - GOLDEN * (high - low), low + GOLDEN * (high - low)];
  let [atA, atB] = [likely(a), likely(b)];
  while (high - low > 0.02)
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

type One = { of: number; all: number; mean: number };

/** Beta-binomial. */
function drawn({ of, all, mean }: One, strength: number): number {
  const [yes, no] = [mean * strength, (1 - mean) * strength];
  return logBeta(yes + of, no + all - of) - logBeta(yes, no);
}

/** Gamma-Poisson. */
function counted({ of, all, mean }: One, strength: number): number {
  const shape = mean * strength;
  return (
    logGamma(shape + of) -
    logGamma(shape) +
    shape * Math.log(strength) -
    (shape + of) * Math.log(strength + all)
  );
}
