import type { FactTable } from './fact-table.ts';
import {
  type CountedFigure,
  countedFigures,
  type PlainRatio,
  plainRatios,
  type ResultFigure,
  resultFigures,
  timesOf,
  type WorkedFigure,
} from './figure-sums.ts';
import { WHOLE } from './told-figures.ts';

type Counted = { sum: Float64Array; told: Uint8Array };
type Pair = { above: Float64Array; below: Float64Array };
type Of = (row: number) => number;

const sumOf = (column: Float64Array, groups: readonly number[]): number => {
  let sum = 0;
  for (const group of groups) sum += column[group] as number;
  return sum;
};

const counts: ReadonlySet<ResultFigure> = new Set(countedFigures);
const isCounted = (name: ResultFigure): name is CountedFigure => counts.has(name);

/** Rows that are in no group. */
export const LEFT_OUT = -1;

/**
 * The figures of many groups of rows at once: those that `FigureSums` has of each, by columns. Each is added up when it
 * is first asked for, O(rows) a figure; the ratios of counted figures that every row tells cost nothing more.
 */
export class GroupSums {
  private readonly counted = new Map<CountedFigure, Counted | null>();
  private readonly pairs = new Map<WorkedFigure, Pair | null>();

  /** @param groupOf of each row, the group that it is in, or `LEFT_OUT` */
  constructor(
    private readonly table: FactTable,
    readonly groupOf: Int32Array,
    readonly groups: number,
  ) {
    this.seen = new Uint8Array(groups);
    for (let row = 0; row < table.rows; row++) {
      const group = groupOf[row] as number;
      if (group >= 0) this.seen[group] = 1;
    }
  }

  private readonly seen: Uint8Array;

  /** Whether any row is in the group. */
  has(group: number): boolean {
    return this.seen[group] === 1;
  }

  /** In the units of `FigureSums.figure`. */
  figure(name: ResultFigure, group: number): number | null {
    if (isCounted(name)) {
      const counted = this.countedOf(name);
      return counted?.told[group] ? (counted.sum[group] as number) : null;
    }
    const pair = this.pairOf(name);
    if (!pair) return null;
    const below = pair.below[group] as number;
    return below > 0 ? ((pair.above[group] as number) / below) * timesOf(name) : null;
  }

  /** One figure of every group, in the units of `FigureSums.figure`; NaN where none is told. O(groups). */
  column(name: ResultFigure): Float64Array {
    if (isCounted(name)) {
      const counted = this.countedOf(name);
      const none = new Float64Array(this.groups).fill(Number.NaN);
      return counted ? counted.sum.map((sum, group) => (counted.told[group] ? sum : Number.NaN)) : none;
    }
    const pair = this.pairOf(name);
    const times = timesOf(name);
    return Float64Array.from({ length: this.groups }, (_, group) => {
      const below = pair ? (pair.below[group] as number) : 0;
      return pair && below > 0 ? ((pair.above[group] as number) / below) * times : Number.NaN;
    });
  }

  /** The figures of several groups together, in the order of `resultFigures`. O(groups). */
  together(groups: readonly number[]): (number | null)[] {
    return resultFigures.map((name) => this.oneOf(name, groups));
  }

  /** One figure of several groups together. O(groups). */
  oneOf(name: ResultFigure, groups: readonly number[]): number | null {
    if (isCounted(name)) {
      const counted = this.countedOf(name);
      const told = groups.filter((group) => counted?.told[group]);
      return !counted || told.length === 0 ? null : sumOf(counted.sum, told);
    }
    const pair = this.pairOf(name);
    if (!pair) return null;
    const below = sumOf(pair.below, groups);
    return below > 0 ? (sumOf(pair.above, groups) / below) * timesOf(name) : null;
  }

  /** Of one group, in the order of `resultFigures`. */
  figures(group: number): (number | null)[] {
    return resultFigures.map((name) => this.figure(name, group));
  }

  private countedOf(name: CountedFigure): Counted | null {
    const there = this.counted.get(name);
    if (there !== undefined) return there;
    const counted = this.count(name);
    this.counted.set(name, counted);
    return counted;
  }

  private pairOf(name: WorkedFigure): Pair | null {
    const there = this.pairs.get(name);
    if (there !== undefined) return there;
    const pair = this.work(name);
    this.pairs.set(name, pair);
    return pair;
  }

  private work(name: WorkedFigure): Pair | null {
    if (name === 'position') return this.weigh();
    if (name === 'share' || name === 'lostBudget' || name === 'lostRank') return this.share(name);
    return this.divide(name);
  }

  private count(name: CountedFigure): Counted | null {
    const column = this.table.figures[name];
    if (!column) return null;
    const [sum, told] = [new Float64Array(this.groups), new Uint8Array(this.groups)];
    const { groupOf } = this;
    for (let row = 0; row < this.table.rows; row++) {
      const group = groupOf[row] as number;
      const value = column[row] as number;
      if (group < 0 || Number.isNaN(value)) continue;
      sum[group] = (sum[group] as number) + value;
      told[group] = 1;
    }
    return { sum, told };
  }

  private divide(name: PlainRatio): Pair | null {
    const { above, below } = plainRatios[name];
    const [upper, lower] = [this.table.figures[above], this.table.figures[below]];
    if (!upper || !lower) return null;
    const { full } = this.table;
    if (full.has(above) && full.has(below)) {
      const [sumAbove, sumBelow] = [this.countedOf(above), this.countedOf(below)];
      if (sumAbove && sumBelow) return { above: sumAbove.sum, below: sumBelow.sum };
    }
    return this.pair(
      (row) => upper[row] as number,
      (row) => lower[row] as number,
    );
  }

  /** Sums above and below the line, of the rows that tell both. */
  private pair(above: Of, below: Of): Pair {
    const pair = { above: new Float64Array(this.groups), below: new Float64Array(this.groups) };
    const { groupOf } = this;
    for (let row = 0; row < this.table.rows; row++) {
      const group = groupOf[row] as number;
      if (group < 0) continue;
      const [upper, lower] = [above(row), below(row)];
      if (Number.isNaN(upper) || Number.isNaN(lower)) continue;
      pair.above[group] = (pair.above[group] as number) + upper;
      pair.below[group] = (pair.below[group] as number) + lower;
    }
    return pair;
  }

  /** The position by impressions. */
  private weigh(): Pair | null {
    const { position, impressions } = this.table.figures;
    if (!position || !impressions) return null;
    const { full } = this.table;
    const seen = full.has('position') && full.has('impressions') ? this.countedOf('impressions') : null;
    if (seen) return { above: this.products(position, impressions), below: seen.sum };
    return this.pair(
      (row) => (position[row] as number) * (impressions[row] as number),
      (row) => (Number.isNaN(position[row]) ? Number.NaN : (impressions[row] as number)),
    );
  }

  private products(first: Float64Array, second: Float64Array): Float64Array {
    const sum = new Float64Array(this.groups);
    const { groupOf } = this;
    for (let row = 0; row < this.table.rows; row++) {
      const group = groupOf[row] as number;
      if (group >= 0) sum[group] = (sum[group] as number) + (first[row] as number) * (second[row] as number);
    }
    return sum;
  }

  /** A share by the impressions that were to be had. */
  private share(name: 'share' | 'lostBudget' | 'lostRank'): Pair | null {
    const { impressions, share, lostBudget, lostRank } = this.table.figures;
    const wanted = this.table.figures[name];
    if (!wanted || !impressions || !(share || (lostBudget && lostRank))) return null;
    const eligible: Of = (row) => {
      const own = share ? (share[row] as number) : Number.NaN;
      const lost =
        lostBudget && lostRank ? (lostBudget[row] as number) + (lostRank[row] as number) : Number.NaN;
      const got = Number.isNaN(own) ? WHOLE - lost : own;
      return got > 0 ? Math.round(((impressions[row] as number) * WHOLE) / got) : Number.NaN;
    };
    if (name === 'share')
      return this.pair(
        (row) => (Number.isNaN(wanted[row]) ? Number.NaN : (impressions[row] as number)),
        eligible,
      );
    return this.pair(
      (row) => (eligible(row) * (wanted[row] as number)) / WHOLE,
      (row) => (Number.isNaN(wanted[row]) ? Number.NaN : eligible(row)),
    );
  }
}
