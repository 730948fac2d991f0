export { AnswerIndex, type IndexedRow, type ReadSearch } from './answer-index.ts';
export { type Answering, canAnswer, relevanceOf } from './can-answer.ts';
export { listedIn, type MarkRule, marker } from './marks.ts';
export {
  bitOf,
  codeOf,
  countIn,
  eachType,
  type MatchSet,
  narrownessOf,
  setOf,
  typeOf,
  typesIn,
} from './match-type.ts';
export {
  isNegativeType,
  NegativeIndex,
  type NegativeKeyword,
  type NegativeType,
  negativeBlocks,
  negativeTypeOf,
  negativeTypes,
  writeNegative,
} from './negatives.ts';
export {
  LONGEST_KEYWORD,
  type NotationOptions,
  type NotationProblem,
  type Noted,
  notationProblems,
  readNotation,
  writeNotation,
} from './notation.ts';
export { noSynonyms, type Synonyms, synonymsOf } from './synonyms.ts';
export {
  type Candidate,
  compareWeights,
  type Standing,
  standings,
  type Tried,
  type TryContext,
  trySearch,
  type WonBy,
  weightOf,
} from './try-search.ts';
export {
  contentPlaces,
  type Matching,
  type MatchType,
  matchRules,
  matchTypes,
} from './types/index.ts';
