import type { MatchType } from '../match/index.ts';
import { expectedCtr } from './expected-ctr.ts';

/** What a keyword row had: its mean position, 1 for the top, what it cost in millionths, and the CPC that the plan knows of it. */
export type MeasuredRow = {
  type: MatchType | null;
  position: number;
  impressions: number;
  clicks: number;
  cost: number;
  cpc: number | null;
};

/** By position from the top: the share of impressions that is clicked, and what a click costs in CPCs of its keyword. */
export type MeasuredCurve = { ctr: number[] | null; price: number[] | null };

/** Nothing is measured by fewer clicks. */
export const LEAST_MEASURED_CLICKS = 100;

/**
 * What a position brings and costs, as it was measured: ln CTR and ln(cost of a click ÷ CPC) each fall evenly with the
 * position. The CTR is that of exact rows where there are any; prices are fitted by least squares, weighted by clicks. null
 * for what too few clicks tell, what is all at one position, or what rises with the position. O(rows).
 *
 * Sources: of the CTR `expectedCtr`; of the fit N. R. Draper and H. Smith, Applied Regression Analysis, 3rd ed., 1998,
 * section 9.2.
 */
export function measuredCurve(rows: readonly MeasuredRow[], positions: number): MeasuredCurve {
  const seen = rows.filter(({ position, impressions }) => position >= 1 && impressions > 0);
  const at = Array.from({ length: positions }, (_, nth) => nth + 1);
  return { ctr: ctrAt(seen, at), price: priceAt(seen, at) };
}

function ctrAt(rows: readonly MeasuredRow[], positions: readonly number[]): number[] | null {
  const clicks = rows.reduce((sum, one) => sum + one.clicks, 0);
  if (clicks < LEAST_MEASURED_CLICKS) return null;
  const model = expectedCtr(rows);
  if (!model) return null;
  const type = rows.some((row) => row.type === 'exact' && row.clicks > 0) ? 'exact' : null;
  const found = positions.map((position) => Math.min(1, model.at(type, position)));
  return falls(found) ? found : null;
}

function priceAt(rows: readonly MeasuredRow[], positions: readonly number[]): number[] | null {
  const sum = { w: 0, x: 0, y: 0, xx: 0, xy: 0 };
  for (const { position, clicks, cost, cpc } of rows) {
    if (cpc === null || cpc <= 0 || clicks <= 0 || cost <= 0) continue;
    const [x, y] = [position - 1, Math.log(cost / clicks / cpc)];
    sum.w += clicks;
    sum.x += clicks * x;
    sum.y += clicks * y;
    sum.xx += clicks * x * x;
    sum.xy += clicks * x * y;
  }
  const spread = sum.w * sum.xx - sum.x * sum.x;
  if (sum.w < LEAST_MEASURED_CLICKS || spread <= 1e-6 * sum.w * sum.w) return null;
  const fall = (sum.w * sum.xy - sum.x * sum.y) / spread;
  const level = (sum.y - fall * sum.x) / sum.w;
  const found = positions.map((position) => Math.exp(level + fall * (position - 1)));
  return falls(found) && found.every((price) => price < MOST_PRICE) ? found : null;
}

/** Prices beyond so many CPCs say that the CPCs are not those of this account. */
const MOST_PRICE = 1_000;
const falls = (values: readonly number[]): boolean =>
  values.every(
    (value, at) => Number.isFinite(value) && value > 0 && (at === 0 || value <= (values[at - 1] as number)),
  );
