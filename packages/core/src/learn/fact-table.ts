import type { Time } from './day.ts';
import type { FactColumns } from './fact-part.ts';
import { type ToldFigure, toldFigures } from './told-figures.ts';

/** What stands of one account and grain, by columns: of each row its time, its place and its figures (NaN: not told). */
export type FactTable = {
  rows: number;
  times: readonly Time[];
  /** Of each place: the campaign that it is in. */
  campaignOf: Uint32Array;
  campaigns: number;
  time: Uint32Array;
  place: Uint32Array;
  figures: Record<ToldFigure, Float64Array | null>;
};

/** For each time and campaign the import that speaks for it last: by `time * campaigns + campaign`, -1 where none does. */
export class StandingImports {
  readonly last: Int32Array;

  constructor(
    times: number,
    private readonly campaigns: number,
  ) {
    this.last = new Int32Array(times * campaigns).fill(-1);
  }

  /** In the order in which they came in. @param of null: the whole account */
  claim(nth: number, times: Iterable<number>, of: readonly number[] | null): void {
    for (const time of times) {
      const start = time * this.campaigns;
      if (of === null) this.last.fill(nth, start, start + this.campaigns);
      else for (const campaign of of) this.last[start + campaign] = nth;
    }
  }

  /** Whether anything of an import stands. */
  has(nth: number): boolean {
    return this.last.includes(nth);
  }
}

/** Puts the rows that stand of one account and grain together, import by import. O(rows). */
export class FactTableBuilder {
  private readonly table: FactTable;

  /** @param most no more rows will be put in */
  constructor(
    most: number,
    times: readonly Time[],
    campaignOf: Uint32Array,
    private readonly standing: StandingImports,
    campaigns: number,
  ) {
    this.table = {
      rows: 0,
      times,
      campaignOf,
      campaigns,
      time: new Uint32Array(most),
      place: new Uint32Array(most),
      figures: Object.fromEntries(toldFigures.map((name) => [name, null])) as FactTable['figures'],
    };
  }

  /** @param timeOf of each of the import's times, which of the table's it is */
  add(nth: number, { rows, time, place, figures }: FactColumns, timeOf: readonly number[]): void {
    const { table } = this;
    const { campaignOf, campaigns } = table;
    const { last } = this.standing;
    const kept = new Uint32Array(rows);
    let count = 0;
    for (let row = 0; row < rows; row++) {
      const at = timeOf[time[row] as number];
      const of = campaignOf[place[row] as number];
      if (at === undefined || of === undefined) throw new RangeError('A row of a report that is of nothing.');
      if (last[at * campaigns + of] !== nth) continue;
      table.time[table.rows + count] = at;
      table.place[table.rows + count] = place[row] as number;
      kept[count++] = row;
    }
    for (const name of toldFigures) {
      const from = figures[name];
      if (!from) continue;
      table.figures[name] ??= new Float64Array(table.time.length).fill(Number.NaN);
      const into = table.figures[name] as Float64Array;
      for (let at = 0; at < count; at++) into[table.rows + at] = from[kept[at] as number] as number;
    }
    table.rows += count;
  }

  done(): FactTable {
    return this.table;
  }
}
