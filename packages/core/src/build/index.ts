export { type BaseFrom, type BidParts, bidOf, stepsFor } from './bid.ts';
export {
  type BuildInput,
  type BuildKeyword,
  type BuiltGroup,
  type BuiltPlan,
  type BuiltRow,
  buildPlan,
  GroupNames,
  groupKeyOf,
  nameByRule,
  nameLine,
  OrphanWatch,
  rowKeyOf,
} from './build-plan.ts';
export { type Covered, type Hold, indexHolds } from './hold.ts';
export { defaultLayout, type Ladder, type Layout, typesFor } from './layout.ts';
export { UniqueNames, uniqueNames } from './unique-names.ts';
export { type BuildYield, buildYield, type YieldPool } from './yield.ts';
