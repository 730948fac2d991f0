import { problemWords } from '@sprig/contracts';
import type { DropReason, MixProblem, WordProblem } from '@sprig/core/mix';

const digits = new Intl.NumberFormat('en-GB');

/** A figure that may be larger than any number, in digits. */
export const large = (value: bigint | string): string => digits.format(BigInt(value));

/** Why a form of a list takes no part, and what to do. */
export const wordProblemWords = ({ code, at, character }: WordProblem): string =>
  code === 'negative'
    ? 'A negative can’t be combined. Take the - away, or block the word in Prune.'
    : problemWords({ code, at, ...(character ? { character } : {}) });

/** Why a combination was dropped, as one reads it after its number. */
export const dropWords: Record<DropReason, string> = {
  empty: 'are empty',
  'repeated-word': 'say a word twice',
  'never-together': 'hold a pair that is never together',
  alone: 'are no keyword by themselves',
  'made-before': 'were made before',
  'too-long': 'are longer than the outlets take',
};

/** What a recipe can't make, and the remedy. */
export function mixProblemWords(problem: MixProblem, nameOf: (list: number) => string): string {
  switch (problem.code) {
    case 'no-slots':
      return 'It has no slots yet. Drag a list here, or type one.';
    case 'no-list':
      return 'One of its lists is gone. Take its slot out.';
    case 'bad-word':
      return `“${problem.word}” can’t stand in a keyword. Change the joining word.`;
    case 'empty-list':
      return `${nameOf(problem.list)} has no words, so this makes nothing. Fill the list, or make its slot optional.`;
    case 'circle':
      return `${problem.names.join(' takes in ')}: a list can’t take itself in. Leave one of them out.`;
    case 'over-cap': {
      const { list, from, to, total } = problem;
      const shorten =
        to === null
          ? `Shorten ${nameOf(list)} (${large(BigInt(from))} words) and others with it, or take a slot out.`
          : `Shorten ${nameOf(list)} from ${large(BigInt(from))} to ${large(BigInt(to))} words, or take a slot out.`;
      return `${large(total)} combinations are more than the 2,000,000 that are made at once. ${shorten}`;
    }
  }
}
