export {
  type AdSheetRow,
  type CampaignSheetRow,
  type ExtraSheetRow,
  type GroupSheetRow,
  inOutletNotation,
  type KeywordSheetRow,
  type LossRule,
  lossRules,
  type MatchSetting,
  type NegativeSheetRow,
  type NetworkBids,
  namingValues,
  type RowStatus,
  type SheetRow,
  sheetProblems,
} from '../columns/index.ts';
export {
  Carrier,
  type GroupRows,
  type Loss,
  type NetworkSteps,
  toldAd,
  usualNetworkSteps,
} from './carry.ts';
export {
  CellMaker,
  type CellRow,
  cellWriter,
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
export { type Known, KnownReader, kindOfRow, knownRow, packRow, RowPacker } from './kept-rows.ts';
export { KnownRows, type PackedRows } from './known-rows.ts';
export { lanesOfNames, type NamedLanes } from './lanes-of-names.ts';
export {
  type MergedRow,
  type MergeKind,
  mergeKinds,
  type PlanCells,
  RowMerge,
} from './merge-rows.ts';
export { pasteRows } from './paste-rows.ts';
export {
  campaignAt,
  incrementOf,
  type OutletPlace,
  type PlacedGroup,
  partLimits,
  placeGroups,
} from './place-groups.ts';
export {
  minutesAhead,
  type ReadSettings,
  readRotation,
  readSettings,
  shiftSchedule,
} from './read-settings.ts';
export { headingsOf, type ReadRow, type ReadSheet, readCells, readSheet, sampleOf } from './read-sheet.ts';
export type { SheetProblem } from './row-reader.ts';
export { type FileSink, type NotCarried, SheetFiles, type WrittenFile } from './sheet-files.ts';
export { recordsOf } from './sheet-records.ts';
export {
  delimiterOf,
  fixedTexts,
  pickColumns,
  SheetWriter,
  writeField,
  writeTextField,
} from './write-sheet.ts';
export { MOST_XLSX_ROWS, SHEET_PART, workbookParts, XlsxSheet } from './xlsx-parts.ts';
