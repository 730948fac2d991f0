import { describe, expect, test } from 'vitest';
import { commonWords } from '../english/index.ts';
import { english, normalise } from '../text/index.ts';
import {
  conflictsOf,
  filterTests,
  judgedShare,
  type ReadyFilter,
  readyFilters,
  reviewWords,
  starterLists,
} from './index.ts';

const poolOf = (
  list: readonly (readonly [text: string, searches?: number])[],
  cut: readonly number[] = [],
) => ({
  length: list.length,
  isIn: (at: number) => !cut.includes(at),
  normOf: (at: number) => list[at]?.[0] ?? '',
  searchesOf: (at: number) => list[at]?.[1] ?? -1,
});

describe('word review', () => {
  const pool = poolOf(
    [['kayak hire', 100], ['kayak jobs', 40], ['kayak kayak film', 5], ['canoe jobs'], ['raft', 999]],
    [4],
  );
  const review = reviewWords(pool);

  test('each word counts once a keyword, with its searches; what is not in does not count', () => {
    expect(review.words).toEqual([
      { text: 'kayak', keywords: 3, searches: 145 },
      { text: 'hire', keywords: 1, searches: 100 },
      { text: 'jobs', keywords: 2, searches: 40 },
      { text: 'film', keywords: 1, searches: 5 },
      { text: 'canoe', keywords: 1, searches: 0 },
    ]);
  });

  test('runs of two words', () => {
    expect(review.pairs.map(({ text, keywords, searches }) => [text, keywords, searches])).toEqual([
      ['kayak hire', 1, 100],
      ['kayak jobs', 1, 40],
      ['kayak film', 1, 5],
      ['kayak kayak', 1, 5],
      ['canoe jobs', 1, 0],
    ]);
  });

  test('how much is judged, by searches, and by keywords where there is no figure', () => {
    expect(judgedShare(review, (word) => word === 'kayak')).toBeCloseTo(145 / 290);
    const plain = reviewWords(poolOf([['kayak hire'], ['kayak']]));
    expect(judgedShare(plain, (word) => word === 'kayak')).toBeCloseTo(2 / 3);
    expect(judgedShare(reviewWords(poolOf([])), () => false)).toBe(1);
  });
});

describe('ready filters', () => {
  const tests = filterTests({
    pack: english,
    limits: { leastSearches: 10, length: 40, words: 6 },
    rivals: ['fathom & reed'],
    isOrdinary: (word) => commonWords.has(word),
  });
  const met = (text: string, searches = 100) =>
    readyFilters.filter((name) => tests[name](normalise(text), searches));

  test.each<[string, number, ReadyFilter[]]>([
    ['kayak hire', 100, []],
    ['kayak hire', 9, ['low-volume']],
    ['kayak hire', 0, ['low-volume']],
    ['kayak hire', -1, []],
    ['a very long keyword about inflatable kayaks', 100, ['too-long']],
    ['one two three four five six seven', 100, ['too-long']],
    ['kayak, hire', 100, ['not-allowed']],
    ['fathom & reed kayak', 100, ['rival']],
    ['fathoms & reeds kayak', 100, ['rival']],
    ['каяк', 100, ['other-script']],
    ['カヤック rental', 100, ['other-script']],
    ['café canoe 2m', 100, []],
    ['comprar kayak', 100, ['other-language']],
    ['location de kayak pas cher', 100, ['other-language']],
    ['kayak mit motor kaufen', 100, ['other-language']],
    ['how to store a kayak', 100, ['question']],
    ['what size paddle', 100, ['question']],
    ['what', 100, []],
    ['can you kayak', 100, ['question']],
  ])('%j with %i searches: %j', (text, searches, expected) => expect(met(text, searches)).toEqual(expected));
});

describe('conflicts with own keywords', () => {
  test('each negative with the keywords that it blocks, those that are in only', () => {
    const pool = poolOf([['kayak jobs'], ['free kayak'], ['kayak'], ['jobs'], ['job']], [3]);
    const negatives = [
      { id: 1, norm: 'jobs', type: 'broad' as const },
      { id: 2, norm: 'kayak', type: 'exact' as const },
      { id: 3, norm: 'kayak', type: 'broad' as const },
      { id: 4, norm: 'raft', type: 'phrase' as const },
    ];
    expect(conflictsOf(pool, negatives)).toEqual([
      { negative: 3, blocked: [0, 1, 2] },
      { negative: 1, blocked: [0] },
      { negative: 2, blocked: [2] },
    ]);
  });
});

test('starter lists hold each negative once, in normal form', () => {
  for (const { negatives } of starterLists) {
    expect(new Set(negatives.map(({ text }) => text)).size).toBe(negatives.length);
    for (const { text } of negatives) expect(normalise(text)).toBe(text);
  }
});
