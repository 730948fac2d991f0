import { stringAt } from '../../access/index.ts';
import type { LanguagePack } from '../../text/index.ts';
import type { Compared } from './rules.ts';

/** Whether words stand in others, one after another, from a place on. */
export const isRunAt = (run: readonly string[], words: readonly string[], at: number): boolean =>
  at + run.length <= words.length && run.every((word, place) => words[at + place] === word);

/** The places of the words that carry a subject; all where none does. */
export function contentPlaces(words: readonly string[], pack: LanguagePack): ReadonlySet<number> {
  const places = words.flatMap((word, at) => (pack.functionWords.has(word) ? [] : [at]));
  return new Set(places.length > 0 ? places : words.map((_, at) => at));
}

/**
 * Whether every content word is in the search by stem or synonym; but those of `isFirm` as typed, in whichever number,
 * content words or not.
 */
export function answersByWords(compared: Compared, isFirm: (at: number) => boolean): boolean {
  const { words, folds, searched, searchedFolds, matching } = compared;
  const { pack, synonyms } = matching;
  const content = contentPlaces(words, pack);
  const stems = new Set(searched.map(pack.stem));
  const byStem = (word: string) => {
    const stem = pack.stem(word);
    return stems.has(stem) || [...(synonyms.get(stem) ?? [])].some((other) => stems.has(other));
  };
  return words.every((word, at) =>
    isFirm(at) ? searchedFolds.includes(stringAt(folds, at)) : !content.has(at) || byStem(word),
  );
}
