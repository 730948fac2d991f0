import pluralize from 'pluralize';
import { SINGULARS, UNCHANGED } from './number-exceptions.ts';

const unchanged = new Set(UNCHANGED);
const LETTERS = /^\p{L}+$/u;

/**
 * The singular of one word in normal form, by a kept library and the exceptions it gets wrong; a hyphenated word's
 * last part is folded, a word with an apostrophe or a digit stays. `kayaks` is `kayak`, `sit-on-tops` is
 * `sit-on-top`, `canvas` is `canvas`. Folding twice changes nothing.
 */
export function numberFold(word: string): string {
  const known = SINGULARS.get(word);
  if (known !== undefined) return known;
  if (unchanged.has(word) || word.length < 3) return word;
  const hyphen = word.lastIndexOf('-');
  if (hyphen > 0) return word.slice(0, hyphen + 1) + numberFold(word.slice(hyphen + 1));
  if (!LETTERS.test(word)) return word;
  const folded = pluralize.singular(word);
  return folded === word || unchanged.has(folded) || pluralize.singular(folded) === folded ? folded : word;
}

let plurals: ReadonlyMap<string, string> | null = null;

/**
 * The plural of one word in normal form that is a singular, whose fold is that word again; a word that has none, or of which
 * it is not known, stays. `brush` is `brushes`, `sit-on-top` is `sit-on-tops`, `chess` is `chess`.
 */
export function pluralOf(word: string): string {
  plurals ??= new Map([...SINGULARS].map(([plural, singular]) => [singular, plural]));
  const known = plurals.get(word);
  if (known !== undefined) return known;
  if (unchanged.has(word) || word.length < 3) return word;
  const hyphen = word.lastIndexOf('-');
  if (hyphen > 0) return word.slice(0, hyphen + 1) + pluralOf(word.slice(hyphen + 1));
  if (!LETTERS.test(word)) return word;
  const plural = pluralize.plural(word);
  return numberFold(plural) === word ? plural : word;
}

/** A fold with a memory, for going over many keywords: the library costs microseconds a word. */
export function rememberingFold(fold: (word: string) => string): (word: string) => string {
  const known = new Map<string, string>();
  return (word) => {
    const there = known.get(word);
    if (there !== undefined) return there;
    const folded = fold(word);
    known.set(word, folded);
    return folded;
  };
}
