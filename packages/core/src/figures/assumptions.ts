import { float64At, itemAt } from '../access/index.ts';
import { asMicros, type BasisPoints, type Micros } from '../money/index.ts';
import type { CurvePoint } from './forecast.ts';
import type { Season } from './season.ts';

/** What a forecast takes for granted where nothing was measured; all of it the plan's. Percentages in basis points. */
export type Assumptions = {
  /** The position at which a click costs its CPC. */
  priceAt: number;
  /** What a position higher costs more, where competition is not known, and where it is 0 and 100. */
  step: BasisPoints;
  stepAtNone: BasisPoints;
  stepAtMost: BasisPoints;
  /** How many who see it click at position 1, and how many fewer each position down. */
  ctr: BasisPoints;
  ctrFall: BasisPoints;
  /** The last position at which ads show, in how many searches they do at position 1, and in how many fewer each position down. */
  lastPosition: number;
  share: BasisPoints;
  shareFall: BasisPoints;
  /** What networks, hours and places leave of all searches. */
  reach: BasisPoints;
  /** The month whose searches are forecast; null: a mean month's. */
  season: Season | null;
  /** What was measured takes the place of what is assumed; null: nothing was. */
  measured: Measured | null;
};

export const usualAssumptions: Assumptions = {
  priceAt: 2,
  step: 2_500,
  stepAtNone: 1_000,
  stepAtMost: 4_500,
  ctr: 800,
  ctrFall: 3_200,
  lastPosition: 8,
  share: 9_500,
  shareFall: 800,
  reach: 10_000,
  season: null,
  measured: null,
};

const MOST_POSITIONS = 8;

/** The least and the greatest that each may be. */
export const assumptionLimits: Record<
  keyof Omit<Assumptions, 'season' | 'measured'>,
  readonly [number, number]
> = {
  priceAt: [1, MOST_POSITIONS],
  step: [0, 30_000],
  stepAtNone: [0, 30_000],
  stepAtMost: [0, 30_000],
  ctr: [1, 10_000],
  ctrFall: [0, 10_000],
  lastPosition: [1, MOST_POSITIONS],
  share: [1, 10_000],
  shareFall: [0, 10_000],
  reach: [1, 10_000],
};

/** What was measured, by position from the top; what is null is assumed still, and so are positions behind the last. */
export type Measured = {
  /** The share of impressions that is clicked. */
  ctr: number[] | null;
  /** What a click costs, in CPCs of the keyword. */
  price: number[] | null;
  /** In which account, and on which days. */
  account: string;
  from: string;
  to: string;
};

/** What a keyword's forecast hangs on: searches a month, micros a click, 0 to 100; null for what is not known. */
export type ForecastKeyword = { searches: number | null; cpc: number | null; competition: number | null };

const WHOLE = 10_000;
/** The row of prices for keywords of which competition is not known. */
const NOT_KNOWN = 101;

/** Makes curves by a plan's assumptions. What hangs on competition or a position alone is worked out once. */
export class CurveMaker {
  private readonly shares: Float64Array;
  private readonly clicked: Float64Array;
  /** What each position costs in CPCs, by competition; the last row is for those of which it is not known. */
  private readonly prices: Float64Array[];
  private readonly reach: number;

  constructor(readonly assumptions: Assumptions) {
    const { lastPosition, share, shareFall, ctr, ctrFall, reach, season, measured } = assumptions;
    this.reach = (reach / WHOLE) * ((season?.parts[season.month - 1] ?? WHOLE) / WHOLE);
    this.shares = fallen(lastPosition, share, shareFall);
    const rates = fallen(lastPosition, ctr, ctrFall);
    this.clicked = this.shares.map((seen, at) => seen * (measured?.ctr?.[at] ?? float64At(rates, at)));
    this.prices = Array.from({ length: NOT_KNOWN + 1 }, (_, competition) =>
      this.pricesAt(competition, measured?.price ?? null),
    );
  }

  private pricesAt(competition: number, measured: readonly number[] | null): Float64Array {
    const { step, stepAtNone, stepAtMost, priceAt, lastPosition } = this.assumptions;
    const raise =
      competition === NOT_KNOWN ? step : stepAtNone + ((stepAtMost - stepAtNone) * competition) / 100;
    return Float64Array.from(
      { length: lastPosition },
      (_, at) => measured?.[at] ?? (1 + raise / WHOLE) ** (priceAt - at - 1),
    );
  }

  private pricesFor(competition: number | null): Float64Array {
    return itemAt(this.prices, competition === null ? NOT_KNOWN : Math.round(competition));
  }

  /**
   * The least bid that reaches each position, with a month's impressions and clicks; positions whose bids round to the
   * same are one, the best. Empty where searches or the CPC are not known.
   */
  of({ searches, cpc, competition }: ForecastKeyword): CurvePoint[] {
    if (searches === null || cpc === null || cpc <= 0) return [];
    const prices = this.pricesFor(competition);
    const seen = searches * this.reach;
    const points: CurvePoint[] = [];
    for (let at = 0; at < prices.length; at++) {
      const bid = Math.round(cpc * float64At(prices, at));
      if (bid <= 0 || bid === points.at(-1)?.bid) continue;
      points.push({
        position: at + 1,
        bid: asMicros(bid),
        impressions: seen * float64At(this.shares, at),
        clicks: seen * float64At(this.clicked, at),
        share: float64At(this.shares, at),
      });
    }
    return points;
  }

  /** A month's clicks and cost at a bid, without making the curve; the same as `forecastAt` on it. */
  add(
    keyword: ForecastKeyword,
    bid: Micros,
    sum: { clicks: number; cost: number; impressions: number },
  ): boolean {
    const { searches, cpc, competition } = keyword;
    if (searches === null || cpc === null || cpc <= 0) return false;
    const prices = this.pricesFor(competition);
    const seen = searches * this.reach;
    const last = prices.length - 1;
    let high = 0;
    let price = Math.round(cpc * float64At(prices, 0));
    if (bid >= price) {
      const clicks = seen * float64At(this.clicked, 0);
      sum.clicks += clicks;
      sum.impressions += seen * float64At(this.shares, 0);
      sum.cost += Math.round(clicks * price);
      return true;
    }
    let below = price;
    while (high < last) {
      below = Math.round(cpc * float64At(prices, high + 1));
      if (below <= bid) break;
      price = below;
      high++;
    }
    if (high === last || below <= 0) return true;
    const part = price === below ? 0 : (bid - below) / (price - below);
    const between = (values: Float64Array) => {
      const low = float64At(values, high + 1);
      return seen * (low + (float64At(values, high) - low) * part);
    };
    const clicks = between(this.clicked);
    sum.clicks += clicks;
    sum.impressions += between(this.shares);
    sum.cost += Math.round(clicks * bid);
    return true;
  }
}

function fallen(positions: number, top: BasisPoints, fall: BasisPoints): Float64Array {
  const values = new Float64Array(positions);
  for (let at = 0; at < positions; at++) values[at] = (top / WHOLE) * (1 - fall / WHOLE) ** at;
  return values;
}
