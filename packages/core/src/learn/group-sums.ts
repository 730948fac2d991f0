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

type Pair = { above: Float64Array; below: Float64Array };
type Of = (row: number) => number;

const sumOf = (column: Float64Array, groups: readonly number[]): number => {
  let sum = 0;
  for (const group of groups) sum += column[group] as number;
  return sum;
};

/** Rows that are in no group. */
export const LEFT_OUT = -1;

/**
 * The figures of many groups of rows at once: those that `FigureSums` has of each, by columns. O(rows) a figure; the ratios
 * of counted figures that every row tells cost nothing more.
 */
export class GroupSums {
  private readonly counted: Partial<Record<CountedFigure, { sum: Float64Array; told: Uint8Array }>> = {};
  private readonly pairs: Partial<Record<WorkedFigure, Pair>> = {};

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
    for (const name of countedFigures) this.count(name);
    for (const name of Object.keys(plainRatios) as PlainRatio[]) this.divide(name);
    this.weigh();
    this.share();
  }

  private readonly seen: Uint8Array;

  /** Whether any row is in the group. */
  has(group: number): boolean {
    return this.seen[group] === 1;
  }

  /** In the units of `FigureSums.figure`. */
  figure(name: ResultFigure, group: number): number | null {
    const counted = this.counted[name as CountedFigure];
    if (counted) return counted.told[group] ? (counted.sum[group] as number) : null;
    const pair = this.pairs[name as WorkedFigure];
    if (!pair) return null;
    const below = pair.below[group] as number;
    return below > 0 ? ((pair.above[group] as number) / below) * timesOf(name as WorkedFigure) : null;
  }

  /** The figures of several groups together, in the order of `resultFigures`. O(groups). */
  together(groups: readonly number[]): (number | null)[] {
    return resultFigures.map((name) => this.oneOf(name, groups));
  }

  /** One figure of several groups together. O(groups). */
  oneOf(name: ResultFigure, groups: readonly number[]): number | null {
    const counted = this.counted[name as CountedFigure];
    if (counted) {
      const told = groups.filter((group) => counted.told[group]);
      return told.length === 0 ? null : sumOf(counted.sum, told);
    }
    const pair = this.pairs[name as WorkedFigure];
    if (!pair) return null;
    const below = sumOf(pair.below, groups);
    return below > 0 ? (sumOf(pair.above, groups) / below) * timesOf(name as WorkedFigure) : null;
  }

  /** Of one group, in the order of `resultFigures`. */
  figures(group: number): (number | null)[] {
    return resultFigures.map((name) => this.figure(name, group));
  }

  private count(name: CountedFigure): void {
    const column = this.table.figures[name];
    if (!column) return;
    const [sum, told] = [new Float64Array(this.groups), new Uint8Array(this.groups)];
    const { groupOf } = this;
    for (let row = 0; row < this.table.rows; row++) {
      const group = groupOf[row] as number;
      const value = column[row] as number;
      if (group < 0 || Number.isNaN(value)) continue;
      sum[group] = (sum[group] as number) + value;
      told[group] = 1;
    }
    this.counted[name] = { sum, told };
  }

  private divide(name: PlainRatio): void {
    const { above, below } = plainRatios[name];
    const [upper, lower] = [this.table.figures[above], this.table.figures[below]];
    if (!upper || !lower) return;
    const [sumAbove, sumBelow] = [this.counted[above], this.counted[below]];
    const { full } = this.table;
    if (sumAbove && sumBelow && full.has(above) && full.has(below))
      this.pairs[name] = { above: sumAbove.sum, below: sumBelow.sum };
    else
      this.pairs[name] = this.pair(
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
  private weigh(): void {
    const { position, impressions } = this.table.figures;
    if (!position || !impressions) return;
    if (this.table.full.has('position') && this.table.full.has('impressions') && this.counted.impressions) {
      this.pairs.position = {
        above: this.products(position, impressions),
        below: this.counted.impressions.sum,
      };
      return;
    }
    this.pairs.position = this.pair(
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

  /** Shares by the impressions that were to be had. */
  private share(): void {
    const { impressions, share, lostBudget, lostRank } = this.table.figures;
    if (!impressions || !(share || (lostBudget && lostRank))) return;
    const eligible: Of = (row) => {
      const own = share ? (share[row] as number) : Number.NaN;
      const lost =
        lostBudget && lostRank ? (lostBudget[row] as number) + (lostRank[row] as number) : Number.NaN;
      const got = Number.isNaN(own) ? WHOLE - lost : own;
      return got > 0 ? Math.round(((impressions[row] as number) * WHOLE) / got) : Number.NaN;
    };
    if (share)
      this.pairs.share = this.pair(
        (row) => (Number.isNaN(share[row]) ? Number.NaN : (impressions[row] as number)),
        eligible,
      );
    const lostOf = (lost: Float64Array): Pair =>
      this.pair(
        (row) => (eligible(row) * (lost[row] as number)) / WHOLE,
        (row) => (Number.isNaN(lost[row]) ? Number.NaN : eligible(row)),
      );
    if (lostBudget) this.pairs.lostBudget = lostOf(lostBudget);
    if (lostRank) this.pairs.lostRank = lostOf(lostRank);
  }
}
