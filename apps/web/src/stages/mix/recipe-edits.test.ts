import { emptyRecipe, type Pattern, type Recipe, type Slot } from '@sprig/core/mix';
import { describe, expect, test } from 'vitest';
import { readAlone, readPairs, writeAlone, writePairs } from './never-words.ts';
import {
  addPattern,
  addSlot,
  changeSlot,
  freeName,
  moved,
  moveSlot,
  removeSlot,
  withoutList,
} from './recipe-edits.ts';

const word = (text: string): Slot => ({ kind: 'word', text });
const row = (id: number, ...words: string[]): Pattern => ({ id, slots: words.map(word), flip: false });
const read = (patterns: readonly Pattern[]) =>
  patterns.map(({ slots }) => slots.map((slot) => (slot.kind === 'word' ? slot.text : slot.list)).join(' '));
const two = [row(1, 'a', 'b', 'c'), row(2, 'x')];

describe('slots', () => {
  test.each([
    ['to the right in its row', { pattern: 1, at: 0 }, { pattern: 1, at: 2 }, ['b c a', 'x']],
    ['to the left in its row', { pattern: 1, at: 2 }, { pattern: 1, at: 0 }, ['c a b', 'x']],
    ['to where it stands', { pattern: 1, at: 1 }, { pattern: 1, at: 1 }, ['a b c', 'x']],
    ['past the end', { pattern: 1, at: 0 }, { pattern: 1, at: 9 }, ['b c a', 'x']],
    ['into another row', { pattern: 1, at: 1 }, { pattern: 2, at: 0 }, ['a c', 'b x']],
    ['from a place that is not there', { pattern: 1, at: 7 }, { pattern: 2, at: 0 }, ['a b c', 'x']],
  ])('a slot moves %s', (_, from, to, expected) => {
    expect(read(moveSlot(two, from, to))).toEqual(expected);
  });

  test('added, changed and taken out, with nothing else touched', () => {
    const before = structuredClone(two);
    expect(read(addSlot(two, { pattern: 2, at: 1 }, word('y')))).toEqual(['a b c', 'x y']);
    expect(read(removeSlot(two, { pattern: 1, at: 0 }))).toEqual(['b c', 'x']);
    expect(read(changeSlot(two, { pattern: 1, at: 1 }, () => word('q')))).toEqual(['a q c', 'x']);
    expect(two).toEqual(before);
  });

  test('patterns get a number of their own', () => {
    expect(addPattern(two).map(({ id }) => id)).toEqual([1, 2, 3]);
    expect(addPattern([]).map(({ id }) => id)).toEqual([1]);
  });
});

test('one of a row moves within it, and nowhere else', () => {
  expect(moved(['a', 'b', 'c'], 0, 1)).toEqual(['b', 'a', 'c']);
  expect(moved(['a', 'b', 'c'], 2, 0)).toEqual(['c', 'a', 'b']);
  expect(moved(['a', 'b'], 0, -1)).toEqual(['a', 'b']);
  expect(moved(['a', 'b'], 1, 2)).toEqual(['a', 'b']);
});

test('a list leaves with its slots and its pairs', () => {
  const recipe: Recipe = {
    ...emptyRecipe('r'),
    lists: [1, 2].map((id) => ({ id, kind: 'own', name: `L${id}`, text: '', takes: [] })),
    patterns: [
      {
        id: 1,
        flip: true,
        slots: [
          { kind: 'list', list: 1, optional: false },
          word('in'),
          { kind: 'list', list: 2, optional: true },
        ],
      },
    ],
    never: [
      [
        { kind: 'word', text: 'in' },
        { kind: 'list', list: 2 },
      ],
      [
        { kind: 'word', text: 'in' },
        { kind: 'list', list: 1 },
      ],
    ],
  };
  const left = withoutList(recipe, 2);
  expect(left.lists.map(({ id }) => id)).toEqual([1]);
  expect(read(left.patterns)).toEqual(['1 in']);
  expect(left.never).toEqual([recipe.never[1]]);
});

test('a name that is free', () => {
  expect(freeName('Places', [])).toBe('Places');
  expect(freeName('Places', ['places', 'Places 2'])).toBe('Places 3');
});

describe('pairs that are never together, as they are typed', () => {
  const lists = [
    { id: 1, name: 'Places' },
    { id: 2, name: 'Big goods' },
  ];
  test('words, runs and lists by their name; what is written reads back', () => {
    const typed = 'in + near me\n\n@places + Bay\n@Big goods + @Places';
    const pairs = readPairs(typed, lists);
    expect(pairs).toEqual({
      value: [
        [
          { kind: 'word', text: 'in' },
          { kind: 'word', text: 'near me' },
        ],
        [
          { kind: 'list', list: 1 },
          { kind: 'word', text: 'bay' },
        ],
        [
          { kind: 'list', list: 2 },
          { kind: 'list', list: 1 },
        ],
      ],
    });
    const written = writePairs('value' in pairs ? pairs.value : [], lists);
    expect(written).toBe('in + near me\n@Places + bay\n@Big goods + @Places');
    expect(readPairs(written, lists)).toEqual(pairs);
  });

  test.each([
    ['in', 'Line 1: write a pair with + between, like in + near me.'],
    ['a + b + c', 'Line 1: write a pair with + between, like in + near me.'],
    ['in + near\nin + ', 'Line 2: a word is missing beside the +.'],
    ['@Towns + in', 'Line 1: this recipe has no list called “Towns”.'],
    ['in + sea!', 'Line 1: “sea!” can’t stand in a keyword.'],
  ])('%j says what is wrong', (typed, words) => {
    expect(readPairs(typed, lists)).toEqual({ words });
  });
});

describe('what makes no keyword by itself', () => {
  const lists = [
    { id: 1, name: 'Things' },
    { id: 2, name: 'Traits but dear' },
  ];

  test('is read as it is written', () => {
    const typed = 'Near Me\n\n@things but Rack, tow bar\n@Traits but dear';
    const read = readAlone(typed, lists);
    expect(read).toEqual({
      value: [
        { side: { kind: 'word', text: 'near me' }, but: [] },
        { side: { kind: 'list', list: 1 }, but: ['rack', 'tow bar'] },
        { side: { kind: 'list', list: 2 }, but: [] },
      ],
    });
    const written = writeAlone('value' in read ? read.value : [], lists);
    expect(written).toBe('near me\n@Things but rack, tow bar\n@Traits but dear');
    expect(readAlone(written, lists)).toEqual(read);
  });

  test.each([
    ['@Nowhere', 'Line 1: this recipe has no list called “Nowhere”.'],
    ['near me\n@Things but a|b', 'Line 2: “a|b” can’t stand in a keyword.'],
  ])('%j is refused in words', (typed, words) => expect(readAlone(typed, lists)).toEqual({ words }));

  test('goes with its list', () => {
    const recipe: Recipe = {
      ...emptyRecipe('r'),
      alone: [
        { side: { kind: 'list', list: 1 }, but: [] },
        { side: { kind: 'word', text: 'near me' }, but: [] },
      ],
    };
    expect(withoutList(recipe, 1).alone).toEqual([{ side: { kind: 'word', text: 'near me' }, but: [] }]);
  });
});
