import { answersByWords } from './compare.ts';
import type { MatchTypeRules } from './rules.ts';

/** Each marked word in any number, each other content word by stem or synonym, in any order. */
export const modified: MatchTypeRules = {
  code: 1,
  key: 'm',
  words: 'modified broad',
  why: 'Every marked word must be in the search, in any order. Reach with a hand on the reins.',
  whyBid:
    'Modified broad: searches with the marked words, in any order. Reaches far, but holds on to what counts.',
  usualStep: 8_500,
  stepOfVariants: 8_500,
  write: (text, marks) =>
    text
      .split(' ')
      .map((word, at) => (marks.length === 0 || marks.includes(at) ? `+${word}` : word))
      .join(' '),
  answers: (compared) =>
    answersByWords(compared, (at) => compared.marks.length === 0 || compared.marks.includes(at)),
};
