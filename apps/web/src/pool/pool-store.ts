import {
  APART,
  bareColumns,
  CPC_ABOUT,
  type PoolColumns,
  pickColumns,
  planPoolOf,
  SEARCHES_ABOUT,
  stateIn,
} from '@sprig/contracts';
import type { Estimator, Origin } from '@sprig/core/figures';
import { BY_HAND, filterWords } from '@sprig/core/gather';
import type { PlanPool } from '@sprig/core/plan';
import { type KeywordState, keywordStates } from '@sprig/core/sort';
import { KeptColumns, type KeptKind, type KeptSift } from './kept-columns.ts';

/** A column that was kept as it is, by its heading. */
export type KeptSort = `kept:${string}`;
/** What the pool's table can be ordered by. */
export type PoolSort = 'made' | 'text' | 'searches' | 'cpc' | 'competition' | KeptSort;
/** A keyword is cut before it is folded, folded before it is blocked. */
export const poolStates = keywordStates;
export type PoolState = KeywordState;
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
  /** The same of the CPC, in micros, and of competition. */
  cpcFrom: number | null;
  cpcTo: number | null;
  competitionFrom: number | null;
  competitionTo: number | null;
  /** Only keywords whose searches are of this origin. */
  origin: OriginKind | 'all';
  /** What columns that were kept as they are have to hold. */
  kept: readonly KeptSift[];
};

/** Where a figure is from, as it is sifted by: told covers by hand, estimated covers taken. */
export const originKinds = ['told', 'estimated', 'made-up', 'none'] as const;
export type OriginKind = (typeof originKinds)[number];
const kindOf = (origin: Origin | null): OriginKind =>
  origin === null ? 'none' : origin === 'hand' ? 'told' : origin === 'taken' ? 'estimated' : origin;

/** Everything that is in, most searched first. */
export const wholePool: PoolQuery = {
  filter: '',
  sort: 'searches',
  down: true,
  state: 'in',
  source: null,
  from: null,
  to: null,
  cpcFrom: null,
  cpcTo: null,
  competitionFrom: null,
  competitionTo: null,
  origin: 'all',
  kept: [],
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
  /** Where each figure is from; null: there is none. */
  from: Record<Measured, Origin | null>;
  /** The look-alike that the searches were told of. */
  toldOf: string | null;
  /** What stands in columns that were kept as they are, of those that are shown. */
  kept: Readonly<Record<string, string>>;
};

export type Measured = 'searches' | 'cpc' | 'competition';

export type PoolOrder = {
  ids: Uint32Array;
  /** The sum of what is told, of the means of what is estimated, and of what is made up; and the latter two alone. */
  searches: number;
  estimated: number;
  madeUp: number;
  withCpc: number;
  histogram: Histogram;
};

/** What a source brings, and of that what only it brings. */
export type SourceTotals = { keywords: number; searches: number; onlyHere: number; onlySearches: number };

/** Bars of the histogram: no figure, 0, then decades split in three. */
export type Histogram = {
  bars: { from: number | null; to: number | null; count: number; searches: number }[];
  most: number;
};

/** Lower edges of the histogram's bars, each about twice the one before; a bar for no figure stands before them. */
const EDGES = [0, 1, 2, 5, 10, 20, 50, 100, 200, 500, 1_000, 2_000, 5_000, 10_000, 20_000, 50_000, 100_000];

function barOf(searches: number): number {
  let bar = 0;
  while (bar < EDGES.length && searches >= (EDGES[bar] as number)) bar++;
  return bar;
}

/**
 * What a query leaves before its words and its brush, in its order. The texts stand in one string, a line a row, so
 * that a word is looked for once and not once a row.
 */
type Base = {
  key: string;
  rows: Uint32Array;
  lines: string;
  /** Where each line begins. */
  starts: Uint32Array;
  /** For the words of the last query: 1 for each line that holds the word. */
  marks: Map<string, Uint8Array>;
};

/**
 * The pool in columns, kept current by deltas. Orders, bars and what lies under a filter are worked out once, so that a
 * keystroke costs one search through the texts for each of its words.
 */
export class PoolStore {
  private columns: PoolColumns = bareColumns([], 0);
  /** What stands for each row: told, else estimated, else made up; `means` what its searches add to a sum. */
  private shown: Shown = noneShown(0);
  private estimates: Estimates = noEstimates(0);
  private estimator: Pick<Estimator, 'into'> | null = null;
  private usesMarket = false;
  /** Row of each keyword id. */
  private rowOf = new Map<number, number>();
  /** All rows, from least to greatest, by what they are ordered by; made when first asked for. */
  private readonly orders = new Map<PoolSort, Uint32Array>();
  private bars: Uint8Array = new Uint8Array();
  private base: Base | null = null;

  /** Grows whenever what the pool holds is another; the revision also does when only other things of the plan changed. */
  changes = 0;

  get revision(): number {
    return this.columns.revision;
  }

  get length(): number {
    return this.columns.ids.length;
  }

  /** Takes the whole pool, or what has changed of it. O(pool). */
  take(columns: PoolColumns): void {
    if (columns.delta && columns.ids.length === 0 && columns.removed.length === 0) {
      this.columns = { ...this.columns, revision: columns.revision };
      return;
    }
    this.changes++;
    const before = { columns: this.columns, rowOf: this.rowOf, estimates: this.estimates };
    this.columns = columns.delta ? merged(this.columns, columns) : columns;
    this.rowOf = new Map();
    this.columns.ids.forEach((id, row) => {
      this.rowOf.set(id, row);
    });
    this.estimates = carriedOver(before, this.columns);
    this.show();
  }

  /** Grows whenever figures that are not told are others. */
  figuresChanges = 0;

  /** Estimates by this from now on, once `fillEstimates` has gone over the rows. */
  estimateBy(estimator: Pick<Estimator, 'into'> | null, usesMarket: boolean): void {
    this.estimator = estimator;
    this.usesMarket = usesMarket;
    this.estimates = noEstimates(this.length);
    this.figuresChanges++;
  }

  /**
   * Estimates the next rows that lack a told figure, at most so many; answers whether any is left. Only when none is do
   * they show, all at once.
   */
  fillEstimates(most: number): boolean {
    const { estimates, estimator } = this;
    const { searches, cpc, competition } = this.columns;
    for (let done = 0; estimates.next < this.length && done < most; estimates.next++) {
      const row = estimates.next;
      if (estimates.done[row] === 1) continue;
      estimates.done[row] = 1;
      if (!estimator) continue;
      if ((searches[row] as number) >= 0 && (cpc[row] as number) >= 0 && (competition[row] as number) >= 0)
        continue;
      done++;
      estimator.into(this.norm(row), OUT);
      estimates.searches[row] = OUT.searches;
      estimates.means[row] = OUT.meanSearches;
      estimates.cpc[row] = OUT.cpc;
      estimates.competition[row] = OUT.competition;
    }
    if (estimates.next < this.length) return true;
    this.show();
    return false;
  }

  private show() {
    this.shown = shownOf(this.columns, this.estimates, this.usesMarket);
    this.orders.clear();
    this.base = null;
    this.bars = Uint8Array.from(this.shown.searches, barOf);
  }

  /** The ids that a query leaves, in its order, the sum of their searches, and the histogram without the brush. */
  order(query: PoolQuery): PoolOrder {
    const { ids } = this.columns;
    const { searches, means, cpc } = this.shown;
    const counts = new Uint32Array(EDGES.length + 1);
    const sums = new Float64Array(EDGES.length + 1);
    const rows = this.rowsOf(query);
    const out = new Uint32Array(rows.length);
    let length = 0;
    let sum = 0;
    let estimated = 0;
    let madeUp = 0;
    let withCpc = 0;
    const from = query.from ?? Number.NEGATIVE_INFINITY;
    const to = query.to ?? Number.POSITIVE_INFINITY;
    for (let at = 0; at < rows.length; at++) {
      const row = rows[at] as number;
      const value = searches[row] as number;
      const bar = this.bars[row] as number;
      counts[bar] = (counts[bar] as number) + 1;
      const mean = Math.max(0, means[row] as number);
      sums[bar] = (sums[bar] as number) + mean;
      if (value < from || value > to) continue;
      out[length++] = ids[row] as number;
      sum += mean;
      if ((this.columns.searches[row] as number) < 0)
        if ((this.estimates.searches[row] as number) >= 0) estimated += mean;
        else madeUp += mean;
      if ((cpc[row] as number) >= 0) withCpc++;
    }
    return {
      ids: out.slice(0, length),
      searches: sum,
      estimated,
      madeUp,
      withCpc,
      histogram: histogramOf(counts, sums),
    };
  }

  /** The rows that all but the brush leaves, in the query's order. */
  private rowsOf(query: PoolQuery): Uint32Array {
    const { wanted, unwanted } = filterWords(query.filter);
    const base = this.baseOf(query);
    if (wanted.length + unwanted.length === 0) return base.rows;
    const known = base.marks;
    base.marks = new Map();
    for (const word of [...wanted, ...unwanted])
      base.marks.set(word, known.get(word) ?? linesWith(word, base.lines, base.starts));
    const marksOf = (word: string) => base.marks.get(word) as Uint8Array;
    const ins = wanted.map(marksOf);
    const outs = unwanted.map(marksOf);
    const rows = new Uint32Array(base.rows.length);
    let length = 0;
    each: for (let at = 0; at < rows.length; at++) {
      for (const marks of ins) if (marks[at] === 0) continue each;
      for (const marks of outs) if (marks[at] === 1) continue each;
      rows[length++] = base.rows[at] as number;
    }
    return rows.subarray(0, length);
  }

  private baseOf(query: PoolQuery): Base {
    const key = JSON.stringify({ ...query, filter: '', from: null, to: null });
    if (this.base?.key === key) return this.base;
    const rows = this.matching(query, this.ordered(query));
    const starts = new Uint32Array(rows.length);
    const texts: string[] = [];
    let start = 0;
    for (const [at, row] of rows.entries()) {
      const norm = this.norm(row);
      texts.push(norm);
      starts[at] = start;
      start += norm.length + 1;
    }
    this.base = { key, rows, lines: texts.join('\n'), starts, marks: new Map() };
    return this.base;
  }

  page(ids: ArrayLike<number>): PoolRow[] {
    return Array.from(ids, (id) => this.rowOf.get(id)).flatMap((row) =>
      row === undefined ? [] : [this.row(row)],
    );
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
  /** What stands for a row and what its searches add to a sum; -1 for none. Told ones alone decide. */
  shownSearches = (row: number): number => this.shown.searches[row] as number;
  meanSearches = (row: number): number => this.shown.means[row] as number;
  shownCpc = (row: number): number => this.shown.cpc[row] as number;
  shownCompetition = (row: number): number => this.shown.competition[row] as number;
  takenCpc = (row: number): number => this.columns.takenCpc[row] as number;
  /** The estimator in use, and whether made-up figures count. */
  figuresBy = () => ({ estimator: this.estimator, usesMarket: this.usesMarket });

  originOf(row: number, measure: Measured): Origin | null {
    const { columns, estimates } = this;
    if ((columns[measure][row] as number) >= 0)
      return ((columns.hand[row] as number) & BY_HAND[measure]) !== 0 ? 'hand' : 'told';
    if (measure === 'cpc' && (columns.takenCpc[row] as number) >= 0) return 'taken';
    if ((estimates[measure][row] as number) >= 0) return 'estimated';
    return (this.shown[measure][row] as number) >= 0 ? 'made-up' : null;
  }

  /** The pool as a plan is built of it; of the columns as they are now. */
  asPlan = (): PlanPool => planPoolOf(this.columns, this.rowById);

  sources = (row: number): number[] => this.columns.sources[row] as number[];
  isApart = (row: number): boolean => ((this.columns.flags[row] as number) & APART) !== 0;
  foldedInto = (row: number): number => this.columns.foldedInto[row] as number;
  blockedBy = (row: number): number => this.columns.blockedBy[row] as number;
  rowById = (id: number): number | undefined => this.rowOf.get(id);
  isIn = (row: number): boolean => this.stateOf(row) === 'in';

  stateOf = (row: number): PoolState => stateIn(this.columns, row);

  /** How many keywords are in each state. */
  counts(): Record<PoolState, number> {
    const counts = { in: 0, cut: 0, folded: 0, blocked: 0 };
    for (let row = 0; row < this.length; row++) counts[this.stateOf(row)]++;
    return counts;
  }

  private row(row: number): PoolRow {
    const { ids, texts, asked, flags, sources, figuresFrom, foldedInto, blockedBy, toldOf } = this.columns;
    const { searches, cpc, competition } = this.shown;
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
      from: {
        searches: this.originOf(row, 'searches'),
        cpc: this.originOf(row, 'cpc'),
        competition: this.originOf(row, 'competition'),
      },
      toldOf: toldOf.get(ids[row] as number) ?? null,
      kept: this.kept.of(ids[row] as number),
    };
  }

  private readonly kept = new KeptColumns();

  /** Takes what stands in a column that was kept as it is, by keyword. */
  takeKeptColumn(heading: string, ids: readonly number[], texts: readonly string[]): void {
    this.kept.take(heading, ids, texts);
    this.orders.delete(`kept:${heading}`);
    this.base = null;
  }

  keptKind = (heading: string): KeptKind => this.kept.kindOf(heading);

  /** What each source brings. */
  sourceTotals(sets = this.sourceSets()): Map<number, SourceTotals> {
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

  /** Which sources bring the same keywords: each set of sources with how many only it has, the largest first. */
  sourceSets(): { sources: number[]; keywords: number; searches: number }[] {
    const sets = new Map<string, { sources: number[]; keywords: number; searches: number }>();
    for (let row = 0; row < this.length; row++) {
      const sources = this.sources(row);
      const name = sources.join();
      const set = sets.get(name) ?? { sources, keywords: 0, searches: 0 };
      set.keywords++;
      set.searches += Math.max(0, this.searches(row));
      sets.set(name, set);
    }
    return [...sets.values()].sort((a, b) => b.keywords - a.keywords);
  }

  /** The rows that all but the query's words and its brush leaves. */
  private matching(query: PoolQuery, within: Uint32Array): Uint32Array {
    const { sources } = this.columns;
    const { cpc, competition } = this.shown;
    const { state, source, origin } = query;
    const inCpc = rangeTest(query.cpcFrom, query.cpcTo);
    const inCompetition = rangeTest(query.competitionFrom, query.competitionTo);
    const inKept = query.kept.length > 0 ? this.kept.sift(query.kept) : null;
    const rows = new Uint32Array(within.length);
    let length = 0;
    for (let at = 0; at < within.length; at++) {
      const row = within[at] as number;
      if (state !== 'all' && this.stateOf(row) !== state) continue;
      if (inCpc && !inCpc(cpc[row] as number)) continue;
      if (inCompetition && !inCompetition(competition[row] as number)) continue;
      if (origin !== 'all' && kindOf(this.originOf(row, 'searches')) !== origin) continue;
      if (source !== null && !(sources[row] as number[]).includes(source)) continue;
      if (inKept && !inKept(this.id(row))) continue;
      rows[length++] = row;
    }
    return rows.subarray(0, length);
  }

  /** All rows in the query's order; rows without a figure come last in either direction. */
  private ordered({ sort, down }: PoolQuery): Uint32Array {
    const order = this.orders.get(sort) ?? this.makeOrder(sort);
    this.orders.set(sort, order);
    if (!down) return order;
    if (sort === 'made' || sort === 'text') return order.toReversed();
    const isLacking = this.lackingBy(sort);
    let figures = order.length;
    while (figures > 0 && isLacking(order[figures - 1] as number)) figures--;
    const turned = order.subarray(0, figures).toReversed();
    const out = new Uint32Array(order.length);
    out.set(turned);
    out.set(order.subarray(figures), figures);
    return out;
  }

  private lackingBy(sort: Exclude<PoolSort, 'made' | 'text'>): (row: number) => boolean {
    if (isKept(sort)) {
      const keyOf = this.kept.keyOf(headingOf(sort));
      return (row) => keyOf(this.id(row)) === null;
    }
    const column = this.shown[sort];
    return (row) => (column[row] as number) < 0;
  }

  /** By its numbers, where most of it are some; else by its texts. Those without come last. */
  private keptOrder(rows: Uint32Array, heading: string): Uint32Array {
    const keyById = this.kept.keyOf(heading);
    const keyOf = (row: number) => keyById(this.id(row));
    return rows.sort((a, b) => {
      const [one, other] = [keyOf(a), keyOf(b)];
      if (one === null || other === null) return one === other ? a - b : one === null ? 1 : -1;
      return one < other ? -1 : one > other ? 1 : b - a;
    });
  }

  private makeOrder(sort: PoolSort): Uint32Array {
    const rows = Uint32Array.from({ length: this.length }, (_, row) => row);
    if (sort === 'made') return rows;
    if (sort === 'text') {
      const { norms } = this.columns;
      return rows.sort((a, b) => ((norms[a] as string) < (norms[b] as string) ? -1 : 1));
    }
    if (isKept(sort)) return this.keptOrder(rows, headingOf(sort));
    const column = this.shown[sort];
    const value = (row: number) =>
      (column[row] as number) < 0 ? Number.POSITIVE_INFINITY : (column[row] as number);
    // Backwards by row, since most look at the greatest first and expect those alike in the order they came.
    const tie = (a: number, b: number) => ((column[a] as number) < 0 ? a - b : b - a);
    return rows.sort((a, b) => value(a) - value(b) || tie(a, b));
  }
}

const isKept = (sort: PoolSort): sort is KeptSort => sort.startsWith('kept:');
const headingOf = (sort: KeptSort): string => sort.slice('kept:'.length);

function rangeTest(from: number | null, to: number | null): ((value: number) => boolean) | null {
  if (from === null && to === null) return null;
  return (value) => value >= 0 && (from === null || value >= from) && (to === null || value <= to);
}

/** 1 for each line that holds the word. */
function linesWith(word: string, lines: string, starts: Uint32Array): Uint8Array {
  const marks = new Uint8Array(starts.length);
  let line = 0;
  for (let at = lines.indexOf(word); at >= 0; at = lines.indexOf(word, starts[line])) {
    while (line + 1 < starts.length && (starts[line + 1] as number) <= at) line++;
    marks[line] = 1;
    if (++line >= starts.length) break;
  }
  return marks;
}

function histogramOf(counts: Uint32Array, sums: Float64Array): Histogram {
  const bars = Array.from(counts, (count, bar) => ({
    from: bar === 0 ? null : (EDGES[bar - 1] as number),
    to: bar === 0 || bar === EDGES.length ? null : (EDGES[bar] as number) - 1,
    count,
    searches: sums[bar] as number,
  }));
  return { bars, most: Math.max(1, ...counts) };
}

type Shown = { searches: Int32Array; means: Int32Array; cpc: Float64Array; competition: Int8Array };
/** Estimates by row, -1 for none; `done` are those that were gone over, all up to `next`. */
type Estimates = Shown & { done: Uint8Array; next: number };

const noneShown = (length: number): Shown => ({
  searches: new Int32Array(length).fill(-1),
  means: new Int32Array(length).fill(-1),
  cpc: new Float64Array(length).fill(-1),
  competition: new Int8Array(length).fill(-1),
});
const noEstimates = (length: number): Estimates => ({
  ...noneShown(length),
  done: new Uint8Array(length),
  next: 0,
});
const OUT = { searches: -1, meanSearches: -1, cpc: -1, competition: -1 };

/** The estimates of keywords that are written as they were. */
function carriedOver(
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
function shownOf(columns: PoolColumns, estimates: Estimates, usesMarket: boolean): Shown {
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
