import type { SiftProblem } from '@sprig/core/sort';
import { count } from '../../kit/format.ts';

const termWords = {
  empty: 'A term is missing.',
  'star-not-last': 'A * stands for how a word ends: put it last, as in inflat*.',
  'prefix-too-short': 'Type at least two letters before the *.',
  'prefix-in-run': 'A * works with one word. Take it away, or leave one word.',
} as const;

/** What is wrong with a sift, and what to do. */
export function siftProblemWords(problem: SiftProblem): string {
  switch (problem.code) {
    case 'term':
      return `“${problem.typed}”: ${termWords[problem.why]}`;
    case 'too-many-terms':
      return `${count(problem.count)} terms are too many for one rule; ${count(problem.most)} is the most.`;
    case 'no-has':
      return `“${problem.typed}” must come after “has” or “but not”.`;
  }
}

/** `0.83` as `83%`. */
export const share = (value: number): string => `${Math.round(value * 100)}%`;
export const shareOf = (part: number, whole: number): string => (whole === 0 ? '–' : share(part / whole));
