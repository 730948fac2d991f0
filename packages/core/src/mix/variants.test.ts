import { describe, expect, test } from 'vitest';
import { readNotation } from '../match/index.ts';
import { asMicros } from '../money/index.ts';
import { english } from '../text/index.ts';
import { type VariantOptions, variantsOf } from './index.ts';

const source = (text: string, more = {}) => ({ text, negative: false, cpc: null, ...more });
const options: VariantOptions = {
  types: ['exact', 'broad', 'phrase', 'modified'],
  marks: 'every',
  chosen: [],
  order: 'keyword',
  bids: null,
};
const notations = (text: string, more: Partial<VariantOptions> = {}) =>
  variantsOf([source(text)], { ...options, ...more }, english).rows.map(({ notation }) => notation);

describe('variants', () => {
  test('from the widest to the narrowest, whatever the order in which they were asked for', () => {
    expect(notations('hire a Red kayak')).toEqual([
      'hire a Red kayak',
      '+hire +a +Red +kayak',
      '"hire a Red kayak"',
      '[hire a Red kayak]',
    ]);
    expect(notations('kayak', { types: ['exact'] })).toEqual(['[kayak]']);
    expect(notations('kayak', { types: [] })).toEqual([]);
  });

  test.each([
    ['content', [], '+hire a +red +kayak'],
    ['chosen', ['kayaks', 'red canoe'], 'hire a +red +kayak'],
  ] as const)('modified broad marks %s words', (marks, chosen, expected) => {
    expect(notations('hire a red kayak', { types: ['modified'], marks, chosen })).toEqual([expected]);
  });

  test('a keyword of function words alone is marked whole', () => {
    expect(notations('near my', { types: ['modified'], marks: 'content' })).toEqual(['+near +my']);
  });

  test('without a chosen word the content words are marked, as Build marks them, and it is counted', () => {
    const made = variantsOf(
      [source('canoe'), source('red kayak')],
      { ...options, marks: 'chosen', chosen: ['kayak'] },
      english,
    );
    expect(made.unmarked).toBe(1);
    expect(made.rows).toHaveLength(8);
    expect(made.rows.filter(({ type }) => type === 'modified').map(({ text }) => text)).toEqual([
      '+canoe',
      'red +kayak',
    ]);
  });

  test('match type by match type', () => {
    const rows = variantsOf(
      [source('a1'), source('b1')],
      { ...options, types: ['phrase', 'exact'], order: 'type' },
      english,
    ).rows;
    expect(rows.map(({ notation }) => notation)).toEqual(['"a1"', '"b1"', '[a1]', '[b1]']);
  });

  test('bids: the keyword’s own CPC before the base, by the step of the match type, rounded half up', () => {
    const bids = {
      base: asMicros(400_000),
      steps: { broad: 7_000, modified: 8_500, phrase: 10_000, exact: 12_500 },
      increment: asMicros(10_000),
    };
    const rows = variantsOf(
      [source('kayak'), source('canoe', { cpc: asMicros(500_000) })],
      { ...options, bids },
      english,
    ).rows;
    expect(rows.map(({ bid }) => bid)).toEqual([
      280_000, 340_000, 400_000, 500_000, 350_000, 430_000, 500_000, 630_000,
    ]);
  });

  test('a negative keeps its minus, has no bid and no modified broad', () => {
    const rows = variantsOf([source('jobs', { negative: true })], options, english).rows;
    expect(rows.map(({ notation, type, bid }) => [notation, type, bid])).toEqual([
      ['-jobs', 'broad', null],
      ['-"jobs"', 'phrase', null],
      ['-[jobs]', 'exact', null],
    ]);
  });

  test('what is written reads back as the same match type', () => {
    for (const { notation, type, negative } of variantsOf(
      [source('sea kayak hire'), source('free', { negative: true })],
      { ...options, marks: 'content' },
      english,
    ).rows)
      expect(readNotation(notation)).toMatchObject({
        status: 'read',
        negative,
        type: type === 'broad' ? null : type,
      });
  });
});
