import { answersByWords } from './compare.ts';
import type { MatchTypeRules } from './rules.ts';

/** Each marked word in any number, each other content word by stem or synonym, in any order. */
export const modified: MatchTypeRules = {
  code: 1,
  key: 'm',
  words: 'modified broad',
  usualStep: 8_500,
  write: (text, marks) =>
    text
      .split(' ')
      .map((word, at) => (marks.length === 0 || marks.includes(at) ? `+${word}` : word))
      .join(' '),
  answers: (compared) =>
    answersByWords(compared, (at) => compared.marks.length === 0 || compared.marks.includes(at)),
};
