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
