import type { LanguagePack } from '../text/index.ts';
import type { MatchType } from './match-type.ts';
import type { Synonyms } from './synonyms.ts';

/** The language and the synonyms by which words are compared. */
export type Matching = { pack: LanguagePack; synonyms: Synonyms };

/** What a keyword asks: its text in normal form, and the places of its marked words; no marks: all are marked. */
export type Answering = { norm: string; type: MatchType; marks?: readonly number[] };

/**
 * Whether a keyword can answer a search in normal form, by the definition; what `AnswerIndex` is tested against.
 * exact: the same folded words in order. phrase: its folded words in a row. modified: each marked word folded, each
 * other content word by stem or synonym. broad: each content word by stem or synonym. What a narrower type answers, a
 * wider one of the same text answers too.
 */
export function canAnswer({ norm, type, marks }: Answering, search: string, matching: Matching): boolean {
  const { pack } = matching;
  const words = norm.split(' ');
  const searched = search.split(' ');
  const folds = words.map(pack.numberFold);
  const searchedFolds = searched.map(pack.numberFold);
  if (type === 'exact') return folds.length === searchedFolds.length && isRunAt(folds, searchedFolds, 0);
  if (type === 'phrase') return searchedFolds.some((_, at) => isRunAt(folds, searchedFolds, at));
  const content = contentPlaces(words, pack);
  const stems = new Set(searched.map(pack.stem));
  const byStem = (word: string) => {
    const stem = pack.stem(word);
    return stems.has(stem) || [...(matching.synonyms.get(stem) ?? [])].some((other) => stems.has(other));
  };
  return words.every((word, at) => {
    const isMarked = type === 'modified' && (!marks || marks.length === 0 || marks.includes(at));
    if (isMarked) return searchedFolds.includes(folds[at] as string);
    return !content.has(at) || byStem(word);
  });
}

const isRunAt = (run: readonly string[], words: readonly string[], at: number): boolean =>
  at + run.length <= words.length && run.every((word, place) => words[at + place] === word);

/** The places of the words that carry a subject; all where none does. */
export function contentPlaces(
  words: readonly string[],
  { functionWords }: Pick<LanguagePack, 'functionWords'>,
): ReadonlySet<number> {
  const places = words.flatMap((word, at) => (functionWords.has(word) ? [] : [at]));
  return new Set(places.length > 0 ? places : words.keys());
}

/**
 * How close a keyword is to a search: the share of the stems of both that both have (Jaccard), as two whole numbers,
 * so that bids can be weighed by it exactly.
 */
export function relevanceOf(
  stems: ReadonlySet<string | number>,
  searched: ReadonlySet<string | number>,
): { shared: number; all: number } {
  let shared = 0;
  for (const stem of stems) if (searched.has(stem)) shared++;
  return { shared, all: stems.size + searched.size - shared };
}
