/**
 * What a row of a report tells, each null where the report has no such column: impressions and clicks as counts, `cost` and
 * `value` in millionths of the account's currency, `conversions` in millionths (they may be parts, and taken back),
 * `position` in thousandths (1,000 is the top), `share` of impressions and what was lost of it in basis points.
 */
export const toldFigures = [
  'impressions',
  'clicks',
  'cost',
  'conversions',
  'value',
  'position',
  'share',
  'lostBudget',
  'lostRank',
] as const;
export type ToldFigure = (typeof toldFigures)[number];
export type ToldFigures = Readonly<Record<ToldFigure, number | null>>;

export const noneTold: ToldFigures = {
  impressions: null,
  clicks: null,
  cost: null,
  conversions: null,
  value: null,
  position: null,
  share: null,
  lostBudget: null,
  lostRank: null,
};

/** All of a share, in basis points. */
export const WHOLE = 10_000;

/**
 * Impressions that there were to be had: by the share that was got, else by what was lost to budget and to rank. null
 * where that can't be told.
 */
export function eligibleOf({ impressions, share, lostBudget, lostRank }: ToldFigures): number | null {
  if (impressions === null) return null;
  const got = share ?? (lostBudget === null || lostRank === null ? null : WHOLE - lostBudget - lostRank);
  return got === null || got <= 0 ? null : Math.round((impressions * WHOLE) / got);
}
