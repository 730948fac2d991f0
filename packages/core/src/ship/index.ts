export {
  type CampaignFacts,
  type CampaignSettings,
  campaignSettings,
  clock,
  dayWords,
  type SettingValue,
  settingValues,
} from './campaign-settings.ts';
export { cellOf, type SheetRow } from './cell-values.ts';
export {
  Checker,
  type CheckInput,
  check,
  type Finding,
  type FindingPlace,
  type FindingRule,
  findingRules,
  type Severity,
} from './findings.ts';
export {
  type CellValue,
  cellValues,
  type Outlet,
  type SheetColumn,
  type SheetFormat,
  type SheetKind,
  type SheetProfile,
  sheetKinds,
} from './outlet.ts';
export { plainOutlet } from './plain-outlet.ts';
export {
  adKeyOf,
  campaignAt,
  incrementOf,
  type ProjectedAd,
  type ProjectedGroup,
  type ProjectInput,
  type Projection,
  partLimits,
  project,
  projectRow,
  textOf,
  tokensOf,
} from './project.ts';
export { type PartLimits, partName, splitParts } from './split-parts.ts';
export { SheetWriter, writeField } from './write-sheet.ts';
