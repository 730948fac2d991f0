import { normalQuantile } from './tails.ts';

/** How two ads are told apart; shares as parts of one. */
export type AdTestRules = {
  /** What decides: clicks of impressions, or conversions of clicks. */
  by: 'clicks' | 'conversions';
  /** So many looks are planned until as much is told as the difference needs. */
  looks: number;
  /** The least difference that is worth telling. */
  difference: number;
  /** Nothing is decided before each version has so many clicks. */
  clicks: number;
};
export const usualAdTestRules: Readonly<AdTestRules> = {
  by: 'clicks',
  looks: 4,
  difference: 0.15,
  clicks: 100,
};
export const MOST_LOOKS = 10;

const LEVEL = 0.05;
const POWER = 0.8;

/**
 * O’Brien–Fleming bounds at a level of 5% in both directions, and how many times the size of one look they need for 80% power,
 * by how many looks are planned. Source: C. Jennison and B. W. Turnbull, Group Sequential Methods with Applications to
 * Clinical Trials, 2000, tables 2.3 and 2.4.
 */
const BOUNDS = [1.96, 1.977, 2.004, 2.024, 2.04, 2.053, 2.063, 2.072, 2.08, 2.087];
const SIZES = [1, 1.008, 1.017, 1.024, 1.028, 1.032, 1.035, 1.037, 1.038, 1.04];

/** Of one stratum, such as an ad group: what both versions had. `tries` are impressions or clicks, `hits` clicks or conversions. */
export type Stratum = { triesA: number; hitsA: number; triesB: number; hitsB: number };

/** The common odds ratio of B against A as its logarithm, and its variance; null where either has nothing to tell. */
export type CommonOdds = { log: number; variance: number };

/**
 * Sums from which the common log odds ratio is worked out; strata go in and out one by one. Sources: N. Mantel and W. Haenszel,
 * Journal of the National Cancer Institute 22, 1959, for the ratio; J. Robins, N. Breslow and S. Greenland, Biometrics 42,
 * 1986, for the variance.
 */
export class OddsSums {
  private r = 0;
  private s = 0;
  private pr = 0;
  private psqr = 0;
  private qs = 0;

  /** @param sign 1 to put it in, -1 to take it out */
  add({ triesA, hitsA, triesB, hitsB }: Stratum, sign: 1 | -1 = 1): void {
    const all = triesA + triesB;
    if (triesA <= 0 || triesB <= 0) return;
    const [missA, missB] = [triesA - hitsA, triesB - hitsB];
    const p = (hitsB + missA) / all;
    const q = (missB + hitsA) / all;
    const r = (hitsB * missA) / all;
    const s = (missB * hitsA) / all;
    this.r += sign * r;
    this.s += sign * s;
    this.pr += sign * p * r;
    this.psqr += sign * (p * s + q * r);
    this.qs += sign * q * s;
  }

  odds(): CommonOdds | null {
    const { r, s, pr, psqr, qs } = this;
    // What was taken out again may leave a trace of rounding.
    if (r <= 1e-9 || s <= 1e-9) return null;
    return { log: Math.log(r / s), variance: pr / (2 * r * r) + psqr / (2 * r * s) + qs / (2 * s * s) };
  }
}

/** `a`, `b`: that version is better; `alike`: as much was told as the difference needs, and it is not there. */
export type AdVerdict = 'a' | 'b' | 'alike' | 'open' | 'few';

export type AdTested = {
  verdict: AdVerdict;
  a: { tries: number; hits: number; clicks: number };
  b: { tries: number; hits: number; clicks: number };
  /** By how much B is better than A, as a part of A’s rate, and its interval of 95%; null where it can’t be told. */
  difference: { by: number; low: number; high: number } | null;
  /** How much of what the difference needs has been told, up to one. */
  told: number;
  /** Of the planned looks those that were made. */
  looks: number;
  /** The time at which it was decided, as a number of its own; null while it is open. */
  at: number | null;
  /** So many more tries are needed until the last look; null where that can’t be said. */
  more: number | null;
};

/** What both versions had in one stratum at one time, in the order of times. */
export type AdCell = Stratum & { time: number; stratum: number; clicksA: number; clicksB: number };

/**
 * Tests two ads against each other over many strata. It is looked at when a planned part of what the difference needs has been
 * told, by the data until then, whoever looks when: so what is said does not hang on how often somebody opens it. O(cells).
 */
export function testAds(cells: Iterable<AdCell>, rules: AdTestRules): AdTested {
  const looks = Math.min(Math.max(1, Math.round(rules.looks)), MOST_LOOKS);
  const bound = BOUNDS[looks - 1] as number;
  const strata = new Map<number, Stratum>();
  const sums = new OddsSums();
  const [a, b] = [
    { tries: 0, hits: 0, clicks: 0 },
    { tries: 0, hits: 0, clicks: 0 },
  ];
  let [made, verdict, decidedAt]: [number, AdVerdict | null, number | null] = [0, null, null];
  const look = (time: number) => {
    const odds = sums.odds();
    const told = odds === null ? 0 : toldOf(odds, a, b, rules, looks);
    const due = Math.min(looks, Math.floor(told * looks + 1e-9));
    if (verdict !== null || odds === null || due <= made) return;
    made = due;
    if (Math.min(a.clicks, b.clicks) < rules.clicks) return;
    const z = odds.log / Math.sqrt(odds.variance);
    if (Math.abs(z) * Math.sqrt(Math.min(1, told)) >= bound) verdict = z > 0 ? 'b' : 'a';
    else if (due === looks) verdict = 'alike';
    if (verdict !== null) decidedAt = time;
  };
  let time: number | null = null;
  for (const cell of cells) {
    if (time !== null && cell.time !== time) look(time);
    time = cell.time;
    put(cell, strata, sums);
    a.tries += cell.triesA;
    a.hits += cell.hitsA;
    a.clicks += cell.clicksA;
    b.tries += cell.triesB;
    b.hits += cell.hitsB;
    b.clicks += cell.clicksB;
  }
  if (time !== null) look(time);
  const odds = sums.odds();
  const told = odds === null ? 0 : toldOf(odds, a, b, rules, looks);
  const isFew = odds === null || Math.min(a.clicks, b.clicks) < rules.clicks;
  const tries = a.tries + b.tries;
  return {
    verdict: verdict ?? (isFew ? 'few' : 'open'),
    a,
    b,
    difference: odds && differenceOf(odds, a),
    told: Math.min(1, told),
    looks: made,
    at: decidedAt,
    more: verdict !== null || told <= 0 ? null : Math.max(0, Math.ceil(tries * (1 / told - 1))),
  };
}

function put(cell: AdCell, strata: Map<number, Stratum>, sums: OddsSums): void {
  const there = strata.get(cell.stratum);
  if (there) sums.add(there, -1);
  const now = {
    triesA: (there?.triesA ?? 0) + cell.triesA,
    hitsA: (there?.hitsA ?? 0) + cell.hitsA,
    triesB: (there?.triesB ?? 0) + cell.triesB,
    hitsB: (there?.hitsB ?? 0) + cell.hitsB,
  };
  sums.add(now);
  strata.set(cell.stratum, now);
}

type Side = { tries: number; hits: number };

/** How much of what the difference needs has been told. */
function toldOf(odds: CommonOdds, a: Side, b: Side, { difference }: AdTestRules, looks: number): number {
  const rate = (a.hits + b.hits) / (a.tries + b.tries);
  const more = Math.min(rate * (1 + difference), (1 + rate) / 2);
  const delta = Math.log(more / (1 - more)) - Math.log(rate / (1 - rate));
  if (!(delta > 0) || !Number.isFinite(delta)) return 0;
  const needed =
    (SIZES[looks - 1] as number) * ((normalQuantile(1 - LEVEL / 2) + normalQuantile(POWER)) / delta) ** 2;
  return 1 / odds.variance / needed;
}

/** Odds as a difference of rates, at the rate of A. */
function differenceOf({ log, variance }: CommonOdds, a: Side): AdTested['difference'] {
  const rate = a.hits / a.tries;
  if (!(rate > 0)) return null;
  const byOf = (at: number) => {
    const odds = Math.exp(at);
    return odds / (1 - rate + odds * rate) - 1;
  };
  const wide = normalQuantile(1 - LEVEL / 2) * Math.sqrt(variance);
  return { by: byOf(log), low: byOf(log - wide), high: byOf(log + wide) };
}
