export {
  type CaseStyle,
  type Casing,
  caseStyles,
  casingOf,
  inCase,
  looseWords,
  stretchInCase,
} from './case-style.ts';
export { codeOfStage, type FunnelStage, funnelStages } from './funnel-stages.ts';
export { grown, withRoom } from './grown.ts';
export { endOfHash, type HashLanes, hashLanes, hashOf, hashOfAll } from './hash.ts';
export { english, type LanguagePack, languagePack } from './language.ts';
export { cutAtWord, lengthOf } from './length.ts';
export {
  fillLine,
  gapIn,
  type Line,
  type LinePart,
  type LineProblem as TokenProblem,
  liveNames,
  parseLine,
  type TokenName,
  type TokenPart,
  type TokenProblemCode,
  type TokenValues,
  tokenNames,
  tokenValue,
  writeLine,
  writeToken,
} from './line.ts';
export { linesOf } from './lines-of.ts';
export { ListedWords } from './listed-words.ts';
export { markerIn, markerInAddress } from './markers.ts';
export { type NormalText, normalise, plainMarks, tidy, wordsOf } from './normal-form.ts';
export { firstNotAllowed, type NotAllowed, withoutNotAllowed } from './not-allowed.ts';
export { numberFold, rememberingFold } from './number-fold.ts';
export { seeded } from './seeded.ts';
export type { SignalWord } from './signal-words.ts';
export { slipsBetween } from './slips.ts';
export { splitWord } from './split-word.ts';
export { TextSet } from './text-set.ts';
export { WINDOWS, windowsText } from './windows-1252.ts';
