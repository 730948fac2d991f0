import { itemAt } from '../access/index.ts';
import { asMicros, type BasisPoints, type Micros } from '../money/index.ts';

/** The least bid that reaches a position of a search, 1 = top, and what it brings a month. `share` is from 0 to 1. */
export type CurvePoint = {
  position: number;
  bid: Micros;
  impressions: number;
  clicks: number;
  share: number;
};

/** What is expected of a search, the top position first. Empty: its searches or its CPC are not known. */
export type Curve = readonly CurvePoint[];

/** A month's clicks and cost; clicks are a mean and may be a part of one, cost is whole micros. */
export type Forecast = { clicks: number; cost: Micros };

export const nothingForecast: Forecast = { clicks: 0, cost: asMicros(0) };

/** Where a bid stands on a curve. */
export type Standing = Forecast & { position: number | null; impressions: number; share: number };

/**
 * What a bid brings a month. Between two positions clicks, impressions, share and position are in proportion to the bid; above the
 * top the top's price is paid; under the last position it brings nothing. O(positions).
 */
export function forecastAt(curve: Curve, bid: Micros): Standing {
  const top = curve[0];
  if (!top || bid < (curve.at(-1) as CurvePoint).bid)
    return { ...nothingForecast, position: null, impressions: 0, share: 0 };
  if (bid >= top.bid) return standing(top, top.bid);
  const at = curve.findIndex((point) => point.bid <= bid);
  const low = itemAt(curve, at);
  const high = itemAt(curve, at - 1);
  const part = (bid - low.bid) / (high.bid - low.bid);
  const between = (a: number, b: number) => a + (b - a) * part;
  return standing(
    {
      position: between(low.position, high.position),
      impressions: between(low.impressions, high.impressions),
      clicks: between(low.clicks, high.clicks),
      share: between(low.share, high.share),
    },
    bid,
  );
}

const standing = (
  { position, impressions, clicks, share }: Omit<CurvePoint, 'bid'>,
  price: Micros,
): Standing => ({
  clicks,
  cost: asMicros(Math.round(clicks * price)),
  position,
  impressions,
  share,
});

export const addForecast = (a: Forecast, b: Forecast): Forecast => ({
  clicks: a.clicks + b.clicks,
  cost: asMicros(a.cost + b.cost),
});

/** A month has a twelfth of 365 days. */
export const perDay = ({ clicks, cost }: Forecast): Forecast => ({
  clicks: (clicks * 12) / 365,
  cost: asMicros(Math.round((cost * 12) / 365)),
});

/** A day's forecast within its budget, and the share of the day's demand that the budget reaches. */
export function withinBudget(day: Forecast, budget: Micros): Forecast & { reached: BasisPoints } {
  if (day.cost <= budget) return { ...day, reached: 10_000 };
  const reached = Math.floor((budget * 10_000) / day.cost);
  return { clicks: (day.clicks * budget) / day.cost, cost: budget, reached };
}
