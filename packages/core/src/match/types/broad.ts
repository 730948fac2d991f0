import { answersByWords } from './compare.ts';
import type { MatchTypeRules } from './rules.ts';

/** Each content word, by stem or synonym, in any order. */
export const broad: MatchTypeRules = {
  code: 0,
  key: 'b',
  words: 'broad',
  why: 'Reaches furthest: any order, plurals, close meanings. Use it to find searches you have not thought of.',
  whyBid:
    'Broad: searches with these words or their like, in any order. Reaches furthest, fits least; for finding new searches.',
  usualStep: 7_000,
  stepOfVariants: 7_000,
  write: (text) => text,
  answers: (compared) => answersByWords(compared, () => false),
};
