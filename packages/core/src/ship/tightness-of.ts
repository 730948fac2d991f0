import { type LanguagePack, normalise, rememberingFold, wordsOf } from '../text/index.ts';

/**
 * How much keywords speak of the same: the mean over them of the share of a keyword's words that more than half of the
 * others have, too; from 0 to 1. Words that only join others do not count, and one number of a noun is as good as another.
 * `fold`: one that remembers, for going over many groups.
 */
export function tightnessOf(
  texts: readonly string[],
  pack: LanguagePack,
  fold = rememberingFold(pack.numberFold),
): number {
  const all = texts.map((text) => [
    ...new Set(
      wordsOf(normalise(text))
        .filter((word) => !pack.functionWords.has(word))
        .map(fold),
    ),
  ]);
  const counts = new Map<string, number>();
  for (const words of all) for (const word of words) counts.set(word, (counts.get(word) ?? 0) + 1);
  const sum = all.reduce((total, words) => {
    const shared = words.filter((word) => (counts.get(word) ?? 0) * 2 > texts.length).length;
    return total + (words.length === 0 ? 1 : shared / words.length);
  }, 0);
  return texts.length < 2 ? 1 : sum / texts.length;
}
