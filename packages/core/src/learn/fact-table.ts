import type { Time } from './day.ts';
import type { OpenFacts } from './fact-part.ts';
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
  /** Figures that every row tells. */
  full: ReadonlySet<ToldFigure>;
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

  /** Whether it is the last to speak for all that it speaks for. */
  isWhole(nth: number, times: readonly number[], of: readonly number[] | null): boolean {
    const campaigns = of ?? Array.from({ length: this.campaigns }, (_, at) => at);
    return times.every((time) =>
      campaigns.every((campaign) => this.last[time * this.campaigns + campaign] === nth),
    );
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
      full: new Set(),
    };
  }

  /**
   * @param timeOf of each of the import's times, which of the table's it is
   * @param isWhole all of its rows stand
   */
  add(nth: number, columns: OpenFacts, timeOf: readonly number[], isWhole = false): void {
    const { table } = this;
    const { rows, figures } = columns;
    const kept = this.place(nth, columns, timeOf, isWhole);
    const from = table.rows;
    const to = from + (kept?.length ?? rows);
    for (const name of toldFigures) {
      const unpack = figures[name];
      let into = table.figures[name];
      if (!into && !unpack) continue;
      // Rows before it tell nothing of it.
      if (!into) into = new Float64Array(table.time.length).fill(Number.NaN, 0, from);
      table.figures[name] = into;
      if (!unpack) into.fill(Number.NaN, from, to);
      else if (!kept) unpack(into, from);
      else {
        const all = new Float64Array(rows);
        unpack(all, 0);
        for (let at = from; at < to; at++) into[at] = all[kept[at - from] as number] as number;
      }
    }
    table.rows = to;
  }

  /** Puts times and places of the rows that stand in; answers which they are, null where all do. */
  private place(
    nth: number,
    { rows, time, place }: Pick<OpenFacts, 'rows' | 'time' | 'place'>,
    timeOf: readonly number[],
    isWhole: boolean,
  ): Uint32Array | null {
    const { table } = this;
    const { campaignOf, campaigns } = table;
    const { last } = this.standing;
    const kept = isWhole ? null : new Uint32Array(rows);
    let count = 0;
    for (let row = 0; row < rows; row++) {
      const at = timeOf[time[row] as number];
      const of = campaignOf[place[row] as number];
      if (at === undefined || of === undefined) throw new RangeError('A row of a report that is of nothing.');
      if (kept && last[at * campaigns + of] !== nth) continue;
      table.time[table.rows + count] = at;
      table.place[table.rows + count] = place[row] as number;
      if (kept) kept[count] = row;
      count++;
    }
    return kept?.subarray(0, count) ?? null;
  }

  done(): FactTable {
    const { rows, figures } = this.table;
    this.table.full = new Set(
      toldFigures.filter((name) => figures[name] && !figures[name].subarray(0, rows).includes(Number.NaN)),
    );
    return this.table;
  }
}
