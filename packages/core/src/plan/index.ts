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
