import {
  APART,
  bareColumns,
  CPC_ABOUT,
  type PoolColumns,
  planPoolOf,
  SEARCHES_ABOUT,
  stateIn,
} from '@sprig/contracts';
import type { Estimator, Origin } from '@sprig/core/figures';
import { BY_HAND, filterWords } from '@sprig/core/gather';
import type { PlanPool } from '@sprig/core/plan';
import { KeptColumns, type KeptKind } from './kept-columns.ts';
import { lackingBy, orderBy, type Sortable } from './pool-orders.ts';
import {
  kindOf,
  type PoolOrder,
  type PoolQuery,
  type PoolRow,
  type PoolSort,
  type PoolState,
  type SourceTotals,
} from './pool-query.ts';
import {
  barOf,
  carriedOver,
  EDGES,
  type Estimates,
  histogramOf,
  linesWith,
  type Measured,
  merged,
  noEstimates,
  noneShown,
  OUT,
  rangeTest,
  type Shown,
  shownOf,
} from './pool-shown.ts';
import { type SourceSet, setsOf, totalsOf } from './source-sets.ts';

export {
  type OriginKind,
  originKinds,
  type PoolOrder,
  type PoolQuery,
  type PoolRow,
  type PoolSort,
  type PoolState,
  poolStates,
  type SourceTotals,
  wholePool,
} from './pool-query.ts';

export { type Histogram, type Measured, merged } from './pool-shown.ts';

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
      isAskedByHand: ((this.columns.hand[row] as number) & BY_HAND.asked) !== 0,
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

  /** Takes a figure of results as a column beside those. */
  takeNumbers(
    heading: string,
    ids: readonly number[],
    numbers: readonly number[],
    texts: readonly string[],
  ): void {
    this.kept.takeNumbers(heading, ids, numbers, texts);
    this.orders.delete(`kept:${heading}`);
    this.base = null;
  }

  keptKind = (heading: string): KeptKind => this.kept.kindOf(heading);

  sourceTotals = (sets = this.sourceSets()): Map<number, SourceTotals> => totalsOf(sets);

  sourceSets = (): SourceSet[] =>
    setsOf(
      this.length,
      (row) => this.sources(row),
      (row) => this.searches(row),
    );

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
    const order = this.orders.get(sort) ?? orderBy(sort, this.sortable);
    this.orders.set(sort, order);
    if (!down) return order;
    if (sort === 'made' || sort === 'text') return order.toReversed();
    const isLacking = lackingBy(sort, this.sortable);
    let figures = order.length;
    while (figures > 0 && isLacking(order[figures - 1] as number)) figures--;
    const turned = order.subarray(0, figures).toReversed();
    const out = new Uint32Array(order.length);
    out.set(turned);
    out.set(order.subarray(figures), figures);
    return out;
  }

  private get sortable(): Sortable {
    const { norms } = this.columns;
    return { length: this.length, norms, shown: this.shown, keptKey: this.keptKey };
  }

  private keptKey = (heading: string): ((row: number) => string | number | null) => {
    const keyOf = this.kept.keyOf(heading);
    return (row) => keyOf(this.id(row));
  };
}
