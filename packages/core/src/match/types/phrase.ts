import { isRunAt } from './compare.ts';
import type { MatchTypeRules } from './rules.ts';

/** Its words in a row, in any number, with others before and behind. */
export const phrase: MatchTypeRules = {
  code: 2,
  key: 'p',
  words: 'phrase',
  usualStep: 10_000,
  write: (text) => `"${text}"`,
  answers: ({ folds, searchedFolds }) => searchedFolds.some((_, at) => isRunAt(folds, searchedFolds, at)),
};
