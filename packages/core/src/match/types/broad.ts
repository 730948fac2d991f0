import { answersByWords } from './compare.ts';
import type { MatchTypeRules } from './rules.ts';

/** Each content word, by stem or synonym, in any order. */
export const broad: MatchTypeRules = {
  code: 0,
  key: 'b',
  words: 'broad',
  usualStep: 7_000,
  write: (text) => text,
  answers: (compared) => answersByWords(compared, () => false),
};
