import { isRunAt } from './compare.ts';
import type { MatchTypeRules } from './rules.ts';

/** Its words and no others, in their order, in any number. */
export const exact: MatchTypeRules = {
  code: 3,
  key: 'e',
  words: 'exact',
  why: 'This search and nothing else. Use it where you know what it is worth and bid the most.',
  whyBid: 'Exact: searches that are the keyword. Fits best, so it bids most; for what has proved itself.',
  usualStep: 12_500,
  stepOfVariants: 12_500,
  write: (text) => `[${text}]`,
  answers: ({ folds, searchedFolds }) =>
    folds.length === searchedFolds.length && isRunAt(folds, searchedFolds, 0),
};
