import type { FactTable } from '../learn/index.ts';
import type { AdCell, AdTestRules } from './ad-test.ts';

/** Which of two sides each place is on, -1 where on none, and the stratum that it is in; `strata`: how many there are. */
export type AdSides = { of: Int8Array; stratum: Int32Array; strata: number };

const MILLION = 1_000_000;

/**
 * What two sides had, by times and strata, of those alone in which both were seen; in the order of times. Conversions count as
 * whole ones, none below nothing and none above the clicks. Memory grows with strata and rows, not with what is given.
 * O(rows + times × strata).
 *
 * @param added which times of which campaigns are looked at, as for sums
 */
export function* adCells(
  table: FactTable,
  added: Uint8Array,
  { of, stratum, strata }: AdSides,
  by: AdTestRules['by'],
): Generator<AdCell> {
  const { impressions, clicks, conversions } = table.figures;
  if (!impressions || !clicks || (by === 'conversions' && !conversions)) return;
  const { order, starts } = rowsByTime(table, added, of);
  const sums = [new Sums(strata), new Sums(strata)] as const;
  const times = Array.from(table.times.keys()).sort(
    (a, b) => (table.times[a]?.from ?? 0) - (table.times[b]?.from ?? 0),
  );
  for (const time of times) {
    const [from, to] = [starts[time] as number, starts[time + 1] as number];
    if (from === to) continue;
    const touched: number[] = [];
    for (let at = from; at < to; at++) {
      const row = order[at] as number;
      const place = table.place[row] as number;
      const own = stratum[place] as number;
      const side = sums[of[place] as 0 | 1];
      if (sums[0].isFree(own) && sums[1].isFree(own)) touched.push(own);
      const shown = impressions[row] || 0;
      const clicked = Math.min(clicks[row] || 0, shown);
      side.add(own, shown, clicked, by === 'clicks' ? clicked : (conversions?.[row] || 0) / MILLION);
    }
    const day = table.times[time]?.from ?? 0;
    touched.sort((a, b) => a - b);
    for (const own of touched) {
      const [a, b] = [sums[0].of(own, by), sums[1].of(own, by)];
      if (a && b)
        yield {
          time: day,
          stratum: own,
          triesA: a.tries,
          hitsA: a.hits,
          triesB: b.tries,
          hitsB: b.hits,
          clicksA: a.clicks,
          clicksB: b.clicks,
        };
      for (const side of sums) side.free(own);
    }
  }
}

/** What one side had in each stratum at one time. */
class Sums {
  private readonly used: Uint8Array;
  private readonly seen: Float64Array;
  private readonly clicks: Float64Array;
  private readonly hits: Float64Array;

  constructor(strata: number) {
    this.used = new Uint8Array(strata);
    this.seen = new Float64Array(strata);
    this.clicks = new Float64Array(strata);
    this.hits = new Float64Array(strata);
  }

  isFree = (at: number): boolean => this.used[at] === 0;

  add(at: number, seen: number, clicks: number, hits: number): void {
    this.used[at] = 1;
    this.seen[at] = (this.seen[at] as number) + seen;
    this.clicks[at] = (this.clicks[at] as number) + clicks;
    this.hits[at] = (this.hits[at] as number) + hits;
  }

  /** null where nothing was seen. */
  of(at: number, by: AdTestRules['by']): { tries: number; hits: number; clicks: number } | null {
    const [seen, clicks] = [this.seen[at] as number, this.clicks[at] as number];
    if (seen <= 0) return null;
    const tries = by === 'clicks' ? seen : clicks;
    return { tries, hits: Math.min(Math.max(0, Math.round(this.hits[at] as number)), tries), clicks };
  }

  free(at: number): void {
    this.used[at] = 0;
    this.seen[at] = 0;
    this.clicks[at] = 0;
    this.hits[at] = 0;
  }
}

/** Rows of both sides that are looked at, by their times; those of a time lie from its start to the next. */
function rowsByTime(
  table: FactTable,
  added: Uint8Array,
  of: Int8Array,
): { order: Uint32Array; starts: Uint32Array } {
  const isIn = (row: number): boolean => {
    const place = table.place[row] as number;
    if ((of[place] as number) < 0) return false;
    const cell = (table.time[row] as number) * table.campaigns + (table.campaignOf[place] as number);
    return added[cell] !== 0;
  };
  const starts = new Uint32Array(table.times.length + 1);
  for (let row = 0; row < table.rows; row++)
    if (isIn(row)) {
      const next = (table.time[row] as number) + 1;
      starts[next] = (starts[next] as number) + 1;
    }
  for (let time = 1; time < starts.length; time++)
    starts[time] = (starts[time] as number) + (starts[time - 1] as number);
  const order = new Uint32Array(starts.at(-1) ?? 0);
  const next = starts.slice();
  for (let row = 0; row < table.rows; row++)
    if (isIn(row)) {
      const time = table.time[row] as number;
      order[next[time] as number] = row;
      next[time] = (next[time] as number) + 1;
    }
  return { order, starts };
}
