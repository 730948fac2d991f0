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
  type AdInput,
  type AdsOfGroup,
  AdWriter,
  adKeyOf,
  branchOf,
  type CommonTokens,
  type NumberedPattern,
  scopeOf,
  type TokenGroup,
  tokensOf,
  unfilledOfAd,
  type WrittenAd,
} from './ad-writer.ts';
export {
  type CampaignFacts,
  type CampaignSettings,
  campaignSettings,
  clock,
  dayWords,
  type SettingValue,
  type SiteFacts,
  settingValues,
  siteFacts,
} from './campaign-settings.ts';
export {
  Carrier,
  type GroupRows,
  type Loss,
  type LossRule,
  lossRules,
  type NetworkSteps,
  toldAd,
  usualNetworkSteps,
} from './carry.ts';
export {
  CellMaker,
  type CellRow,
  cellOf,
  inOutletNotation,
  joinCells,
  keyOf,
  splitCells,
  type ToldValues,
  toldValues,
} from './cells.ts';
export {
  type Change,
  Difference,
  type DifferenceCounts,
  type FieldChange,
  type LeftRow,
  staysWhenGone,
} from './difference.ts';
export { BYTE_ORDER_MARKS, encodeText, firstNotCarried } from './encode.ts';
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
export { type GuessedColumns, guessColumns, guessedOutlet } from './guess-columns.ts';
export { type Known, KnownReader, kindOfRow, knownRow, packRow, RowPacker } from './kept-rows.ts';
export { KnownRows, type PackedRows } from './known-rows.ts';
export { lanesOfNames, type NamedLanes } from './lanes-of-names.ts';
export {
  type MergedRow,
  type MergeKind,
  mergeKinds,
  namingValues,
  type PlanCells,
  RowMerge,
} from './merge-rows.ts';
export {
  type AdRules,
  type CellValue,
  cellValues,
  eachKind,
  kindsIn,
  kindsOf,
  type MatchForm,
  matchForms,
  type NetworkName,
  networkNames,
  type Outlet,
  type Prerequisite,
  type RowKind,
  type RowOrder,
  rowKinds,
  rowOrders,
  type SheetColumn,
  type SheetEncoding,
  type SheetFormat,
  type SheetKind,
  type SheetProfile,
  sheetEncodings,
  sheetFormats,
  sheetKinds,
  tells,
  valuesOfKind,
} from './outlet.ts';
export { type OutletProblem, outletProblems } from './outlet-problems.ts';
export {
  fennelwick,
  harrowlight,
  plainOutlet,
  quillmere,
  shippedOutlets,
  simulatedOutlets,
} from './outlets/index.ts';
export { pasteRows } from './paste-rows.ts';
export { PlaceNames, placesOfGroup } from './place-names.ts';
export {
  campaignAt,
  incrementOf,
  type OutletPlace,
  type PlacedGroup,
  type ProjectedGroup,
  type ProjectInput,
  type Projection,
  partLimits,
  placeGroups,
  project,
} from './project.ts';
export { type ReadAdText, readAdText } from './read-ad-text.ts';
export { minutesAhead, type ReadSettings, readSettings, shiftSchedule } from './read-settings.ts';
export {
  headingsOf,
  type ReadRow,
  type ReadSheet,
  readCells,
  readSheet,
  sampleOf,
} from './read-sheet.ts';
export { type SheetProblem, sheetProblems } from './row-reader.ts';
export { type FileSink, type NotCarried, SheetFiles, type WrittenFile } from './sheet-files.ts';
export { recordsOf } from './sheet-records.ts';
export type {
  AdSheetRow,
  AssetSheetRow,
  CampaignSheetRow,
  GroupSheetRow,
  KeywordSheetRow,
  MatchSetting,
  NegativeSheetRow,
  NetworkBids,
  RowStatus,
  SheetRow,
} from './sheet-rows.ts';
export { keywordLimits, roomsFor, strictestOf } from './strictest.ts';
export { Tightness } from './tightness-of.ts';
export { delimiterOf, pickColumns, SheetWriter, writeField, writeTextField } from './write-sheet.ts';
export { MOST_XLSX_ROWS, SHEET_PART, workbookParts, XlsxSheet } from './xlsx-parts.ts';
