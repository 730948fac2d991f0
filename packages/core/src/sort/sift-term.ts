import { normalise } from '../text/index.ts';

/**
 * One term of a sift, read: `kayak` holds for every number of the word, `=kayaks` for the word as typed, `inflat*` for
 * every word that begins so, `"sit on top"` for the words in a row, `="sit on tops"` for them as typed.
 */
export type SiftTerm = { words: string[]; exact: boolean; prefix: boolean };

export type TermProblem = 'empty' | 'star-not-last' | 'prefix-too-short' | 'prefix-in-run';

const LEAST_PREFIX = 2;

/** Reads a term as it is typed; quotes may be left out, since several words are always a run. */
export function readTerm(typed: string): SiftTerm | { problem: TermProblem } {
  const exact = typed.trim().startsWith('=');
  const text = normalise(typed.trim().replace(/^=/, '')).replace(/^"|"$/g, '').trim();
  const words = text.split(' ').filter((word) => word !== '');
  if (words.length === 0) return { problem: 'empty' };
  const stars = text.split('*').length - 1;
  if (stars === 0) return { words, exact, prefix: false };
  if (stars > 1 || !text.endsWith('*')) return { problem: 'star-not-last' };
  if (words.length > 1) return { problem: 'prefix-in-run' };
  const stem = text.slice(0, -1);
  return [...stem].length < LEAST_PREFIX
    ? { problem: 'prefix-too-short' }
    : { words: [stem], exact: false, prefix: true };
}

/** Writes a term so that reading it gives the same again. */
export function writeTerm({ words, exact, prefix }: SiftTerm): string {
  const text = words.length > 1 ? `"${words.join(' ')}"` : `${words[0]}${prefix ? '*' : ''}`;
  return exact ? `=${text}` : text;
}
