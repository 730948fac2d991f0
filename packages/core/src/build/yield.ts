import { countIn, type MatchType, matchTypes } from '../match/index.ts';
import type { Micros } from '../money/index.ts';
import { bidOf, stepsFor } from './bid.ts';
import { type Layout, typesFor } from './layout.ts';

/** The running sum from the pool to what is built. */
export type BuildYield = {
  keywords: number;
  searches: number;
  groups: number;
  rows: number;
  rowsByType: Record<MatchType, number>;
  /** Null where there is no row. */
  lowestBid: Micros | null;
  highestBid: Micros | null;
  withoutEstimate: number;
};

/** The pool in columns: only the n-th keywords that `isIn` says. `cpcOf` gives -1 for no estimate. */
export type YieldPool = {
  length: number;
  isIn: (at: number) => boolean;
  askedOf: (at: number) => number;
  searchesOf: (at: number) => number;
  cpcOf: (at: number) => number;
};

/** What a layout would build, counted without building it; holds aside. O(keywords × match types). */
export function buildYield(pool: YieldPool, layout: Layout, increment: Micros): BuildYield {
  const sum: BuildYield = {
    keywords: 0,
    searches: 0,
    groups: 0,
    rows: 0,
    rowsByType: { broad: 0, modified: 0, phrase: 0, exact: 0 },
    lowestBid: null,
    highestBid: null,
    withoutEstimate: 0,
  };
  const steps = matchTypes.map((type) => stepsFor(layout.ladder, type));
  const bases = new Map<number, [number, number]>();
  for (let at = 0; at < pool.length; at++) {
    if (!pool.isIn(at)) continue;
    const types = typesFor(layout, pool.askedOf(at));
    const cpc = pool.cpcOf(at);
    if (cpc < 0) sum.withoutEstimate++;
    sum.keywords++;
    sum.searches += Math.max(0, pool.searchesOf(at));
    sum.groups++;
    sum.rows += countIn(types);
    matchTypes.forEach((type, place) => {
      if (types & (1 << place)) sum.rowsByType[type]++;
    });
    widen(bases, types, cpc < 0 ? layout.ladder.defaultBase : cpc);
  }
  for (const [types, range] of bases) {
    for (const base of range) {
      steps.forEach((step, place) => {
        if (!(types & (1 << place))) return;
        const bid = bidOf({ base: base as Micros, steps: step, held: null }, layout.ladder, increment);
        if (sum.lowestBid === null || bid < sum.lowestBid) sum.lowestBid = bid;
        if (sum.highestBid === null || bid > sum.highestBid) sum.highestBid = bid;
      });
    }
  }
  return sum;
}

/** A bid never falls when its base rises, so each set of match types needs only its lowest and highest base. */
function widen(bases: Map<number, [number, number]>, types: number, base: number) {
  const range = bases.get(types);
  if (!range) bases.set(types, [base, base]);
  else if (base < range[0]) range[0] = base;
  else if (base > range[1]) range[1] = base;
}
