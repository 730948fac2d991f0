import { type FactColumns, type ToldFigure, type ToldFigures, toldFigures } from '@sprig/core/learn';

/** Rows that are packed together. */
const ROWS = 65_536;

/** Rows of a report as they come, until there are enough of them to be packed. */
export class FactBuffer {
  private rows = 0;
  private readonly time = new Float64Array(ROWS);
  private readonly place = new Float64Array(ROWS);
  private readonly figures = toldFigures.map(() => new Float64Array(ROWS));

  get isFull(): boolean {
    return this.rows === ROWS;
  }

  add(time: number, place: number, told: ToldFigures): void {
    this.time[this.rows] = time;
    this.place[this.rows] = place;
    for (let at = 0; at < toldFigures.length; at++)
      (this.figures[at] as Float64Array)[this.rows] = told[toldFigures[at] as ToldFigure] ?? Number.NaN;
    this.rows++;
  }

  /** What came since it was last taken; null: nothing. */
  take(): FactColumns | null {
    if (this.rows === 0) return null;
    const taken: FactColumns = {
      rows: this.rows,
      time: this.time.slice(0, this.rows),
      place: this.place.slice(0, this.rows),
      figures: Object.fromEntries(
        toldFigures.map((name, at) => [name, (this.figures[at] as Float64Array).slice(0, this.rows)]),
      ) as FactColumns['figures'],
    };
    this.rows = 0;
    return taken;
  }
}
