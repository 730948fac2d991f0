export { adName, adNames } from './ad-name.ts';
export {
  type AdPattern,
  type CompiledPattern,
  compileLines,
  compilePattern,
  type FieldFit,
  type FittedFields,
  fitField,
  fitFields,
  type Kept,
  lineOf,
  noSplit,
  type PatternField,
  type PatternScope,
  type PatternSplit,
  patternOf,
  patternScopes,
  splitKinds,
  statusOfVersion,
  textOf,
  unfilledOf,
  type VersionName,
  versionsOf,
} from './ad-pattern.ts';
export {
  type AdSheetReading,
  readAdSheet,
  type SheetAd,
  type SheetField,
  type SheetGroup,
  type SheetProblem,
  type SheetText,
  sheetHeadings,
  writerSheet,
} from './ad-sheet.ts';
export {
  type Address,
  type AddressMaker,
  type AddressProblem,
  type AddressRule,
  addressMaker,
  type GroupAddress,
  isOnSite,
  readAddress,
  readSite,
  slugOf,
  usualAddressRule,
} from './address.ts';
export { alikeHeadlines, type Combination, combinationOf, ordersOf, thriceRead } from './assembled.ts';
export {
  CompiledLine,
  groupValues,
  type LiveStretch,
  type TextRules,
  type WrittenLine,
} from './compiled-line.ts';
export {
  capitalsOf,
  checkText,
  type EditorialProblem,
  type EditorialRule,
  type EditorialWords,
  editorialRules,
  mendText,
  phoneIn,
} from './editorial.ts';
export {
  anyExtraLimits,
  checkExtra,
  type Extra,
  type ExtraBody,
  type ExtraKind,
  type ExtraLimits,
  type ExtraProblem,
  extraKinds,
  readPhone,
  textsOfExtra,
} from './extras.ts';
export {
  type AdField,
  type AdForm,
  type AdLimits,
  adFields,
  adForms,
  descriptions,
  type FieldLimit,
  type FormLimits,
  fieldsOf,
  headlines,
  isAdField,
  limitsOf,
  type PartLimits,
  type PartOfAd,
  partOf,
  partsOfAd,
  paths,
  storedFields,
} from './fields.ts';
export { firstPattern, isFirstPattern } from './first-pattern.ts';
export { type Cure, countFits, curesOf, type FieldCount, type FitCounts } from './fit-counts.ts';
export { type FieldLines, type Fit, fitLine, type Insertion, inNotation } from './fit-line.ts';
export { headlineKeywords } from './headline-keywords.ts';
export { type Inserted, type InsertionCheck, tryInsertion } from './insertion.ts';
export { type Relevance, RelevanceReader } from './relevance.ts';
export { MOST_RIVAL_LINES, type NamedPart, namedParts, type RivalLine, rivalLines } from './rival-lines.ts';
export { siteWords } from './site-words.ts';
export {
  type StartingCode,
  type StartingGoal,
  type StartingInput,
  type StartingLines,
  startingCodes,
  startingLines,
} from './starting-lines.ts';
