import type { FactColumns } from './fact-part.ts';
import type { FactTable } from './fact-table.ts';
import { type ToldFigure, toldFigures } from './told-figures.ts';

/** What an import would do to what stands: rows and figures, counted by their time and place. */
export type Comparison = {
  rows: number;
  times: number;
  campaigns: number;
  added: number;
  gone: number;
  changed: number;
};

/** Rows by time and place, with the sums of their figures. */
class Cells {
  private readonly slotOf = new Map<number, number>();
  private readonly sums: Float64Array[] = [];

  constructor(private readonly places: number) {}

  get size(): number {
    return this.slotOf.size;
  }

  add(
    time: number,
    place: number,
    row: number,
    figures: Readonly<Record<ToldFigure, Float64Array | null>>,
  ): void {
    const key = time * this.places + place;
    const known = this.slotOf.get(key);
    const slot = known ?? this.slotOf.size;
    if (known === undefined) this.slotOf.set(key, slot);
    for (const [at, name] of toldFigures.entries()) {
      const value = figures[name]?.[row] ?? Number.NaN;
      if (Number.isNaN(value)) continue;
      const column = this.column(at, slot);
      const before = column[slot] as number;
      column[slot] = Number.isNaN(before) ? value : before + value;
    }
  }

  private column(at: number, slot: number): Float64Array {
    const there = this.sums[at];
    if (there && slot < there.length) return there;
    const grown = new Float64Array(Math.max(1_024, slot * 2)).fill(Number.NaN);
    if (there) grown.set(there);
    this.sums[at] = grown;
    return grown;
  }

  private value(at: number, slot: number): number {
    return this.sums[at]?.[slot] ?? Number.NaN;
  }

  /** What is here and not there, and how many figures of what is in both differ. */
  against(other: Cells): { only: number; changed: number } {
    let only = 0;
    let changed = 0;
    for (const [key, slot] of this.slotOf) {
      const theirs = other.slotOf.get(key);
      if (theirs === undefined) only++;
      else
        for (let at = 0; at < toldFigures.length; at++)
          if (!isSame(this.value(at, slot), other.value(at, theirs))) changed++;
    }
    return { only, changed };
  }
}

const isSame = (a: number, b: number): boolean => a === b || (Number.isNaN(a) && Number.isNaN(b));

/**
 * Holds what an import tells against what stands of the times and campaigns that it speaks for.
 * @param claimed by `time * campaigns + campaign` of the table, what it speaks for
 * @param timeOf of each of the import's times, which of the table's it is; one that the table has not is beyond its times
 * @param places more than the largest number of a place
 */
export function compareFacts(
  table: FactTable,
  claimed: Uint8Array,
  parts: Iterable<FactColumns>,
  timeOf: readonly number[],
  places: number,
): Comparison {
  const [before, after] = [new Cells(places), new Cells(places)];
  const hit = { times: new Set<number>(), campaigns: new Set<number>() };
  let rows = 0;
  for (let row = 0; row < table.rows; row++) {
    const time = table.time[row] as number;
    const place = table.place[row] as number;
    const campaign = table.campaignOf[place] as number;
    if (!claimed[time * table.campaigns + campaign]) continue;
    rows++;
    hit.times.add(time);
    hit.campaigns.add(campaign);
    before.add(time, place, row, table.figures);
  }
  for (const { rows: count, time, place, figures } of parts)
    for (let row = 0; row < count; row++)
      after.add(timeOf[time[row] as number] as number, place[row] as number, row, figures);
  const { only: added, changed } = after.against(before);
  return {
    rows,
    times: hit.times.size,
    campaigns: hit.campaigns.size,
    added,
    gone: before.against(after).only,
    changed,
  };
}
