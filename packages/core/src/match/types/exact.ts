import { isRunAt } from './compare.ts';
import type { MatchTypeRules } from './rules.ts';

/** Its words and no others, in their order, in any number. */
export const exact: MatchTypeRules = {
  code: 3,
  key: 'e',
  words: 'exact',
  usualStep: 12_500,
  write: (text) => `[${text}]`,
  answers: ({ folds, searchedFolds }) =>
    folds.length === searchedFolds.length && isRunAt(folds, searchedFolds, 0),
};
