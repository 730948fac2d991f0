export {
  type AdCheckInput,
  AdChecks,
  type AddressRuleName,
  type AdMarks,
  type AdProblem,
  type CheckedAds,
  type RefusedText,
} from './ad-checks.ts';
export {
  checkGroup,
  checkPlan,
  type Finding,
  type FindingPlace,
  type FindingRule,
  type FindingStage,
  Findings,
  findingRules,
  type GroupFinding,
  outletRules,
  presentRule,
  SAMPLES,
} from './findings.ts';
export { OwnChecks, type OwnObjection } from './own-checks.ts';
export { PlaceNames, placesOfGroup } from './place-names.ts';
export type { CheckedGroup, PlanFacts, Severity } from './rule.ts';
export { ADVISED_PLAN } from './rules/build.ts';
export { Tightness } from './tightness-of.ts';
