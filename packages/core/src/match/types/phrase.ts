import { isRunAt } from './compare.ts';
import type { MatchTypeRules } from './rules.ts';

/** Its words in a row, in any number, with others before and behind. */
export const phrase: MatchTypeRules = {
  code: 2,
  key: 'p',
  words: 'phrase',
  why: 'The words in this order, with others before or after. Good when the order tells what is meant.',
  whyBid:
    'Phrase: searches that hold the keyword in its order, with words before or after. For what is known to sell.',
  usualStep: 10_000,
  stepOfVariants: 10_000,
  write: (text) => `"${text}"`,
  answers: ({ folds, searchedFolds }) => searchedFolds.some((_, at) => isRunAt(folds, searchedFolds, at)),
};
