export {
  ADVISED,
  type AdCheckInput,
  AdChecks,
  type AddressRuleName,
  type AdMarks,
  type AdProblem,
  type CheckedAds,
  type RefusedText,
} from './ad-checks.ts';
export {
  ADVISED_PLAN,
  type CheckedGroup,
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
  type PlanFacts,
  type Severity,
} from './findings.ts';
export { PlaceNames, placesOfGroup } from './place-names.ts';
export { Tightness } from './tightness-of.ts';
