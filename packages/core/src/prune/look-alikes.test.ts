import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type Labelled, labelled, misspelt } from '../../fixtures/labelled-look-alikes.ts';
import { commonWords } from '../english/index.ts';
import { english, slipsBetween } from '../text/index.ts';
import { type LookAlikeClass, lookAlikeClasses, lookAlikes, misspellings } from './index.ts';

type Given = { text: string; searches?: number };

const groupsOf = (list: readonly Given[], classes: readonly LookAlikeClass[] = lookAlikeClasses) =>
  lookAlikes({
    pool: {
      length: list.length,
      normOf: (at) => list[at]?.text ?? '',
      searchesOf: (at) => list[at]?.searches ?? -1,
    },
    classes,
    pack: english,
    isOrdinary: (word) => commonWords.has(word),
  });

const named = (texts: readonly string[], classes?: readonly LookAlikeClass[]) => {
  const list = texts.map((text) => ({ text }));
  return groupsOf(list, classes).map(({ keeper, others }) => [
    list[keeper]?.text,
    ...others.map(({ at, by }) => `${list[at]?.text} (${by})`),
  ]);
};

describe('look-alikes by class', () => {
  test.each<[LookAlikeClass, string, string]>([
    ['joined', 'paddle board', 'paddleboard'],
    ['joined', 'paddle board', 'paddle-board'],
    ['joined', 'sit on top', 'sit-on-top'],
    ['joined', "kid's bike", 'kids bike'],
    ['number', 'kayak', 'kayaks'],
    ['number', 'bread knife', 'bread knives'],
    ['order', 'kayak hire', 'hire kayak'],
    ['function', 'kayak hire', 'kayak for hire'],
  ])('%s: %j and %j', (by, one, other) => {
    expect(groupsOf([{ text: one }, { text: other }], [by])).toMatchObject([{ others: [{ by }] }]);
    const rest = lookAlikeClasses.filter((name) => name !== by);
    expect(groupsOf([{ text: one }, { text: other }], rest)).toEqual([]);
  });

  test('a run of words is joined only where it stands joined in the pool', () => {
    expect(named(['paddle board hire', 'hire paddle board'], ['joined'])).toEqual([]);
    expect(named(['paddle boards hire', 'paddleboard hire'], ['joined', 'number'])).toEqual([
      ['paddleboard hire', 'paddle boards hire (number)'],
    ]);
  });

  test.each([
    [['wrenport to heronsea', 'heronsea to wrenport']],
    [['kayak vs canoe', 'canoe vs kayak']],
    [['kayak without seat', 'kayak seat']],
    [['flight from wrenport', 'flight wrenport']],
    [['10 5 sup', '105 sup']],
    [['canvas bag', 'canva bag']],
  ])('%j stay apart', (texts) => expect(named(texts)).toEqual([]));

  test('words around a directional word may change places among themselves', () => {
    expect(
      named(['cheap ferry wrenport to heronsea', 'ferry cheap wrenport to heronsea'], ['order']),
    ).toEqual([['cheap ferry wrenport to heronsea', 'ferry cheap wrenport to heronsea (order)']]);
  });

  test('classes combine, and each keyword tells the most unsure one that ties it in', () => {
    const list = [
      { text: 'kayak hire', searches: 900 },
      { text: 'hire kayaks', searches: 300 },
      { text: 'kyak hire', searches: 20 },
      { text: 'kayaks hire', searches: 100 },
      { text: 'hire a kayak', searches: 90 },
    ];
    expect(groupsOf(list)).toEqual([
      {
        keeper: 0,
        others: [
          { at: 1, by: 'order' },
          { at: 3, by: 'number' },
          { at: 4, by: 'function' },
          { at: 2, by: 'spelling' },
        ],
        searches: 1410,
      },
    ]);
  });

  test('the keeper has most searches, then is shortest, then first by code point', () => {
    const keeperOf = (list: Given[]) => list[groupsOf(list)[0]?.keeper ?? -1]?.text;
    expect(
      keeperOf([
        { text: 'kayak', searches: 1 },
        { text: 'kayaks', searches: 2 },
      ]),
    ).toBe('kayaks');
    expect(
      keeperOf([
        { text: 'kayaks', searches: 2 },
        { text: 'kayak', searches: 2 },
      ]),
    ).toBe('kayak');
    expect(keeperOf([{ text: 'kayak hire' }, { text: 'hire kayak' }])).toBe('hire kayak');
  });
});

describe('misspellings', () => {
  const words = (list: Record<string, number>) =>
    Object.entries(list).map(([word, searches]) => ({ word, searches, keywords: 1 }));
  const found = (list: Record<string, number>) =>
    Object.fromEntries(misspellings(words(list), (word) => commonWords.has(word)));

  test.each([
    ['one slip', { kayak: 1000, kayack: 50 }, { kayack: 'kayak' }],
    ['a transposition is one slip', { kayak: 1000, kaayk: 50 }, { kaayk: 'kayak' }],
    ['two slips in a long word', { inflatable: 1000, inflattabel: 50 }, { inflattabel: 'inflatable' }],
    ['a letter left out of five', { kayak: 1000, kyak: 50 }, { kyak: 'kayak' }],
    ['two slips in a short word', { kayak: 1000, kiyack: 10 }, {}],
    ['another first letter', { kayak: 1000, cayak: 10 }, {}],
    ['not rare enough', { kayak: 1000, kayack: 51 }, {}],
    ['an ordinary word', { canoe: 9000, canoes: 10, broad: 9000, board: 10 }, {}],
    ['a number in it', { kayak10: 9000, kayak11: 10 }, {}],
    ['a chain', { kayak: 90_000, kayack: 3000, kayacck: 10 }, { kayack: 'kayak', kayacck: 'kayak' }],
  ])('%s', (_, list, expected) => expect(found(list as Record<string, number>)).toEqual(expected));

  test('without figures it goes by the number of keywords', () => {
    const list = [
      { word: 'kayak', searches: -1, keywords: 40 },
      { word: 'kayack', searches: -1, keywords: 2 },
    ];
    expect([...misspellings(list, () => false)]).toEqual([['kayack', 'kayak']]);
  });

  test('words without figures do not hide the misspellings of those that have some', () => {
    const list = [
      { word: 'kayak', searches: 2_400, keywords: 10 },
      { word: 'kyak', searches: 20, keywords: 1 },
      { word: 'waders', searches: -1, keywords: 1 },
    ];
    expect([...misspellings(list, () => false)]).toEqual([['kyak', 'kayak']]);
  });

  test('the index finds what a plain comparison of all words finds', () => {
    const letter = fc.constantFrom(...'abcde');
    const word = fc.string({ unit: letter, minLength: 4, maxLength: 10 });
    const entry = fc.record({ word, searches: fc.integer({ min: 0, max: 2_000 }), keywords: fc.constant(1) });
    fc.assert(
      fc.property(fc.uniqueArray(entry, { selector: (one) => one.word, maxLength: 40 }), (vocabulary) => {
        const plain = vocabulary.filter(({ word: wrong, searches }) =>
          vocabulary.some(
            (right) =>
              right.word !== wrong &&
              right.word.length >= 5 &&
              right.word[0] === wrong[0] &&
              right.searches > 0 &&
              right.searches >= 20 * Math.max(1, searches) &&
              slipsBetween(wrong, right.word, 2) <= (wrong.length >= 8 ? 2 : 1),
          ),
        );
        const byIndex = misspellings(vocabulary, () => false);
        expect([...byIndex.keys()].sort()).toEqual(plain.map((one) => one.word).sort());
      }),
      { numRuns: 300 },
    );
  });

  test.each([
    ['kayak', 'kayak', 0],
    ['kayak', 'kyaak', 1],
    ['kayak', 'kaya', 1],
    ['kayak', 'canoe', 3],
  ])('slips from %j to %j: %i', (a, b, slips) => expect(slipsBetween(a, b, 2)).toBe(slips));
});

/** Pairs said to be alike against pairs that are: how many of the first are right, how many of the second found. */
function judged(list: readonly Labelled[], classes: readonly LookAlikeClass[]) {
  const pairs = (groups: readonly (readonly number[])[]) =>
    new Set(
      groups.flatMap((members) => {
        const sorted = members.slice().sort((a, b) => a - b);
        return sorted.flatMap((one, at) => sorted.slice(at + 1).map((other) => `${one} ${other}`));
      }),
    );
  const said = pairs(
    groupsOf(list, classes).map(({ keeper, others }) => [keeper, ...others.map(({ at }) => at)]),
  );
  const byLabel = new Map<number, number[]>();
  for (const [at, { group }] of list.entries()) byLabel.set(group, [...(byLabel.get(group) ?? []), at]);
  const true_ = pairs([...byLabel.values()]);
  const right = [...said].filter((pair) => true_.has(pair)).length;
  const wrong = [...said]
    .filter((pair) => !true_.has(pair))
    .map((pair) => pair.split(' ').map((at) => list[Number(at)]?.text));
  const missed = [...true_]
    .filter((pair) => !said.has(pair))
    .map((pair) => pair.split(' ').map((at) => list[Number(at)]?.text));
  return { precision: right / said.size, recall: right / true_.size, wrong, missed };
}

describe('against what practitioners say of four shops', () => {
  test('classes 1 to 5: 99% right and 98% found', () => {
    const sure = lookAlikeClasses.filter((name) => name !== 'spelling');
    const { precision, recall, wrong, missed } = judged(labelled, sure);
    expect({ wrong, missed: missed.slice(0, 12), good: precision >= 0.99 && recall >= 0.98 }).toMatchObject({
      wrong: [],
      good: true,
    });
  });

  test('misspellings: 95% right and 90% found', () => {
    const { precision, recall, wrong, missed } = judged(misspelt, lookAlikeClasses);
    expect({ wrong, missed, good: precision >= 0.95 && recall >= 0.9 }).toMatchObject({ good: true });
  });
});
