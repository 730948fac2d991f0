import type { FactTable } from './fact-table.ts';
import type { CountedFigure } from './figure-sums.ts';

/** Counts by group and day that are looked through at most; of more groups every nth is. */
const MOST_CELLS = 500_000;

/**
 * How much more counts vary from day to day than chance alone has them (`alpha` of a negative binomial whose variance is
 * mean + alpha × mean²), pooled over groups: by moments, each group about its own mean, never under 0. null where no group has
 * counts on two days. O(rows + groups × days).
 *
 * Source: A. C. Cameron and P. K. Trivedi, Regression Analysis of Count Data, 2nd ed., 2013, section 3.3 (NB2 by moments).
 *
 * @param groupOf of each row its group, below 0 for none
 * @param dayOf of each time of the table which of the days it is, below 0 for none; `days`: how many
 */
export function dispersionOf(
  table: FactTable,
  figure: CountedFigure,
  groupOf: Int32Array,
  groups: number,
  dayOf: Int32Array,
  days: number,
): number | null {
  const column = table.figures[figure];
  if (!column || days < 2 || groups === 0) return null;
  // Conversions are told in millionths.
  const unit = figure === 'conversions' ? 1_000_000 : 1;
  const every = Math.max(1, Math.ceil((groups * days) / MOST_CELLS));
  const kept = Math.ceil(groups / every);
  const counts = new Float64Array(kept * days);
  for (let row = 0; row < table.rows; row++) {
    const group = groupOf[row] as number;
    const day = dayOf[table.time[row] as number] as number;
    const value = (column[row] as number) / unit;
    if (group < 0 || day < 0 || group % every !== 0 || Number.isNaN(value)) continue;
    const at = (group / every) * days + day;
    counts[at] = (counts[at] as number) + value;
  }
  return pooled(counts, kept, days);
}

function pooled(counts: Float64Array, groups: number, days: number): number | null {
  let [over, squares] = [0, 0];
  for (let group = 0; group < groups; group++) {
    const own = counts.subarray(group * days, (group + 1) * days);
    let sum = 0;
    for (const count of own) sum += count;
    if (sum <= 0) continue;
    const mean = sum / days;
    let spread = 0;
    for (const count of own) spread += (count - mean) ** 2;
    over += spread - (days - 1) * mean;
    squares += (days - 1) * mean * mean;
  }
  return squares === 0 ? null : Math.max(0, over / squares);
}
