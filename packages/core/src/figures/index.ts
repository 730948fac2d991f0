export { type Aim, type AimedBid, aimedBid, type Headroom, type Unreachable } from './aim.ts';
export {
  type Assumptions,
  assumptionLimits,
  CurveMaker,
  type ForecastKeyword,
  type Measured,
  usualAssumptions,
} from './assumptions.ts';
export { type Estimate, Estimator, type Factor, type NoEstimate, type Rounded } from './estimator.ts';
export {
  addForecast,
  type Curve,
  type CurvePoint,
  type Forecast,
  forecastAt,
  nothingForecast,
  perDay,
  type Standing,
  withinBudget,
} from './forecast.ts';
export { LEAST_TOLD, type LearnRules, learn, type ToldKeywords } from './learn.ts';
export {
  type Band,
  type BandErrors,
  bands,
  type EstimateModel,
  type Measure,
  type MeasureModel,
  measures,
} from './model.ts';
export { type Origin, originOf, origins } from './origin.ts';
export type { Quality } from './quality.ts';
export { type Doubt, ForecastRange, TOLD_DOUBT } from './range.ts';
export type { ReadingRules } from './reader.ts';
export { MONTHS, monthOfHeading, type Season, seasonOf, yearOfHeadings } from './season.ts';
export { twoFigures } from './two-figures.ts';
