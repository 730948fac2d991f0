export { Forms, type TermForm } from './forms.ts';
export { type StageOf, stageOfRow } from './funnel.ts';
export { placesOfRows } from './places.ts';
export {
  type Contest,
  contestsOf,
  type Placing,
  type PlacingInput,
  placeKeywords,
  UNPLACED,
} from './placing.ts';
export { PoolWords, type SortPool } from './pool-words.ts';
export {
  type Proposal,
  type ProposedTheme,
  type ProposeOptions,
  propose,
  usualSizes,
} from './propose.ts';
export {
  asksNothing,
  emptySift,
  type KeywordState,
  keywordStates,
  MOST_TERMS,
  readSentence,
  type Sift,
  type SiftProblem,
  sentenceOf,
  siftProblems,
  tidySift,
} from './sift.ts';
export { readTerm, type SiftTerm, type TermProblem, writeTerm } from './sift-term.ts';
export { type Matches, type OtherWord, otherWords, Sifter, type Sifting } from './sifting.ts';
export { type SignalSource, Signals, signalsFor } from './stages.ts';
export { type Suggestion, suggestionKey, suggestionsOf, wholeSift } from './suggest.ts';
export {
  childrenOf,
  MOST_DEPTH,
  type Theme,
  type ThemeProblem,
  themeProblems,
} from './theme.ts';
export { Tightness } from './tightness.ts';
export { Units } from './units.ts';
