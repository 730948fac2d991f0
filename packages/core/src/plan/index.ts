export {
  AdSteps,
  type GroupOfAds,
  type PlanAdRules,
  type PlanCheckRules,
  planAds,
  planChecks,
  type SaidTheme,
  saidGroup,
  saidThemes,
} from './ads.ts';
export { layOut, placedKeywords, renamed } from './lay-out.ts';
export { type Placed, place, signalsOf, wordsOf } from './place.ts';
export {
  type LayoutRules,
  type PlacedByHand,
  type PlacingRules,
  type PlanPool,
  partsBefore,
  type StoodPart,
} from './source.ts';
