import { type Compared, type Matching, type MatchType, matchRules } from './types/index.ts';

/** What a keyword asks: its text in normal form, and the places of its marked words; no marks: all are marked. */
export type Answering = { norm: string; type: MatchType; marks?: readonly number[] };

/**
 * Whether a keyword can answer a search in normal form, by the definition of its type; what `AnswerIndex` is tested
 * against. What a narrower type answers, a wider one of the same text answers too.
 */
export function canAnswer(
  { norm, type, marks = [] }: Answering,
  search: string,
  matching: Matching,
): boolean {
  const words = norm.split(' ');
  const searched = search.split(' ');
  const fold = matching.pack.numberFold;
  const compared: Compared = {
    words,
    folds: words.map(fold),
    searched,
    searchedFolds: searched.map(fold),
    marks,
    matching,
  };
  return matchRules[type].answers(compared);
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
