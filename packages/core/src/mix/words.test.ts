import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  circleFrom,
  emptyRecipe,
  readPastedColumns,
  readWords,
  resolveLists,
  type SharedWords,
  shapes,
  WordsReader,
  withShape,
} from './index.ts';

const forms = (text: string, firstFormOnly = false) =>
  readWords(text, firstFormOnly).forms.map((form) => form.text);

describe('a list', () => {
  test.each([
    ['one to a line', 'Kayak\n canoe \n\nsup', ['kayak', 'canoe', 'sup']],
    ['forms on one line', 'kayak|kayaks\ncanoe | Canoes', ['kayak', 'kayaks', 'canoe', 'canoes']],
    ['each form once', 'kayak|kayaks\nkayaks|yak|yak', ['kayak', 'kayaks', 'yak']],
    ['lone separators say nothing', '|kayak||\n|', ['kayak']],
    ['line ends of any kind', 'kayak\r\ncanoe\rsup', ['kayak', 'canoe', 'sup']],
    ['runs of words, with marks made plain', 'Sit – on – top\nkids’  kayak', ["kids' kayak"]],
  ])('%s', (_, text, expected) => {
    expect(forms(text)).toEqual(expected);
  });

  test('first form only: the others are left aside before repeats are looked for', () => {
    expect(forms('kayak|kayaks\nkayaks|yak', true)).toEqual(['kayak', 'kayaks']);
    expect(readWords('kayak|kayaks\nkayaks|yak').entries).toEqual(['kayak', 'yak']);
  });

  test('notation says nothing here and is left out; what is no keyword is told with its place', () => {
    const read = readWords('[kayak]\n+red +canoe|"sup"\nboat, sea\n-free\n[open|paddle');
    expect(read.forms.map(({ text }) => text)).toEqual(['kayak', 'red canoe', 'sup', 'paddle']);
    expect(read.marked).toBe(2);
    expect(read.problems).toEqual([
      { line: 3, at: 5, code: 'not-allowed', character: ',', raw: 'boat, sea' },
      { line: 4, at: 1, code: 'negative', raw: '-free' },
      { line: 5, at: 1, code: 'unbalanced-bracket', raw: '[open' },
    ]);
  });

  test('the place of a problem counts from the start of its line', () => {
    expect(readWords('kayak|sea!').problems).toEqual([
      { line: 1, at: 10, code: 'not-allowed', character: '!', raw: 'sea!' },
    ]);
  });
});

describe('counting as one types', () => {
  const lines = fc.array(
    fc.constantFrom('kayak', 'kayak|kayaks', 'canoe', '', 'sea!', '[sup]', 'sup|canoe'),
    { maxLength: 12 },
  );
  const edit = fc.record({
    at: fc.nat(60),
    remove: fc.nat(20),
    put: fc.constantFrom('', 'k', '\n', 'kayak', '|', 'canoe\nsup', '\r\n'),
  });

  test('only what differs is read again, and the counts are those of the whole', () => {
    fc.assert(
      fc.property(lines, fc.array(edit, { maxLength: 12 }), (start, edits) => {
        const reader = new WordsReader();
        let text = start.join('\n');
        for (const { at, remove, put } of [{ at: 0, remove: 0, put: '' }, ...edits]) {
          text = text.slice(0, at) + put + text.slice(at + remove);
          reader.take(text);
          const bad = new Set(readWords(text).problems.map(({ line }) => line)).size;
          expect([text, reader.size(false), reader.size(true), reader.problems]).toEqual([
            text,
            readWords(text).forms.length,
            readWords(text, true).forms.length,
            bad,
          ]);
        }
      }),
      { numRuns: 500, seed: 8 },
    );
  });

  test('long texts that share most of both ends', () => {
    const many = Array.from({ length: 5_000 }, (_, at) => `word ${at}`);
    const reader = new WordsReader().take(many.join('\n'));
    expect(reader.size(false)).toBe(5_000);
    many[2_500] = 'word 7';
    expect(reader.take(many.join('\n')).size(false)).toBe(4_999);
    many.splice(100, 50);
    expect(reader.take(many.join('\n')).size(false)).toBe(4_949);
  });
});

describe('lists that take in shared lists', () => {
  const shared = new Map<number, SharedWords>([
    [1, { id: 1, name: 'Towns', text: 'wrenport', takes: [2] }],
    [2, { id: 2, name: 'Coast', text: 'heronsea', takes: [] }],
    [3, { id: 3, name: 'East', text: 'pellanby', takes: [4] }],
    [4, { id: 4, name: 'West', text: 'marrowquay', takes: [3] }],
  ]);
  const inputs = {
    shared,
    places: [['Wrenport', 'wren port'], ['Heronsea']],
    brands: ['Otterline'],
    offers: ['Free delivery'],
  };
  const resolved = (list: Parameters<typeof resolveLists>[0][number]) => resolveLists([list], inputs)[0];

  test('their lines come after its own, each list once', () => {
    const list = resolved({ id: 1, kind: 'own', name: 'Here', text: 'ottermere', takes: [1, 2] });
    expect(list).toMatchObject({
      name: 'Here',
      text: 'ottermere\nwrenport\nheronsea',
      ownLines: 1,
      circle: null,
    });
    expect(resolved({ id: 1, kind: 'shared', list: 1 })).toMatchObject({
      name: 'Towns',
      text: 'wrenport\nheronsea',
    });
  });

  test('a circle is told by its names and brings nothing', () => {
    expect(resolved({ id: 1, kind: 'own', name: 'Here', text: 'ottermere', takes: [3] })?.circle).toEqual([
      'East',
      'West',
      'East',
    ]);
    expect(resolved({ id: 1, kind: 'shared', list: 4 })?.circle).toEqual(['West', 'East', 'West']);
    expect(circleFrom([2], shared, [1])).toBeNull();
    expect(circleFrom([1], shared, [1])).toEqual(['Towns', 'Towns']);
  });

  test('the brief’s places bring their aliases as forms', () => {
    expect(resolved({ id: 1, kind: 'brief', fact: 'places' })).toMatchObject({
      name: 'Places',
      text: 'Wrenport|wren port\nHeronsea',
    });
    expect(resolved({ id: 1, kind: 'brief', fact: 'offers' })?.text).toBe('Free delivery');
  });

  test('a shared list that is gone brings nothing', () => {
    expect(resolved({ id: 1, kind: 'shared', list: 99 })).toMatchObject({ text: '', circle: null });
  });
});

describe('columns pasted from a spreadsheet', () => {
  test('each is a list, its header the name', () => {
    expect(readPastedColumns('Goods\tTowns\nkayak\tWrenport\ncanoe\t\n\tHeronsea', true)).toEqual([
      { name: 'Goods', text: 'kayak\ncanoe', lines: 2 },
      { name: 'Towns', text: 'Wrenport\nHeronsea', lines: 2 },
    ]);
  });
  test('without headers, quoted cells, an empty column', () => {
    expect(readPastedColumns('kayak\t\t"sea\nkayak"\ncanoe\t\t"two ""person"""', false)).toEqual([
      { name: 'List 1', text: 'kayak\ncanoe', lines: 2 },
      { name: 'List 3', text: 'sea kayak\ntwo "person"', lines: 2 },
    ]);
  });
  test('one column of plain lines', () => {
    expect(readPastedColumns('Goods\nkayak\ncanoe', true)).toEqual([
      { name: 'Goods', text: 'kayak\ncanoe', lines: 2 },
    ]);
    expect(readPastedColumns('', true)).toEqual([]);
  });
});

describe('ready-made shapes', () => {
  test('bring the lists that are missing, and use those that are there', () => {
    const once = withShape(emptyRecipe('r'), 'want-thing-place', true);
    expect(once.lists.map((list) => (list.kind === 'own' ? list.name : list.kind))).toEqual([
      'Wants',
      'Things',
      'brief',
    ]);
    const twice = withShape(once, 'thing-in-place', true);
    expect(twice.lists).toEqual(once.lists);
    expect(twice.patterns[1]).toEqual({
      id: 2,
      slots: [
        { kind: 'list', list: 2, optional: false },
        { kind: 'word', text: 'in' },
        { kind: 'list', list: 3, optional: false },
      ],
      flip: false,
    });
  });
  test('without places in the brief the list is the recipe’s own', () => {
    const { lists } = withShape(emptyRecipe('r'), 'thing-in-place', false);
    expect(lists[1]).toMatchObject({ kind: 'own', name: 'Places', text: '' });
  });
  test('every shape has a pattern', () => {
    for (const { key, parts } of shapes)
      expect(withShape(emptyRecipe('r'), key, false).patterns[0]?.slots).toHaveLength(parts.length);
  });
});
