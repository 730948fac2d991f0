import { type PoolColumns, pickColumns } from '@sprig/contracts';

export type Measured = 'searches' | 'cpc' | 'competition';

/** Bars of the histogram: no figure, 0, then decades split in three. */
export type Histogram = {
  bars: { from: number | null; to: number | null; count: number; searches: number }[];
  most: number;
};

/** Lower edges of the histogram's bars, each about twice the one before; a bar for no figure stands before them. */
export const EDGES = [
  0, 1, 2, 5, 10, 20, 50, 100, 200, 500, 1_000, 2_000, 5_000, 10_000, 20_000, 50_000, 100_000,
];

export function barOf(searches: number): number {
  let bar = 0;
  while (bar < EDGES.length && searches >= (EDGES[bar] as number)) bar++;
  return bar;
}

export function rangeTest(from: number | null, to: number | null): ((value: number) => boolean) | null {
  if (from === null && to === null) return null;
  return (value) => value >= 0 && (from === null || value >= from) && (to === null || value <= to);
}

/** 1 for each line that holds the word. */
export function linesWith(word: string, lines: string, starts: Uint32Array): Uint8Array {
  const marks = new Uint8Array(starts.length);
  let line = 0;
  for (let at = lines.indexOf(word); at >= 0; at = lines.indexOf(word, starts[line])) {
    while (line + 1 < starts.length && (starts[line + 1] as number) <= at) line++;
    marks[line] = 1;
    if (++line >= starts.length) break;
  }
  return marks;
}

export function histogramOf(counts: Uint32Array, sums: Float64Array): Histogram {
  const bars = Array.from(counts, (count, bar) => ({
    from: bar === 0 ? null : (EDGES[bar - 1] as number),
    to: bar === 0 || bar === EDGES.length ? null : (EDGES[bar] as number) - 1,
    count,
    searches: sums[bar] as number,
  }));
  return { bars, most: Math.max(1, ...counts) };
}

export type Shown = { searches: Int32Array; means: Int32Array; cpc: Float64Array; competition: Int8Array };

/** Estimates by row, -1 for none; `done` are those that were gone over, all up to `next`. */
export type Estimates = Shown & { done: Uint8Array; next: number };

export const noneShown = (length: number): Shown => ({
  searches: new Int32Array(length).fill(-1),
  means: new Int32Array(length).fill(-1),
  cpc: new Float64Array(length).fill(-1),
  competition: new Int8Array(length).fill(-1),
});

export const noEstimates = (length: number): Estimates => ({
  ...noneShown(length),
  done: new Uint8Array(length),
  next: 0,
});

export const OUT = { searches: -1, meanSearches: -1, cpc: -1, competition: -1 };

/** The estimates of keywords that are written as they were. */
export function carriedOver(
  before: { columns: PoolColumns; rowOf: ReadonlyMap<number, number>; estimates: Estimates },
  columns: PoolColumns,
): Estimates {
  const next = noEstimates(columns.ids.length);
  const { estimates } = before;
  columns.ids.forEach((id, row) => {
    const old = before.rowOf.get(id);
    if (old === undefined || estimates.done[old] !== 1 || before.columns.norms[old] !== columns.norms[row])
      return;
    // One whose told figures were there was not estimated.
    if ((estimates.searches[old] as number) < 0 && (before.columns.searches[old] as number) >= 0) return;
    next.done[row] = 1;
    next.searches[row] = estimates.searches[old] as number;
    next.means[row] = estimates.means[old] as number;
    next.cpc[row] = estimates.cpc[old] as number;
    next.competition[row] = estimates.competition[old] as number;
  });
  return next;
}

/** Told before taken, taken before estimated, estimated before made up. O(pool). */
export function shownOf(columns: PoolColumns, estimates: Estimates, usesMarket: boolean): Shown {
  const { length } = columns.ids;
  const shown = noneShown(length);
  const first = (...values: number[]): number => values.find((value) => value >= 0) ?? -1;
  for (let row = 0; row < length; row++) {
    const made = (column: ArrayLike<number>) => (usesMarket ? (column[row] as number) : -1);
    const searches = columns.searches[row] as number;
    const madeSearches = made(columns.madeSearches);
    shown.searches[row] = first(searches, estimates.searches[row] as number, madeSearches);
    shown.means[row] = first(searches, estimates.means[row] as number, madeSearches);
    shown.cpc[row] = first(
      columns.cpc[row] as number,
      columns.takenCpc[row] as number,
      estimates.cpc[row] as number,
      made(columns.madeCpc),
    );
    shown.competition[row] = first(
      columns.competition[row] as number,
      estimates.competition[row] as number,
      made(columns.madeCompetition),
    );
  }
  return shown;
}

/** Both lists are in the order of ids; what the delta has wins. */
export function merged(old: PoolColumns, delta: PoolColumns): PoolColumns {
  const gone = new Set(delta.removed);
  const changed = new Map<number, number>();
  delta.ids.forEach((id, row) => {
    changed.set(id, row);
  });
  const picks: { from: PoolColumns; row: number; id: number }[] = [];
  old.ids.forEach((id, row) => {
    if (!gone.has(id) && !changed.has(id)) picks.push({ from: old, row, id });
  });
  delta.ids.forEach((id, row) => {
    picks.push({ from: delta, row, id });
  });
  picks.sort((a, b) => a.id - b.id);
  return pickColumns(picks, { revision: delta.revision, delta: false, removed: [] });
}
