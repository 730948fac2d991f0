import { stringAt } from '../access/index.ts';
/** The pool in columns: only the keywords that are in; `searchesOf` gives -1 for no figure. */
export type ReviewPool = {
  length: number;
  isIn: (at: number) => boolean;
  normOf: (at: number) => string;
  searchesOf: (at: number) => number;
};

/** A word or a run of two words, with how much of the pool holds it. */
export type ReviewedWord = { text: string; keywords: number; searches: number };

export type Review = {
  words: ReviewedWord[];
  pairs: ReviewedWord[];
  /** Over all words: how often they stand in the pool, by searches (by keywords where no figure is known). */
  weight: number;
};

type Tally = { keywords: number; searches: number; last: number };

/**
 * The single words and two-word runs of the pool, each counted once a keyword, most searched first, then most
 * keywords, then by code point. Words count as typed, since negatives block as typed. O(total words).
 */
export function reviewWords(pool: ReviewPool): Review {
  const words = new Map<string, Tally>();
  const pairs = new Map<string, Tally>();
  for (let at = 0; at < pool.length; at++) {
    if (!pool.isIn(at)) continue;
    const searches = Math.max(0, pool.searchesOf(at));
    const list = pool.normOf(at).split(' ');
    for (let place = 0; place < list.length; place++) {
      count(words, stringAt(list, place), searches, at);
      if (place > 0) count(pairs, `${list[place - 1]} ${list[place]}`, searches, at);
    }
  }
  const reviewed = ordered(words);
  return { words: reviewed, pairs: ordered(pairs), weight: weightOf(reviewed) };
}

function count(tallies: Map<string, Tally>, text: string, searches: number, at: number) {
  const tally = tallies.get(text);
  if (!tally) tallies.set(text, { keywords: 1, searches, last: at });
  else if (tally.last !== at) {
    tally.keywords++;
    tally.searches += searches;
    tally.last = at;
  }
}

/** In most keywords first, then most searched, then by code point: for a pool whose figures say little. */
export const byKeywords = (words: readonly ReviewedWord[]): ReviewedWord[] =>
  words.toSorted((a, b) => b.keywords - a.keywords || b.searches - a.searches || (a.text < b.text ? -1 : 1));

const ordered = (tallies: Map<string, Tally>): ReviewedWord[] =>
  Array.from(tallies, ([text, { keywords, searches }]) => ({ text, keywords, searches })).sort(
    (a, b) => b.searches - a.searches || b.keywords - a.keywords || (a.text < b.text ? -1 : 1),
  );

const sum = (list: readonly ReviewedWord[], field: 'keywords' | 'searches') =>
  list.reduce((total, word) => total + word[field], 0);

const weightOf = (words: readonly ReviewedWord[]) => sum(words, 'searches') || sum(words, 'keywords');

/**
 * The share of the pool's words that is judged, weighed by searches: 0 to 1. Function words need no judging and
 * count as judged; so does a pool without words.
 */
export function judgedShare(review: Review, isJudged: (word: string) => boolean): number {
  if (review.weight === 0) return 1;
  const field = sum(review.words, 'searches') > 0 ? 'searches' : 'keywords';
  return (
    sum(
      review.words.filter(({ text }) => isJudged(text)),
      field,
    ) / review.weight
  );
}
