import { asMicros } from '../money/index.ts';
import type { Forecast } from './forecast.ts';

/** How far one figure may be from what is forecast: standard deviations of its logarithm. */
export type Doubt = { searches: number; cpc: number };

/** Eight in ten lie within so many standard deviations of a normal distribution. */
const EIGHT_IN_TEN = 1.2815515655446004;
const within = (share: number) => Math.log(1 + share) / EIGHT_IN_TEN;
/** What was told departs by ±20% from what comes, and the share that clicks by ±25% from what is assumed. */
export const TOLD_DOUBT: Doubt = { searches: within(0.2), cpc: within(0.2) };
const ASSUMED_DOUBT = within(0.25);

/**
 * The range in which eight in ten sums lie. What a keyword's own figures are wrong by is independent of the others and
 * evens out; what the assumptions are wrong by all share, so that a large sum does not shrink to a point.
 */
export class ForecastRange {
  private clicks = 0;
  private cost = 0;
  private clicksVariance = 0;
  private costVariance = 0;

  add({ clicks, cost }: Forecast, { searches, cpc }: Doubt): void {
    this.clicks += clicks;
    this.cost += cost;
    this.clicksVariance += clicks * clicks * Math.expm1(searches * searches);
    this.costVariance += cost * cost * Math.expm1(searches * searches + cpc * cpc);
  }

  /** Of the sum, at eight in ten. */
  between(): { low: Forecast; high: Forecast } {
    const clicks = timesOf(this.clicks, this.clicksVariance);
    const cost = timesOf(this.cost, this.costVariance);
    return {
      low: { clicks: this.clicks / clicks, cost: asMicros(Math.round(this.cost / cost)) },
      high: { clicks: this.clicks * clicks, cost: asMicros(Math.round(this.cost * cost)) },
    };
  }
}

function timesOf(sum: number, own: number): number {
  if (sum === 0) return 1;
  const shared = sum * sum * Math.expm1(ASSUMED_DOUBT * ASSUMED_DOUBT);
  return Math.exp(EIGHT_IN_TEN * Math.sqrt(Math.log1p((own + shared) / (sum * sum))));
}
