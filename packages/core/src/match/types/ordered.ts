import type { MatchTypeRules } from './rules.ts';

/** Its words in their order, with others before, between and behind. */
export const ordered: MatchTypeRules = {
  code: 4,
  key: 'o',
  words: 'in order',
  why: 'The words in this order, with others between them too.',
  whyBid: 'In order: searches that hold the words in this order, with others between. For names that come apart.',
  usualStep: 10_000,
  stepOfVariants: 9_000,
  write: (text) => `~${text}~`,
  answers: ({ folds, searchedFolds }) => {
    let next = 0;
    for (const fold of searchedFolds) if (fold === folds[next]) next++;
    return next === folds.length;
  },
};
