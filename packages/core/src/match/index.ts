export { AnswerIndex, type IndexedRow, type ReadSearch } from './answer-index.ts';
export { type Answering, canAnswer, contentPlaces, type Matching, relevanceOf } from './can-answer.ts';
export { listedIn, type MarkRule, marker } from './marks.ts';
export { bitOf, countIn, type MatchSet, type MatchType, matchTypes, setOf, typesIn } from './match-type.ts';
export {
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
