export { layOut, placedKeywords, renamed } from './lay-out.ts';
export { type Placed, place, signalsOf, wordsOf } from './place.ts';
export type { LayoutRules, PlacedByHand, PlacingRules, PlanPool, PlanSource } from './source.ts';
