import { negativeBinomialAtMost } from './tails.ts';

/** A day that is unlike the same weekdays before. `low` and `high`: what chance alone has it between. */
export type UnlikeDay = {
  series: number;
  day: number;
  seen: number;
  expected: number;
  low: number;
  high: number;
};

/** The same weekday of so many weeks before is looked at, and at least so many of them have to be told. */
const WEEKS = 8;
const LEAST_WEEKS = 4;
const WEEK = 7;
/** So often chance alone has a day fall as low, and as high. */
const SIDE = 0.005;

type Cell = { series: number; day: number; seen: number; mean: number; weeks: number };

/**
 * Days on which far fewer or far more was counted than on the same weekdays of the eight weeks before. Counts are taken as
 * negative binomial: how much they vary beyond chance is pooled over all series and days by moments, never under Poisson and
 * without the days that stand out, and the mean itself is not known for sure. Silent where fewer than four of those weeks are
 * told. O(series × days).
 *
 * Source: A. C. Cameron and P. K. Trivedi, Regression Analysis of Count Data, 2nd ed., 2013, section 3.3 (NB2 by moments); the
 * variance of what is to come has that of the mean of `m` weeks added, a factor of 1 + 1/m.
 *
 * @param series counts by day, NaN where none is told; all begin on the same day
 * @param from the first day that is judged, as a place in them
 */
export function unlikeDays(series: readonly Float64Array[], from: number): UnlikeDay[] {
  const cells: Cell[] = [];
  series.forEach((counts, at) => {
    for (let day = 0; day < counts.length; day++) {
      const cell = cellOf(counts, day);
      if (cell) cells.push({ series: at, ...cell });
    }
  });
  const first = alphaOf(cells);
  const quiet = cells.filter((cell) => !isUnlike(cell, first));
  const alpha = alphaOf(quiet);
  return cells
    .filter((cell) => cell.day >= from && isUnlike(cell, alpha))
    .map(({ series: of, day, seen, mean, weeks }) => {
      const spread = spreadOf(mean, weeks, alpha);
      return { series: of, day, seen, expected: mean, ...between(mean, spread) };
    });
}

function cellOf(counts: Float64Array, day: number): Omit<Cell, 'series'> | null {
  const seen = counts[day] as number;
  if (Number.isNaN(seen)) return null;
  let [sum, weeks] = [0, 0];
  for (let week = 1; week <= WEEKS; week++) {
    const before = counts[day - week * WEEK];
    if (before === undefined || Number.isNaN(before)) continue;
    sum += before;
    weeks++;
  }
  // Half of one more, so that where nothing was counted yet a single one is no wonder.
  return weeks < LEAST_WEEKS ? null : { day, seen: Math.round(seen), mean: (sum + 0.5) / weeks, weeks };
}

/** How much counts vary beyond chance: alpha of a variance of mean + alpha × mean². */
function alphaOf(cells: readonly Cell[]): number {
  let [over, squares] = [0, 0];
  for (const { seen, mean, weeks } of cells) {
    const wide = 1 + 1 / weeks;
    over += (seen - mean) ** 2 - mean * wide;
    squares += mean * mean * wide;
  }
  return squares > 0 ? Math.max(0, over / squares) : 0;
}

const spreadOf = (mean: number, weeks: number, alpha: number): number =>
  (mean + alpha * mean * mean) * (1 + 1 / weeks);

function isUnlike({ seen, mean, weeks }: Cell, alpha: number): boolean {
  const spread = spreadOf(mean, weeks, alpha);
  if (seen <= mean) return negativeBinomialAtMost(seen, mean, spread) < SIDE;
  return 1 - negativeBinomialAtMost(seen - 1, mean, spread) < SIDE;
}

/** The least and the greatest count that is no wonder. */
function between(mean: number, spread: number): { low: number; high: number } {
  const reach = Math.ceil(mean + 12 * Math.sqrt(spread) + 12);
  const firstWhere = (is: (count: number) => boolean): number => {
    let [low, high] = [0, reach];
    while (low < high) {
      const middle = Math.floor((low + high) / 2);
      if (is(middle)) high = middle;
      else low = middle + 1;
    }
    return low;
  };
  const low = firstWhere((count) => negativeBinomialAtMost(count, mean, spread) >= SIDE);
  const above = firstWhere((count) => 1 - negativeBinomialAtMost(count, mean, spread) < SIDE);
  return { low, high: above };
}
