import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { asMicros, type Micros } from '../money/index.ts';
import { english } from '../text/index.ts';
import {
  AnswerIndex,
  canAnswer,
  compareWeights,
  type IndexedRow,
  type MatchType,
  matchTypes,
  noSynonyms,
  relevanceOf,
  synonymsOf,
  trySearch,
} from './index.ts';

const plain = { pack: english, synonyms: noSynonyms };
const like = {
  pack: english,
  synonyms: synonymsOf(
    [
      ['hire', 'rental'],
      ['rental', 'loan'],
      ['sup', 'paddle board'],
    ],
    english,
  ),
};

/** By type, from broad to exact: `bmpe` where all can answer, `-` in the place of those that can't. */
const answersOf = (norm: string, search: string, marks?: number[], matching = plain) =>
  matchTypes
    .map((type) => (canAnswer({ norm, type, ...(marks ? { marks } : {}) }, search, matching) ? type[0] : '-'))
    .join('');

describe('what answers what', () => {
  test.each([
    // The same words.
    ['kayak hire', 'kayak hire', 'bmpe'],
    ['kayak', 'kayak', 'bmpe'],
    // Number folds for all types, stems for broad alone.
    ['kayak hire', 'kayaks hire', 'bmpe'],
    ['kayaks hire', 'kayak hire', 'bmpe'],
    ['knife case', 'knives case', 'bmpe'],
    ['accessories', 'accessory', 'bmpe'],
    ['paddling lesson', 'paddle lessons', 'b---'],
    ['kayak hiring', 'kayak hire', 'b---'],
    ['bus tour', 'buses tour', 'bmpe'],
    // Words around.
    ['kayak hire', 'kayak hire wrenport', 'bmp-'],
    ['kayak hire', 'cheap kayak hire', 'bmp-'],
    ['kayak hire', 'cheap kayaks hire near me', 'bmp-'],
    ['kayak', 'red kayak', 'bmp-'],
    // Words between, and another order.
    ['kayak hire', 'kayak and canoe hire', 'bm--'],
    ['kayak hire', 'hire kayak', 'bm--'],
    ['kayak hire', 'hire a kayak in wrenport', 'bm--'],
    ['sit on top kayak', 'sit on top sea kayak', 'bm--'],
    // Function words: broad passes them over, marked and in a row they count.
    ['kayak in wrenport', 'kayak wrenport', 'b---'],
    ['kayak for hire', 'kayak hire', 'b---'],
    ['kayak for hire', 'hire kayak for me', 'bm--'],
    ['kayaks near me', 'kayaks near me', 'bmpe'],
    ['kayaks near me', 'kayaks close by', '----'],
    // Only function words: all of them count.
    ['near me', 'near me', 'bmpe'],
    ['in at', 'at in', 'bm--'],
    ['in at', 'in', '----'],
    // Too little of it.
    ['kayak hire', 'kayak', '----'],
    ['kayak hire', 'hire', '----'],
    ['kayak hire', 'canoe hire', '----'],
    ['kayak hire wrenport', 'kayak hire', '----'],
    ['red kayak', 'kayak red paddle', 'bm--'],
    // Hyphens and apostrophes stay in the word.
    ['sit-on-top kayak', 'sit-on-top kayak', 'bmpe'],
    ['sit-on-top kayak', 'sit on top kayak', '----'],
    // A prefix of a word is no word.
    ['kay', 'kayak', '----'],
    ['kayak', 'kayaking', 'b---'],
    ['hire kayak', 'hire kayakers', 'b---'],
    ['hire kayak', 'hire kayakish', '----'],
    // Twice the same word asks for it once, in any order; in a row for both.
    ['kayak kayak', 'kayak', 'bm--'],
    ['kayak kayak', 'kayak kayak hire', 'bmp-'],
    // Longer searches and longer keywords.
    ['kayak', 'where to buy a kayak in wrenport', 'bmp-'],
    ['buy a kayak', 'where to buy a kayak in wrenport', 'bmp-'],
    ['buy kayak', 'where to buy a kayak in wrenport', 'bm--'],
    ['kayak wrenport', 'where to buy a kayak in wrenport', 'bm--'],
    ['wrenport kayak', 'where to buy a kayak in wrenport', 'bm--'],
    ['kayak heronsea', 'where to buy a kayak in wrenport', '----'],
    ['where to buy a kayak in wrenport', 'where to buy a kayak in wrenport', 'bmpe'],
    ['where to buy a kayak in wrenport', 'buy kayak wrenport where', 'b---'],
    ['two person inflatable kayak', 'inflatable two person kayak', 'bm--'],
    ['two person inflatable kayak', 'two person inflatable kayaks', 'bmpe'],
    ['two person inflatable kayak', 'best two person inflatable kayak for sea', 'bmp-'],
    ['two person kayak', 'two person inflatable kayak', 'bm--'],
    ['two person kayak', 'two persons kayak', 'bmpe'],
    ['two person kayak', 'two people kayak', 'bmpe'],
    // Plurals of several kinds on either side.
    ['canoes', 'canoe', 'bmpe'],
    ['canoe', 'canoes hire', 'bmp-'],
    ['paddle boards', 'paddle board', 'bmpe'],
    ['paddles board', 'paddle boards', 'bmpe'],
    ['paddle board', 'board paddle', 'bm--'],
    ['glass', 'glasses', 'bmpe'],
    ['knives', 'knife', 'bmpe'],
    ['lens', 'lenses', 'bmpe'],
    ['kayak series', 'kayaks series', 'bmpe'],
    ['gps', 'gp', '----'],
    ['canvas kayak', 'canva kayak', 'b---'],
    // Stems: broad alone, on either side.
    ['hire', 'hiring', 'b---'],
    ['hiring', 'hired', 'b---'],
    ['paddle', 'paddling', 'b---'],
    ['paddling', 'paddles', 'b---'],
    ['rented kayak', 'renting kayaks', 'b---'],
    ['kayaking', 'kayaks', 'b---'],
    ['fishing kayak', 'fish kayak', 'b---'],
    ['guided tour', 'guiding tours', 'b---'],
    ['inflatable', 'inflate', 'b---'],
    ['wren', 'wrenport', '----'],
    // Function words at the ends and between.
    ['kayak near me', 'kayak', '----'],
    ['kayak near me', 'kayak me', 'b---'],
    ['kayak', 'kayak near me', 'bmp-'],
    ['the kayak', 'kayak', 'b---'],
    ['kayak and canoe', 'canoe kayak', 'b---'],
    ['kayak and canoe', 'canoe and kayak', 'bm--'],
    ['kayak and canoe', 'kayak and canoe hire', 'bmp-'],
    ['kayak and canoe', 'kayak or canoe', 'b---'],
    ['is my kayak', 'is a kayak my', 'bm--'],
    ['from wrenport', 'to wrenport', 'b---'],
    // Digits and marks are words like others.
    ['kayak 2', 'kayak 2', 'bmpe'],
    ['kayak 2', 'kayak 20', '----'],
    ["kids' kayak", "kids' kayak", 'bmpe'],
    ['3.2m kayak', '3.2m kayaks', 'bmpe'],
    ['kayak & canoe', 'kayak & canoe', 'bmpe'],
  ])('%s ← %s: %s', (norm, search, expected) => expect(answersOf(norm, search)).toBe(expected));

  test.each([
    ['red kayak', 'kayaks for hire', [1], 'b: no red', '----'],
    ['kayak hire', 'kayaks hiring', [0], 'hire unmarked goes by stem', 'bm--'],
    ['kayak hire', 'kayaking hire', [0], 'kayak marked does not', 'b---'],
    ['kayak for hire', 'hire a kayak', [0, 2], 'for is not marked', 'bm--'],
    ['kayak for hire', 'hire a kayak', [1], 'for is marked', 'b---'],
  ])('marks: %s ← %s, marked %j (%s)', (norm, search, marks, _, expected) =>
    expect(answersOf(norm, search, marks)).toBe(expected),
  );

  test.each([
    ['kayak hire', 'kayak rental', 'b---'],
    ['kayak rentals', 'kayak hire', 'b---'],
    // Pairs are not chained: hire ~ rental and rental ~ loan do not make hire ~ loan.
    ['kayak hire', 'kayak loan', '----'],
    ['kayak rental', 'kayak loan', 'b---'],
    // What is written in two words stands for none.
    ['sup', 'paddle board', '----'],
  ])('synonyms: %s ← %s: %s', (norm, search, expected) =>
    expect(answersOf(norm, search, undefined, like)).toBe(expected),
  );

  test('an unmarked word answers by synonym, a marked one does not', () => {
    expect(answersOf('kayak hire', 'kayak rental', [0], like)).toBe('bm--');
    expect(answersOf('kayak hire', 'kayak rental', [1], like)).toBe('b---');
  });
});

const VOCABULARY = 'kayak kayaks kayaking hire hiring rental rentals loan in near me red wrenport'.split(' ');
const phrase = fc
  .array(fc.constantFrom(...VOCABULARY), { minLength: 1, maxLength: 5 })
  .map((words) => words.join(' '));
const rowOf = fc.record({
  norm: phrase,
  type: fc.constantFrom(...matchTypes),
  marks: fc.array(fc.nat(3), { maxLength: 2 }),
  owner: fc.nat(4),
});

describe('properties', () => {
  test('what a narrower type answers, a wider one of the same text answers too', () => {
    fc.assert(
      fc.property(phrase, phrase, fc.array(fc.nat(4), { maxLength: 3 }), (norm, search, marks) => {
        const answers = matchTypes.map((type) => canAnswer({ norm, type, marks }, search, like));
        // Once a type from the broadest on can't, no narrower one can.
        expect(answers.slice(answers.indexOf(false) >>> 0).some(Boolean)).toBe(false);
      }),
      { seed: 6, numRuns: 3_000 },
    );
  });

  test('the index finds what a plain scan finds', () => {
    fc.assert(
      fc.property(fc.array(rowOf, { maxLength: 40 }), phrase, (rows, search) => {
        const index = new AnswerIndex(rows as IndexedRow[], like);
        const found: number[] = [];
        index.each(index.read(search), (row) => found.push(row));
        const scanned = rows.flatMap((row, at) => (canAnswer(row, search, like) ? [at] : []));
        expect(found.sort((a, b) => a - b)).toEqual(scanned);
      }),
      { seed: 7, numRuns: 1_000 },
    );
  });

  test('a search with words that no keyword has is read like any other', () => {
    const index = new AnswerIndex([{ norm: 'kayak hire', type: 'broad', owner: 0 }], like);
    const found: number[] = [];
    index.each(index.read('kayak rental xyzzy'), (row) => found.push(row));
    expect(found).toEqual([0]);
    expect(relevanceOf(index.stemSetOf(0), index.read('kayak rental xyzzy').own)).toEqual({
      shared: 1,
      all: 4,
    });
  });
});

describe('try a search', () => {
  type BidRow = IndexedRow & { bid: number };
  const row = (norm: string, type: MatchType, owner: number, bid: number): BidRow => ({
    norm,
    type,
    owner,
    bid,
  });
  const tried = (search: string, rows: BidRow[], blocked: number[] = []) => {
    const index = new AnswerIndex(rows, plain);
    const { candidates, wonBy } = trySearch(index, search, {
      bidOf: (at) => asMicros(rows[at]?.bid ?? 0),
      blockOf: (owner) => (blocked.includes(owner) ? 'negative' : undefined),
    });
    return {
      order: candidates.map(({ row: at }) => `${rows[at]?.norm} ${rows[at]?.type} ${rows[at]?.owner}`),
      blocked: candidates.filter(({ blockedBy }) => blockedBy).length,
      wonBy,
    };
  };

  test('exact as typed, then any exact, then the same text, then the rest by bid × relevance', () => {
    const rows = [
      row('kayak', 'broad', 1, 5_000_000),
      row('kayak hire', 'broad', 2, 100_000),
      row('kayaks hire', 'exact', 3, 10_000),
      row('kayak hire', 'exact', 4, 10_000),
      row('hire', 'phrase', 5, 4_000_000),
    ];
    expect(tried('kayak hire', rows)).toEqual({
      order: [
        'kayak hire exact 4',
        'kayaks hire exact 3',
        'kayak hire broad 2',
        'kayak broad 1',
        'hire phrase 5',
      ],
      blocked: 0,
      wonBy: 'standing',
    });
    expect(tried('kayak hire', rows, [4])).toMatchObject({ blocked: 1, wonBy: 'standing' });
    expect(tried('kayak hire', rows, [4]).order.at(-1)).toBe('kayak hire exact 4');
  });

  test.each([
    // A half of £0.90 is less than two thirds of £0.70.
    ['bid', [row('kayak', 'broad', 1, 900_000), row('red kayak', 'broad', 2, 700_000)], 'red kayak broad 2'],
    ['narrower', [row('kayak', 'broad', 1, 100_000), row('kayak', 'phrase', 1, 100_000)], 'kayak phrase 1'],
    [
      'text',
      [row('red kayak', 'broad', 1, 100_000), row('hire kayak', 'broad', 2, 100_000)],
      'hire kayak broad 2',
    ],
    ['group', [row('kayak', 'broad', 7, 100_000), row('kayak', 'broad', 3, 100_000)], 'kayak broad 3'],
    ['alone', [row('kayak', 'broad', 3, 100_000)], 'kayak broad 3'],
  ] as [string, BidRow[], string][])('won by %s', (why, rows, winner) => {
    const { order, wonBy } = tried('red kayak hire', rows);
    expect([order[0], wonBy]).toEqual([winner, why]);
  });

  test('nothing answers, or all that could are blocked', () => {
    expect(tried('canoe', [row('kayak', 'broad', 1, 1)])).toEqual({ order: [], blocked: 0, wonBy: null });
    expect(tried('kayak', [row('kayak', 'broad', 1, 1)], [1])).toMatchObject({ blocked: 1, wonBy: null });
  });

  test('weights are compared exactly, also past 2^53', () => {
    const weigh = (bid: number, shared: number, all: number) => ({
      bid: bid as Micros,
      relevance: { shared, all },
    });
    expect(compareWeights(weigh(3, 1, 3), weigh(2, 1, 2))).toBe(0);
    expect(compareWeights(weigh(999_999_999_999, 97, 98), weigh(999_999_999_998, 97, 98))).toBe(1);
    expect(compareWeights(weigh(999_999_999_999, 9_700, 9_800), weigh(999_999_999_999, 97, 98))).toBe(0);
  });
});
