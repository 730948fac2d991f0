export { betaPrior, type Prior, type Sample, shrunkRate } from './beta-prior.ts';
export { type ExpectedCtr, expectedCtr, type Seen } from './expected-ctr.ts';
export { believed } from './false-blame.ts';
export { binomialAtMost, normalBelow, normalQuantile, poissonAtLeast } from './tails.ts';
export {
  type Aim,
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
