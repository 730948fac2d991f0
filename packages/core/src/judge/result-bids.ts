import { asMicros, type Micros, multiplied } from '../money/index.ts';
import { expectedRates } from './expected-rates.ts';
import type { Aims } from './verdicts.ts';

/** From this position on, up to where the next band begins, bids change by so many percent. */
export type PositionBand = { from: number; by: number };

/** How bids follow from results. */
export type BidRulesOfResults = {
  bands: readonly PositionBand[];
  /** To an aim: only with so many clicks whose conversions count. */
  clicks: number;
  /** To an aim: at most so many percent at a time, up or down. */
  most: number;
  /** From so many conversions of a campaign on the engine's own bidding may be tried. */
  conversions: number;
};
export const usualBidRules: Readonly<BidRulesOfResults> = {
  bands: [
    { from: 3.5, by: 20 },
    { from: 8, by: 35 },
  ],
  clicks: 10,
  most: 30,
  conversions: 10,
};

/** The band that a position is in; null where it is in none. The last that begins at or above it. */
export function bandOf(position: number, bands: readonly PositionBand[]): PositionBand | null {
  let found: PositionBand | null = null;
  for (const band of bands)
    if (band.from <= position && (found === null || band.from > found.from)) found = band;
  return found;
}

/** What came of keyword rows on days whose conversions count, by columns; amounts in millionths. */
export type Earned = { clicks: Float64Array; conversions: Float64Array; value: Float64Array };

/** What a click of each row is to be expected to bring. */
export type WorthOfClicks = {
  /** Conversions a click. */
  rates: Float64Array;
  /** What a click may cost by the aim, in millionths; NaN where a row has none, null where none has, or no value is told. */
  worth: Float64Array | null;
};

/** Conversions that the value of one is told by. */
const VALUED = 10;

/**
 * What a click may cost: the rate to expect times what a conversion may; by a return, times the value of a conversion by the
 * return. The value is that of the nearest with enough conversions: the row, what it lies in, the plan. null where nothing
 * was clicked or nothing was sold. O(rows).
 *
 * @param levels see `expectedRates`
 */
export function worthOfClicks(
  { clicks, conversions, value }: Earned,
  levels: readonly Int32Array[],
  aims: Aims,
): WorthOfClicks | null {
  // A row may have less than none, or more than one a click: the first is none, the second is counted.
  const sold = conversions.map((one) => Math.max(0, one));
  if (!sold.some((one) => one > 0)) return null;
  const rates = expectedRates({ of: sold, all: clicks }, levels);
  if (!rates) return null;
  const valued = valuesOfConversions(sold, value, levels);
  const worth = rates.map((rate, row) => {
    const { cost, return: back } = typeof aims === 'function' ? aims(row) : aims;
    if (cost !== null && cost > 0) return rate * cost;
    if (back === null || back <= 0 || !valued) return Number.NaN;
    return (rate * (valued[row] as number)) / back;
  });
  return { rates, worth: worth.every(Number.isNaN) ? null : worth };
}

function valuesOfConversions(
  sold: Float64Array,
  value: Float64Array,
  levels: readonly Int32Array[],
): Float64Array | null {
  const all = sold.reduce((sum, one) => sum + one, 0);
  const worth = value.reduce((sum, one) => sum + one, 0);
  if (all <= 0 || worth <= 0) return null;
  const known = new Float64Array(sold.length).fill(worth / all);
  for (const level of levels.toReversed()) {
    const size = level.reduce((most, one) => Math.max(most, one + 1), 0);
    const sums = { sold: new Float64Array(size), value: new Float64Array(size) };
    level.forEach((into, row) => {
      sums.sold[into] = (sums.sold[into] as number) + (sold[row] as number);
      sums.value[into] = (sums.value[into] as number) + (value[row] as number);
    });
    level.forEach((into, row) => {
      if ((sums.sold[into] as number) >= VALUED)
        known[row] = (sums.value[into] as number) / (sums.sold[into] as number);
    });
  }
  return known.map((around, row) =>
    (sold[row] as number) >= VALUED ? (value[row] as number) / (sold[row] as number) : around,
  );
}

/** What keeps a bid from going where it should. */
export const bidBounds = ['none', 'most', 'floor', 'ceiling'] as const;
export type BidBound = (typeof bidBounds)[number];

type Bounds = { most: number; floor: Micros; ceiling: Micros; increment: Micros };

/** A bid on its way to another: not further at a time than it may go, then between the plan's floor and ceiling. */
export function boundedBid(now: Micros, wanted: number, bounds: Bounds): { bid: Micros; by: BidBound } {
  const { most, floor, ceiling, increment } = bounds;
  const [low, high] = [now * Math.max(0, 1 - most / 100), now * (1 + most / 100)];
  const near = Math.min(Math.max(wanted, low), high);
  const rounded = Math.max(increment, multiplied(asMicros(Math.max(0, Math.round(near))), [], increment));
  // A bid that was held out of its bounds is not moved further from them, nor by more than it may.
  if (rounded > ceiling && rounded > now) return { bid: asMicros(Math.max(ceiling, now)), by: 'ceiling' };
  if (rounded < floor && rounded < now) return { bid: asMicros(Math.min(floor, now)), by: 'floor' };
  return { bid: asMicros(rounded), by: near === wanted ? 'none' : 'most' };
}
