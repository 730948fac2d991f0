import { headingOf, isKept, type PoolSort } from './pool-query.ts';
import type { Shown } from './pool-shown.ts';

/** What the pool's rows are put in order by. */
export type Sortable = {
  length: number;
  norms: readonly string[];
  shown: Pick<Shown, 'searches' | 'cpc' | 'competition'>;
  /** What stands in a column that was kept as it is, as it is ordered: numbers where most of it are some. */
  keptKey: (heading: string) => (row: number) => string | number | null;
};

/** Whether a row has nothing of what it is ordered by: such rows stand last, either way. */
export function lackingBy(
  sort: Exclude<PoolSort, 'made' | 'text'>,
  { shown, keptKey }: Sortable,
): (row: number) => boolean {
  if (isKept(sort)) {
    const keyOf = keptKey(headingOf(sort));
    return (row) => keyOf(row) === null;
  }
  const column = shown[sort];
  return (row) => (column[row] as number) < 0;
}

/** All rows, the least first. O(n log n). */
export function orderBy(sort: PoolSort, { length, norms, shown, keptKey }: Sortable): Uint32Array {
  const rows = Uint32Array.from({ length }, (_, row) => row);
  if (sort === 'made') return rows;
  if (sort === 'text') return rows.sort((a, b) => ((norms[a] as string) < (norms[b] as string) ? -1 : 1));
  if (isKept(sort)) return keptOrder(rows, keptKey(headingOf(sort)));
  const column = shown[sort];
  const value = (row: number) =>
    (column[row] as number) < 0 ? Number.POSITIVE_INFINITY : (column[row] as number);
  // Backwards by row, since most look at the greatest first and expect those alike in the order they came.
  const tie = (a: number, b: number) => ((column[a] as number) < 0 ? a - b : b - a);
  return rows.sort((a, b) => value(a) - value(b) || tie(a, b));
}

/** By its numbers, where most of it are some; else by its texts. Those without come last. */
const keptOrder = (rows: Uint32Array, keyOf: (row: number) => string | number | null): Uint32Array =>
  rows.sort((a, b) => {
    const [one, other] = [keyOf(a), keyOf(b)];
    if (one === null && other === null) return a - b;
    if (one === null) return 1;
    if (other === null) return -1;
    if (one < other) return -1;
    if (one > other) return 1;
    return b - a;
  });
