import { APART, CPC_ABOUT, CUT, type PoolColumns, SEARCHES_ABOUT } from '@sprig/contracts';
import { normalise } from '@sprig/core/text';

/** What the pool's table can be ordered by. */
export type PoolSort = 'made' | 'text' | 'searches' | 'cpc' | 'competition';
/** A keyword is cut before it is folded, folded before it is blocked. */
export const poolStates = ['in', 'cut', 'folded', 'blocked'] as const;
export type PoolState = (typeof poolStates)[number];
export type PoolQuery = {
  /** Every word must occur in the keyword; a word after `-` must not. */
  filter: string;
  sort: PoolSort;
  down: boolean;
  state: PoolState | 'all';
  source: number | null;
  /** Least and greatest searches; null: open. */
  from: number | null;
  to: number | null;
};

/** One row of the pool as the table shows it. */
export type PoolRow = {
  id: number;
  text: string;
  asked: number;
  state: PoolState;
  /** The keyword it is folded into. */
  foldedInto: string | null;
  /** The negative that blocks it, by id; minus that of a shared one. */
  blockedBy: number | null;
  apart: boolean;
  competition: number | null;
  searches: number | null;
  searchesAbout: boolean;
  cpc: number | null;
  cpcAbout: boolean;
  sources: number[];
  figuresFrom: number | null;
};

export type PoolOrder = { ids: Uint32Array; searches: number; withCpc: number };

/** Bars of the histogram: no figure, 0, then decades split in three. */
export type Histogram = {
  bars: { from: number | null; to: number | null; count: number; searches: number }[];
  most: number;
};

/** The pool in columns, kept current by deltas; every answer is made by scans over typed arrays. */
export class PoolStore {
  private columns: PoolColumns = emptyColumns();
  /** Row of each keyword id. */
  private rowOf = new Map<number, number>();
  /** Rows by text, made when first asked for. */
  private byText: Uint32Array | null = null;

  get revision(): number {
    return this.columns.revision;
  }

  get length(): number {
    return this.columns.ids.length;
  }

  /** Takes the whole pool, or what has changed of it. O(pool). */
  take(columns: PoolColumns): void {
    this.columns = columns.delta ? merged(this.columns, columns) : columns;
    this.rowOf = new Map();
    this.columns.ids.forEach((id, row) => {
      this.rowOf.set(id, row);
    });
    this.byText = null;
  }

  /** The ids that a query leaves, in its order, and the sum of their searches. */
  order(query: PoolQuery): PoolOrder {
    const { ids, searches, cpc } = this.columns;
    const rows = this.sorted(this.matching(query), query);
    let sum = 0;
    let withCpc = 0;
    const out = new Uint32Array(rows.length);
    for (let at = 0; at < rows.length; at++) {
      const row = rows[at] as number;
      out[at] = ids[row] as number;
      sum += Math.max(0, searches[row] as number);
      if ((cpc[row] as number) >= 0) withCpc++;
    }
    return { ids: out, searches: sum, withCpc };
  }

  page(ids: ArrayLike<number>): PoolRow[] {
    return Array.from(ids, (id) => this.rowOf.get(id)).flatMap((row) =>
      row === undefined ? [] : [this.row(row)],
    );
  }

  /** Over the same query but for the brush itself, so that it can be moved. */
  histogram(query: PoolQuery): Histogram {
    const rows = this.matching({ ...query, from: null, to: null });
    const edges = [
      0, 1, 2, 5, 10, 20, 50, 100, 200, 500, 1_000, 2_000, 5_000, 10_000, 20_000, 50_000, 100_000,
    ];
    const counts = new Uint32Array(edges.length + 1);
    const sums = new Float64Array(edges.length + 1);
    for (const row of rows) {
      const value = this.columns.searches[row] as number;
      let bar = 0;
      while (bar < edges.length && value >= (edges[bar] as number)) bar++;
      counts[bar] = (counts[bar] as number) + 1;
      sums[bar] = (sums[bar] as number) + Math.max(0, value);
    }
    const bars = Array.from(counts, (count, bar) => ({
      from: bar === 0 ? null : (edges[bar - 1] as number),
      to: bar === 0 || bar === edges.length ? null : (edges[bar] as number) - 1,
      count,
      searches: sums[bar] as number,
    }));
    return { bars, most: Math.max(1, ...counts) };
  }

  /** Rows that are in, in the order of their ids, which is the order in which groups are made. */
  inRows(): Uint32Array {
    const rows = new Uint32Array(this.length);
    let count = 0;
    for (let row = 0; row < this.length; row++) if (this.isIn(row)) rows[count++] = row;
    return rows.subarray(0, count);
  }

  text = (row: number): string => this.columns.texts[row] as string;
  norm = (row: number): string => this.columns.norms[row] as string;
  id = (row: number): number => this.columns.ids[row] as number;
  asked = (row: number): number => this.columns.asked[row] as number;
  searches = (row: number): number => this.columns.searches[row] as number;
  cpc = (row: number): number => this.columns.cpc[row] as number;
  competition = (row: number): number => this.columns.competition[row] as number;
  sources = (row: number): number[] => this.columns.sources[row] as number[];
  isApart = (row: number): boolean => ((this.columns.flags[row] as number) & APART) !== 0;
  foldedInto = (row: number): number => this.columns.foldedInto[row] as number;
  blockedBy = (row: number): number => this.columns.blockedBy[row] as number;
  rowById = (id: number): number | undefined => this.rowOf.get(id);
  isIn = (row: number): boolean => this.stateOf(row) === 'in';

  stateOf(row: number): PoolState {
    const { flags, foldedInto, blockedBy } = this.columns;
    if ((flags[row] as number) & CUT) return 'cut';
    if (foldedInto[row] !== 0) return 'folded';
    return blockedBy[row] === 0 ? 'in' : 'blocked';
  }

  /** How many keywords are in each state. */
  counts(): Record<PoolState, number> {
    const counts = { in: 0, cut: 0, folded: 0, blocked: 0 };
    for (let row = 0; row < this.length; row++) counts[this.stateOf(row)]++;
    return counts;
  }

  private row(row: number): PoolRow {
    const {
      ids,
      texts,
      asked,
      flags,
      searches,
      cpc,
      competition,
      sources,
      figuresFrom,
      foldedInto,
      blockedBy,
    } = this.columns;
    const keeper = this.rowOf.get(foldedInto[row] as number);
    const flag = flags[row] as number;
    const count = searches[row] as number;
    const amount = cpc[row] as number;
    return {
      id: ids[row] as number,
      text: texts[row] as string,
      asked: asked[row] as number,
      state: this.stateOf(row),
      foldedInto: keeper === undefined ? null : (texts[keeper] as string),
      blockedBy: blockedBy[row] || null,
      apart: (flag & APART) !== 0,
      competition: (competition[row] as number) < 0 ? null : (competition[row] as number),
      searches: count < 0 ? null : count,
      searchesAbout: (flag & SEARCHES_ABOUT) !== 0,
      cpc: amount < 0 ? null : amount,
      cpcAbout: (flag & CPC_ABOUT) !== 0,
      sources: sources[row] as number[],
      figuresFrom: figuresFrom[row] || null,
    };
  }

  private matching({ filter, state, source, from, to }: PoolQuery): number[] {
    const { norms, searches, sources } = this.columns;
    const { wanted, unwanted } = filterWords(filter);
    const rows: number[] = [];
    for (let row = 0; row < norms.length; row++) {
      if (state !== 'all' && this.stateOf(row) !== state) continue;
      const value = searches[row] as number;
      if ((from !== null && value < from) || (to !== null && value > to)) continue;
      const norm = norms[row] as string;
      if (!wanted.every((word) => norm.includes(word)) || unwanted.some((word) => norm.includes(word)))
        continue;
      if (source !== null && !(sources[row] as number[]).includes(source)) continue;
      rows.push(row);
    }
    return rows;
  }

  private sorted(rows: number[], { sort, down }: PoolQuery): number[] {
    if (sort === 'made') return down ? rows.reverse() : rows;
    if (sort === 'text') {
      const rank = this.textRanks();
      return rows.sort((a, b) => ((rank[a] as number) - (rank[b] as number)) * (down ? -1 : 1));
    }
    const column = this.columns[sort];
    // Rows without a figure come last in either direction.
    const value = (row: number) =>
      (column[row] as number) < 0 ? (down ? -1 : Number.POSITIVE_INFINITY) : (column[row] as number);
    return rows.sort((a, b) => (down ? value(b) - value(a) : value(a) - value(b)) || a - b);
  }

  private textRanks(): Uint32Array {
    if (this.byText) return this.byText;
    const { norms } = this.columns;
    const order = Uint32Array.from(norms.keys()).sort((a, b) =>
      (norms[a] as string) < (norms[b] as string) ? -1 : 1,
    );
    const ranks = new Uint32Array(order.length);
    order.forEach((row, rank) => {
      ranks[row] = rank;
    });
    this.byText = ranks;
    return ranks;
  }
}

/** `kayak -hire` wants the one and not the other; by parts of words, as one types. */
export function filterWords(filter: string): { wanted: string[]; unwanted: string[] } {
  const words = normalise(filter).split(' ').filter(Boolean);
  return {
    wanted: words.filter((word) => !word.startsWith('-')),
    unwanted: words.flatMap((word) => (word.startsWith('-') && word.length > 1 ? [word.slice(1)] : [])),
  };
}

const emptyColumns = (): PoolColumns => ({
  revision: 0,
  delta: false,
  ids: new Uint32Array(),
  cpc: new Float64Array(),
  searches: new Int32Array(),
  figuresFrom: new Uint32Array(),
  foldedInto: new Uint32Array(),
  blockedBy: new Int32Array(),
  competition: new Int8Array(),
  asked: new Uint8Array(),
  flags: new Uint8Array(),
  texts: [],
  norms: [],
  sources: [],
  removed: [],
});

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
  return {
    revision: delta.revision,
    delta: false,
    ids: Uint32Array.from(picks, ({ id }) => id),
    cpc: Float64Array.from(picks, ({ from, row }) => from.cpc[row] as number),
    searches: Int32Array.from(picks, ({ from, row }) => from.searches[row] as number),
    figuresFrom: Uint32Array.from(picks, ({ from, row }) => from.figuresFrom[row] as number),
    foldedInto: Uint32Array.from(picks, ({ from, row }) => from.foldedInto[row] as number),
    blockedBy: Int32Array.from(picks, ({ from, row }) => from.blockedBy[row] as number),
    competition: Int8Array.from(picks, ({ from, row }) => from.competition[row] as number),
    asked: Uint8Array.from(picks, ({ from, row }) => from.asked[row] as number),
    flags: Uint8Array.from(picks, ({ from, row }) => from.flags[row] as number),
    texts: picks.map(({ from, row }) => from.texts[row] as string),
    norms: picks.map(({ from, row }) => from.norms[row] as string),
    sources: picks.map(({ from, row }) => from.sources[row] as number[]),
    removed: [],
  };
}
