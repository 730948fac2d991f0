import { type LanguagePack, rememberingFold } from '../text/index.ts';

/** Which words modified broad marks: all, those that carry meaning, or those of a list, plural or not. */
export type MarkRule = { which: 'every' | 'content' | 'listed'; words: readonly string[] };

/**
 * Tells which words of a keyword a rule marks, by their places from 0; none: every word is marked. A keyword that holds
 * no word of the list has its content words marked, and one without any of those all its words: modified broad never
 * turns into broad.
 */
export function marker(
  { which, words: list }: MarkRule,
  pack: Pick<LanguagePack, 'functionWords' | 'numberFold'>,
): (words: readonly string[]) => number[] {
  const isListed = listedIn(list, pack);
  const places = (words: readonly string[], is: (word: string) => boolean) =>
    words.flatMap((word, at) => (is(word) ? [at] : []));
  const content = (words: readonly string[]) =>
    places(words, (word) => !pack.functionWords.has(word.toLowerCase()));
  if (which === 'every') return () => [];
  if (which === 'content') return content;
  return (words) => {
    const found = places(words, isListed);
    return found.length > 0 ? found : content(words);
  };
}

/** Tells whether a word is one of a list's, plural or not. */
export function listedIn(
  list: readonly string[],
  pack: Pick<LanguagePack, 'numberFold'>,
): (word: string) => boolean {
  const fold = rememberingFold((word) => pack.numberFold(word.toLowerCase()));
  const listed = new Set(list.flatMap((line) => line.trim().split(/\s+/)).map(fold));
  return (word) => listed.has(fold(word));
}
