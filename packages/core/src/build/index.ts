export {
  type BaseFrom,
  type BidParts,
  baseFor,
  bidOf,
  bidOfGroup,
  bidOfRow,
  type StepsOf,
  stepsAround,
  stepsFor,
} from './bid.ts';
export { buildFrame, renameFrame } from './build-frame.ts';
export { type BuiltCampaign, type BuiltGroup, type BuiltRow, RowBuilder } from './build-group.ts';
export type { BuildKeyword } from './build-keyword.ts';
export { type BuiltPlan, buildPlan } from './build-plan.ts';
export { type BidChange, changedBid, mostPercent } from './bulk-bids.ts';
export { changedTypes, type TypedKeyword, type TypesChange } from './change-types.ts';
export { type AuditFailure, auditFences, type FenceAudit } from './fence-audit.ts';
export { countFences, type FencePlan, type Fences, makeFences } from './fences.ts';
export {
  type CampaignFrame,
  type Copied,
  type Frame,
  type FrameInput,
  type GroupFrame,
  noPartsBefore,
  type OwnKeywords,
  type PartsBefore,
} from './frame.ts';
export {
  type Covered,
  type Hold,
  type Holds,
  indexHolds,
  labelsOf,
  type Status,
  statuses,
  statusOf,
} from './hold.ts';
export {
  adKeyPattern,
  campaignKeyPattern,
  groupKeyOf,
  groupKeyPattern,
  groupOfAd,
  type KeyKind,
  kindOfKey,
  partOfKey,
  patternOfAd,
  placeKey,
  rowKeyOf,
  rowKeyPattern,
  versionOfAd,
} from './keys.ts';
export {
  type LaneKeyword,
  laneTypes,
  laneUnion,
  marksFor,
  TYPES_BY_HAND,
  takesPart,
  typesFor,
} from './lanes.ts';
export {
  type BranchRule,
  baseSources,
  type CampaignBy,
  campaignBys,
  defaultLayout,
  type FenceKind,
  fenceKinds,
  type Grouping,
  groupingKinds,
  type Ladder,
  type Lane,
  type LaneSpread,
  type LaneTakes,
  type Layout,
  laneSpreads,
  layoutOn,
  type Marks,
  markings,
  type NameRule,
  type StartHigh,
  takesAll,
  themed,
} from './layout.ts';
export { nameByRule, nameLine, nameTokens, strangeToken } from './names.ts';
export {
  type GivenName,
  type NameFlaw,
  rewriteNames,
} from './rewrite-names.ts';
export {
  type NamedSettings,
  type SettledCampaign,
  type Settling,
  settleCampaigns,
} from './settle-campaigns.ts';
export { shareBudget } from './share-budget.ts';
export { type PartLimits, partName, splitParts } from './split-parts.ts';
export { type Targeting, targetingOverlaps } from './targeting.ts';
export { type ThemeRules, themeRules } from './theme-rules.ts';
export { UniqueNames, uniqueNames } from './unique-names.ts';
export { type BuildYield, buildYield } from './yield.ts';
