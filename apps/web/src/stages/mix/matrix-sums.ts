import type { Matrix } from '@sprig/core/mix';

/** What a cell, a row or a column of a matrix holds. */
export type Sums = {
  combinations: number;
  cut: number;
  searches: number;
  /** With those that are cut: what does not change when one cuts. */
  whole: number;
};

/** The sums of every row and column, and the most searches that one cell has. */
export function sumsOf({ rowNames, columnNames, combinations, cut, searches, cutSearches }: Matrix) {
  const none = (): Sums => ({ combinations: 0, cut: 0, searches: 0, whole: 0 });
  const rowSums = rowNames.map(none);
  const columnSums = columnNames.map(none);
  let most = 0;
  for (let at = 0; at < combinations.length; at++) {
    const row = rowSums[Math.floor(at / columnNames.length)] as Sums;
    const column = columnSums[at % columnNames.length] as Sums;
    for (const sums of [row, column]) {
      sums.combinations += combinations[at] as number;
      sums.cut += cut[at] as number;
      sums.searches += searches[at] as number;
      sums.whole += (searches[at] as number) + (cutSearches[at] as number);
    }
    most = Math.max(most, searches[at] as number);
  }
  return { rowSums, columnSums, most };
}

/** Rows or columns in the order of their list, or the most searched first; cutting moves nothing. */
export function orderOf(sums: readonly Sums[], bySearches: boolean): number[] {
  const order = Array.from(sums.keys());
  if (bySearches) order.sort((a, b) => (sums[b] as Sums).whole - (sums[a] as Sums).whole || a - b);
  return order;
}
