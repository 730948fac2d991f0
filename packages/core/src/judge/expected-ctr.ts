import { type MatchType, matchTypes } from '../match/index.ts';

/** What a row was seen and clicked at a position: 1 is the top. */
export type Seen = { type: MatchType | null; position: number; impressions: number; clicks: number };

/** The CTR to expect of a row, by all others; and of any row at a position. */
export type ExpectedCtr = {
  of: (row: Seen) => number;
  at: (type: MatchType | null, position: number) => number;
};

/** Positions are told apart by this part of one: closer ones are added up, so that rows cost nothing more. */
const APART = 20;
/** From this part of all that is known of it on, a row is left out by a fit of its own; below it by one step. */
const WEIGHTY = 0.02;

const ROUNDS = 50;
const CLOSE = 1e-10;
/** So many expected clicks draw a match type's own level half of the way from the plan's to what it was seen at. */
const RIDGE = 10;
const SIZE = matchTypes.length + 2;
/** Places of the plan's level and of the fall by position; behind them what each match type differs by. */
const [LEVEL, FALL] = [0, 1];

/**
 * The CTR to expect by match type and position, of all rows but the one that is asked of: ln CTR = a + d(match type) + b ·
 * (position − 1), by Poisson regression of clicks with impressions as exposure. What types differ by is drawn to 0 by a
 * ridge. null where it can't be told: too few rows, all at one position, or no click.
 *
 * Sources: P. McCullagh and J. A. Nelder, Generalized Linear Models, 2nd ed., 1989, section 6.2; A. E. Hoerl and R. W.
 * Kennard, Ridge regression, Technometrics 12, 1970; one row left out by D. Pregibon, Logistic regression diagnostics, Annals
 * of Statistics 9, 1981, section 4.
 */
export function expectedCtr(rows: readonly Seen[]): ExpectedCtr | null {
  const seen = addedUp(rows);
  const clicks = seen.reduce((sum, one) => sum + one.clicks, 0);
  const impressions = seen.reduce((sum, one) => sum + one.impressions, 0);
  const [first] = seen;
  if (clicks <= 0 || seen.every(({ position }) => position === first?.position)) return null;
  const found = fit(seen, startAt(Math.log(clicks / impressions)));
  if (!found) return null;
  const { weights, inverse } = found;
  return {
    of: (row) => {
      const own = features(rounded(row));
      const log = dot(own, weights);
      const mean = row.impressions * Math.exp(log);
      const lever = mean * quadratic(inverse, own);
      if (lever >= WEIGHTY) {
        const others = fit([...seen, without(row)], weights);
        return Math.exp(others ? dot(own, others.weights) : log);
      }
      if (mean <= 0) return Math.exp(log);
      // One step of Newton's method without the row itself.
      return Math.exp(log - ((row.clicks - mean) / mean) * (lever / (1 - lever)));
    },
    at: (type, position) => Math.exp(dot(features({ type, position }), weights)),
  };
}

const rounded = (row: Seen): Seen => ({
  ...row,
  position: Math.round(row.position * APART) / APART,
});
const without = (row: Seen): Seen => ({
  ...rounded(row),
  impressions: -row.impressions,
  clicks: -row.clicks,
});

/** Rows of one type and position as one. */
function addedUp(rows: readonly Seen[]): Seen[] {
  const sums = new Map<string, Seen>();
  for (const one of rows) {
    if (one.impressions <= 0 || one.position < 1) continue;
    const { type, position, impressions, clicks } = rounded(one);
    const key = `${type} ${position}`;
    const there = sums.get(key);
    if (!there) sums.set(key, { type, position, impressions, clicks });
    else {
      there.impressions += impressions;
      there.clicks += clicks;
    }
  }
  return [...sums.values()];
}

function startAt(level: number): Float64Array {
  const weights = new Float64Array(SIZE);
  weights[LEVEL] = level;
  return weights;
}

function features({ type, position }: Pick<Seen, 'type' | 'position'>): Float64Array {
  const own = new Float64Array(SIZE);
  own[LEVEL] = 1;
  own[FALL] = position - 1;
  const at = type === null ? -1 : matchTypes.indexOf(type);
  if (at >= 0) own[FALL + 1 + at] = 1;
  return own;
}

function fit(
  rows: readonly Seen[],
  start: Float64Array,
): { weights: Float64Array; inverse: Float64Array[] } | null {
  const weights = Float64Array.from(start);
  const all = rows.map(features);
  for (let round = 0; round < ROUNDS; round++) {
    const slope = new Float64Array(SIZE);
    const bend = Array.from({ length: SIZE }, () => new Float64Array(SIZE));
    for (let type = FALL + 1; type < SIZE; type++) {
      slope[type] = -RIDGE * (weights[type] as number);
      (bend[type] as Float64Array)[type] = RIDGE;
    }
    rows.forEach((row, at) => {
      const own = all[at] as Float64Array;
      const mean = row.impressions * Math.exp(dot(own, weights));
      for (let a = 0; a < SIZE; a++) {
        if (own[a] === 0) continue;
        slope[a] = (slope[a] as number) + (row.clicks - mean) * (own[a] as number);
        for (let b = 0; b < SIZE; b++)
          (bend[a] as Float64Array)[b] =
            ((bend[a] as Float64Array)[b] as number) + mean * (own[a] as number) * (own[b] as number);
      }
    });
    const inverse = inverted(bend);
    if (!inverse) return null;
    const step = inverse.map((line) => dot(line, slope));
    // A long step may overshoot: it is shortened.
    const shorter = Math.min(1, 2 / Math.max(...step.map(Math.abs), 1e-12));
    step.forEach((one, at) => {
      weights[at] = (weights[at] as number) + one * shorter;
    });
    if (step.every((one) => Math.abs(one) < CLOSE)) return { weights, inverse };
    if (!weights.every(Number.isFinite)) return null;
    if (round === ROUNDS - 1) return { weights, inverse };
  }
  return null;
}

const dot = (a: Float64Array, b: Float64Array): number => {
  let sum = 0;
  for (let at = 0; at < SIZE; at++) sum += (a[at] as number) * (b[at] as number);
  return sum;
};

const quadratic = (matrix: readonly Float64Array[], own: Float64Array): number => {
  let sum = 0;
  for (let at = 0; at < SIZE; at++) sum += (own[at] as number) * dot(matrix[at] as Float64Array, own);
  return sum;
};

/** By Gauss and Jordan, the largest first. null where it has no inverse. */
function inverted(matrix: readonly Float64Array[]): Float64Array<ArrayBuffer>[] | null {
  const left: Float64Array<ArrayBuffer>[] = matrix.map((line) => Float64Array.from(line));
  const right: Float64Array<ArrayBuffer>[] = matrix.map((_, at) =>
    Float64Array.from(matrix, (__, to) => (at === to ? 1 : 0)),
  );
  for (let at = 0; at < SIZE; at++) {
    let best = at;
    for (let line = at; line < SIZE; line++)
      if (Math.abs(left[line]?.[at] ?? 0) > Math.abs(left[best]?.[at] ?? 0)) best = line;
    const pivot = left[best]?.[at] ?? 0;
    if (Math.abs(pivot) < 1e-12) return null;
    for (const side of [left, right]) {
      [side[at], side[best]] = [
        side[best] as Float64Array<ArrayBuffer>,
        side[at] as Float64Array<ArrayBuffer>,
      ];
      const own = side[at] as Float64Array;
      for (let to = 0; to < SIZE; to++) own[to] = (own[to] as number) / pivot;
    }
    for (let line = 0; line < SIZE; line++) {
      const times = line === at ? 0 : (left[line]?.[at] ?? 0);
      if (times === 0) continue;
      for (const side of [left, right]) {
        const [own, of] = [side[line] as Float64Array, side[at] as Float64Array];
        for (let to = 0; to < SIZE; to++) own[to] = (own[to] as number) - times * (of[to] as number);
      }
    }
  }
  return right;
}
