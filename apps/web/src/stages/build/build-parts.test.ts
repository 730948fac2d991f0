import type { TriedView } from '@sprig/contracts';
import { describe, expect, test } from 'vitest';
import { clicksWords } from '../../plan/forecast-words.ts';
import { readLabels } from './BulkBar.tsx';
import { readChange } from './bid-change.ts';
import { aboveWords, readNegatives } from './NegativesPart.tsx';
import { heldWords } from './OrphansPanel.tsx';
import { readCount, readDay, readPattern } from './rule-words.ts';
import { summaryWords } from './summary-words.ts';
import { whyWords } from './TryPanel.tsx';

describe('what is typed', () => {
  test.each([
    ['raise', '10', '', { change: { kind: 'percent', by: 1_000 } }],
    ['lower', '12,5 %', '', { change: { kind: 'percent', by: -1_250 } }],
    ['raise-by', '0.05', '', { change: { kind: 'amount', by: 50_000 } }],
    ['lower-by', '£0,05', '', { change: { kind: 'amount', by: -50_000 } }],
    ['set', '0,40', '', { change: { kind: 'set', to: 400_000 } }],
    ['round', '0.05', '', { change: { kind: 'round', to: 50_000 } }],
    ['between', '0.10', '2', { change: { kind: 'between', from: 100_000, to: 2_000_000 } }],
  ] as const)('bids: %s %s %s', (kind, first, second, expected) =>
    expect(readChange(kind, first, second)).toEqual(expected),
  );
  test.each([
    ['set', '0', '', 'more than nothing'],
    ['set', '-1', '', 'is no amount'],
    ['set', 'NaN', '', 'is no amount'],
    ['set', '1e9', '', 'is no amount'],
    ['set', '9999999', '', 'more than a million'],
    ['raise', '1001', '', 'up to 1000%'],
    ['raise', 'ten', '', 'is no percentage'],
    ['between', '2', '1', 'The least is above the greatest'],
    ['between', '0', '0', 'The least is above the greatest'],
  ] as const)('no bids: %s %s %s', (kind, first, second, words) =>
    expect(readChange(kind, first, second)).toEqual({ words: expect.stringContaining(words) }),
  );

  test('negatives in notation, with commas or lines between', () => {
    expect(readNegatives('jobs, "free plans"\n[sup meaning]\n-film, +red +kayak')).toEqual({
      negatives: [
        { text: 'jobs', type: 'broad' },
        { text: 'free plans', type: 'phrase' },
        { text: 'sup meaning', type: 'exact' },
        { text: 'film', type: 'broad' },
        { text: 'red kayak', type: 'broad' },
      ],
    });
    expect(readNegatives('jobs, [film')).toEqual({ words: expect.stringContaining('“[film” can’t be read') });
    expect(readNegatives(' , \n')).toEqual({ negatives: [] });
  });

  test.each([
    ['@theme – @place', { value: '@theme – @place' }],
    [' ', { words: expect.stringContaining('It needs a name') }],
    ['@nothing', { words: expect.stringContaining('@nothing (column 1) is no token') }],
    ['@theme @offer', { words: expect.stringContaining('A name can’t hold @offer') }],
    ['@keyword(live)', { words: expect.stringContaining('A name can’t hold @keyword(live)') }],
    ['@place(or Eastmere)', { value: '@place(or Eastmere)' }],
    ['x'.repeat(501), { words: expect.stringContaining('up to 500') }],
  ])('names: %s', (typed, expected) => expect(readPattern(typed)).toEqual(expected));

  test.each([
    ['1,200', { value: 1_200 }],
    ['', { value: null }],
    ['0', { words: expect.stringContaining('from 1 to 5,000') }],
    ['2.5', { words: expect.stringContaining('whole number') }],
    ['1,5', { words: expect.stringContaining('whole number') }],
    ['-3', { words: expect.stringContaining('whole number') }],
  ])('counts: %s', (typed, expected) => expect(readCount(1, 5_000)(typed)).toEqual(expected));

  test.each([
    ['2027-01-31', { value: '2027-01-31' }],
    ['', { value: null }],
    ['31.1.2027', { words: expect.stringContaining('2027-03-31') }],
  ])('days: %s', (typed, expected) => expect(readDay(typed)).toEqual(expected));
});

describe('what is said', () => {
  test('what a rebuild did', () => {
    expect(summaryWords({ newGroups: 12, goneGroups: 3, bids: 41, held: 6 })).toBe(
      '12 ad groups new, 3 gone, 41 bids changed, 6 held',
    );
    expect(summaryWords({ newGroups: 0, goneGroups: 0, bids: 1, held: 0 })).toBe('1 bid changed');
    expect(summaryWords({ newGroups: 0, goneGroups: 0, bids: 0, held: 9 })).toBe('');
  });

  test('clicks', () =>
    expect([0, 0.25, 41.4].map(clicksWords)).toEqual(['no click', '0.3 clicks', '41 clicks']));

  test('negatives from above', () => {
    expect(aboveWords(0, 0)).toBe('');
    expect(aboveWords(2, 1_300)).toBe('and 2 more of the campaign, 1,300 of the plan and its lists');
  });

  test.each([
    ['alone', 'answers', 'Nothing else can answer it.'],
    ['standing', 'same-exact', 'as typed goes before all others'],
    ['standing', 'exact', 'before all but the search as typed'],
    ['standing', 'same-text', 'whose text is the search'],
    ['bid', 'answers', 'bid × relevance is the highest'],
    ['narrower', 'answers', 'the narrower match type'],
    ['text', 'answers', 'by the alphabet'],
    ['group', 'answers', 'let one of them go'],
  ] as const)('why the winner won: %s, %s', (wonBy, standing, words) =>
    expect(whyWords({ wonBy, candidates: [{ standing }] } as unknown as TriedView)).toContain(words),
  );
});

test.each([
  ['bid', 910_000, '£0.91'],
  ['budget', 25_000_000, '£25.00'],
  ['step', 11_500, '115%'],
  ['name', 'Boats', 'Boats'],
  ['status', 'paused', 'paused'],
  ['settings', 3, '3'],
] as const)('a held %s of %s reads %s where it is set aside', (field, value, words) =>
  expect(heldWords(field, value, 'GBP')).toBe(words),
);

test.each([
  ['spring', ['spring'], []],
  ['spring, -test ,  sale', ['spring', 'sale'], ['test']],
  ['- test', [], ['test']],
  [' , -', [], []],
])('labels typed as “%s”', (typed, add, remove) => expect(readLabels(typed)).toEqual({ add, remove }));
