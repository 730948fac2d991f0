import type { SourceTotals } from './pool-query.ts';

/** Keywords that the same sources bring, and no other. */
export type SourceSet = { sources: number[]; keywords: number; searches: number };

/** Which sources bring the same keywords: each set of sources with how many only it has, the largest first. */
export function setsOf(
  length: number,
  sourcesOf: (row: number) => number[],
  searchesOf: (row: number) => number,
): SourceSet[] {
  const sets = new Map<string, SourceSet>();
  for (let row = 0; row < length; row++) {
    const sources = sourcesOf(row);
    const name = sources.join();
    const set = sets.get(name) ?? { sources, keywords: 0, searches: 0 };
    set.keywords++;
    set.searches += Math.max(0, searchesOf(row));
    sets.set(name, set);
  }
  return [...sets.values()].sort((a, b) => b.keywords - a.keywords);
}

/** What each source brings. */
export function totalsOf(sets: readonly SourceSet[]): Map<number, SourceTotals> {
  const totals = new Map<number, SourceTotals>();
  for (const { sources, keywords, searches } of sets)
    for (const source of sources) {
      const sum = totals.get(source) ?? { keywords: 0, searches: 0, onlyHere: 0, onlySearches: 0 };
      sum.keywords += keywords;
      sum.searches += searches;
      if (sources.length === 1) {
        sum.onlyHere += keywords;
        sum.onlySearches += searches;
      }
      totals.set(source, sum);
    }
  return totals;
}
