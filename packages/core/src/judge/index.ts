export { type AdSides, adCells } from './ad-cells.ts';
export {
  type AdCell,
  type AdTested,
  type AdTestRules,
  type AdVerdict,
  MOST_LOOKS,
  testAds,
  usualAdTestRules,
} from './ad-test.ts';
export { type AdjustedDevice, adjustedDevices, deviceAdjustment, deviceNamed } from './device-adjustments.ts';
export { type ExpectedCtr, expectedCtr, type Seen } from './expected-ctr.ts';
export { expectedRates, type RatedRows } from './expected-rates.ts';
export { believed } from './false-blame.ts';
export { LEAST_MEASURED_CLICKS, type MeasuredRow, measuredCurve } from './measured-curve.ts';
export {
  type BidBound,
  type BidRulesOfResults,
  bandOf,
  bidBounds,
  boundedBid,
  type PositionBand,
  usualBidRules,
  worthOfClicks,
} from './result-bids.ts';
export {
  binomialAtMost,
  negativeBinomialAtMost,
  normalBelow,
  normalQuantile,
  poissonAtLeast,
} from './tails.ts';
export { type UnlikeDay, unlikeDays } from './unlike-days.ts';
export {
  type Aim,
  type Aims,
  type Evidence,
  type Judged,
  type JudgedRow,
  judge,
  usualVerdictLimits,
  type Verdict,
  type VerdictLimits,
  verdicts,
} from './verdicts.ts';
export { wilson } from './wilson.ts';
