import { emptyRecipe, type Recipe } from '@sprig/core/mix';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Mixing, type MixQuestion } from './mixing.ts';
import { PoolStore } from './pool-store.ts';

const recipe: Recipe = {
  ...emptyRecipe('Hire'),
  lists: [
    { id: 1, kind: 'own', name: 'Things', text: 'kayak\ncanoe\nraft', takes: [] },
    { id: 2, kind: 'brief', fact: 'places' },
  ],
  patterns: [
    {
      id: 1,
      slots: [
        { kind: 'list', list: 1, optional: false },
        { kind: 'word', text: 'hire' },
        { kind: 'list', list: 2, optional: true },
      ],
      flip: false,
    },
  ],
};
const question: MixQuestion = {
  recipe,
  source: 7,
  shared: [],
  places: [['Wrenport'], ['Heronsea']],
  brands: [],
  offers: [],
  language: 'en',
  functionWords: null,
  cuts: [],
  limits: { words: 10, length: 80 },
};

const storeOf = (rows: [string, number[]][]): PoolStore => {
  const store = new PoolStore();
  const count = rows.length;
  const texts = rows.map(([text]) => text);
  store.take({
    revision: 1,
    delta: false,
    ids: Uint32Array.from({ length: count }, (_, at) => at + 1),
    cpc: new Float64Array(count),
    searches: new Int32Array(count),
    figuresFrom: new Uint32Array(count),
    foldedInto: new Uint32Array(count),
    blockedBy: new Int32Array(count),
    competition: new Int8Array(count),
    asked: new Uint8Array(count),
    flags: new Uint8Array(count),
    texts,
    norms: texts,
    sources: rows.map(([, sources]) => sources),
    removed: [],
  });
  return store;
};

const pool = storeOf([
  ['kayak hire', [1]],
  ['canoe hire', [1, 7]],
  ['raft hire', [7]],
]);

/** Answers as a market: ten searches for each letter, but none for a raft. */
const told = (texts: string[]) => ({
  searches: texts.map((text) => (text.startsWith('raft') ? 0 : text.length * 10)),
  cpc: texts.map(() => 500_000),
  cost: texts.map(() => 1_000_000),
});
function tellAll(mixing: Mixing) {
  for (let texts = mixing.wanting(); texts.length > 0; texts = mixing.wanting())
    mixing.tell(texts, told(texts));
}

describe('what a recipe makes against the pool', () => {
  test('new is what no other source brings; cut ones count for neither', () => {
    const mixing = new Mixing(pool);
    expect(mixing.mix(question)).toMatchObject({
      combinations: '9',
      made: 9,
      cut: 0,
      fresh: 7,
      elsewhere: 2,
    });
    expect(mixing.mix({ ...question, source: null })).toMatchObject({ fresh: 6, elsewhere: 3 });
    expect(mixing.mix({ ...question, cuts: ['kayak hire', 'raft hire wrenport', 'not made'] })).toMatchObject(
      {
        made: 9,
        cut: 2,
        fresh: 6,
        elsewhere: 1,
      },
    );
  });

  test('what drops is told with its reason and its texts', () => {
    const lists = [
      { id: 1, kind: 'own' as const, name: 'Things', text: 'kayak\nhire\nsea!', takes: [] },
      recipe.lists[1] as Recipe['lists'][number],
    ];
    const summary = new Mixing(pool).mix({ ...question, recipe: { ...recipe, lists } });
    expect(summary.dropped['repeated-word']).toEqual({
      count: 3,
      sample: ['hire hire wrenport', 'hire hire heronsea', 'hire hire'],
    });
    expect(summary.lists[0]?.problems).toMatchObject([{ line: 3, at: 4, character: '!' }]);
  });

  test('over the cap there is nothing, and the list to shorten is named', () => {
    const text = Array.from({ length: 1_500 }, (_, at) => `w${at}`).join('\n');
    const lists = [1, 2].map((id) => ({ id, kind: 'own' as const, name: `L${id}`, text, takes: [] }));
    const summary = new Mixing(pool).mix({ ...question, recipe: { ...recipe, lists } });
    expect(summary).toMatchObject({ combinations: '2251500', made: 0 });
    expect(summary.problems).toMatchObject([{ code: 'over-cap', list: 1, from: 1_500, to: 1_332 }]);
  });
});

describe('what the market says of it', () => {
  test('sums grow as it tells, of what is not cut; what it told is known after an edit', () => {
    const mixing = new Mixing(pool);
    mixing.mix({ ...question, cuts: ['kayak hire'] });
    expect(mixing.figures()).toMatchObject({ asked: 0, of: 8, searches: 0, cpc: null });
    tellAll(mixing);
    const figures = mixing.figures();
    expect(figures).toMatchObject({
      asked: 8,
      of: 8,
      searched: 5,
      cost: 8_000_000,
      cpc: 500_000,
      isSample: false,
    });
    const texts = [
      'kayak hire wrenport',
      'kayak hire heronsea',
      'canoe hire',
      'canoe hire wrenport',
      'canoe hire heronsea',
    ];
    expect(figures.searches).toBe(texts.reduce((sum, text) => sum + text.length * 10, 0));
    mixing.mix({
      ...question,
      recipe: { ...recipe, patterns: recipe.patterns.map((one) => ({ ...one, flip: true })) },
    });
    expect(mixing.wanting()).not.toContain('canoe hire wrenport');
  });

  test('a list whose entries bring next to nothing is named', () => {
    const lists = [
      { id: 1, kind: 'own' as const, name: 'Things', text: 'kayak\nraft\nrafts\nraft boat', takes: [] },
      recipe.lists[1] as Recipe['lists'][number],
    ];
    const mixing = new Mixing(pool);
    mixing.mix({ ...question, recipe: { ...recipe, lists } });
    tellAll(mixing);
    expect(mixing.figures().idle).toEqual([
      { list: 1, entries: 4, idle: 3, sample: ['raft', 'rafts', 'raft boat'] },
    ]);
  });

  test('of very many a sample stands for all', () => {
    const text = Array.from({ length: 400 }, (_, at) => `w${at}`).join('\n');
    const lists = [1, 2].map((id) => ({ id, kind: 'own' as const, name: `L${id}`, text, takes: [] }));
    const patterns = [
      { id: 1, flip: false, slots: [1, 2].map((list) => ({ kind: 'list' as const, list, optional: false })) },
    ];
    const mixing = new Mixing(pool);
    const { made } = mixing.mix({ ...question, recipe: { ...recipe, lists, patterns } });
    expect(made).toBe(400 * 399);
    let asked = 0;
    for (let texts = mixing.wanting(); texts.length > 0; texts = mixing.wanting()) {
      asked += texts.length;
      mixing.tell(texts, { searches: texts.map(() => 5), cpc: texts.map(() => 1), cost: texts.map(() => 2) });
    }
    expect(asked).toBe(20_000);
    expect(mixing.figures()).toMatchObject({
      isSample: true,
      searches: 5 * made,
      searched: made,
      cost: 2 * made,
    });
  });
});

test('cuts survive whatever the recipe becomes in between', () => {
  const someWords = fc.array(fc.constantFrom('kayak', 'kayaks', 'canoe', 'raft', 'sea kayak', 'sup'), {
    minLength: 1,
    maxLength: 5,
  });
  const withWords = (words: string[], flip: boolean): Recipe => ({
    ...recipe,
    lists: [
      { id: 1, kind: 'own', name: 'Things', text: words.join('\n'), takes: [] },
      recipe.lists[1] as Recipe['lists'][number],
    ],
    patterns: recipe.patterns.map((one) => ({ ...one, flip })),
  });
  fc.assert(
    fc.property(someWords, someWords, fc.boolean(), fc.array(fc.nat(40)), (before, after, flip, places) => {
      const mixing = new Mixing(pool);
      const texts = () =>
        mixing.page([...mixing.list({ text: '', state: 'all', sort: 'made', down: false })]);
      const cutTexts = () => texts().flatMap(({ text, isCut }) => (isCut ? [text] : []));
      mixing.mix({ ...question, recipe: withWords(before, false) });
      const made = texts().map(({ text }) => text);
      const cuts = [...new Set(places.map((place) => made[place % made.length] as string))];
      mixing.mix({ ...question, recipe: withWords(after, flip), cuts });
      const still = texts().map(({ text }) => text);
      expect(cutTexts()).toEqual(still.filter((text) => cuts.includes(text)));
      const back = mixing.mix({ ...question, recipe: withWords(before, false), cuts });
      expect(cutTexts().sort()).toEqual(cuts.toSorted());
      expect(back.cut).toBe(cuts.length);
    }),
    { numRuns: 200, seed: 9 },
  );
});

describe('cutting', () => {
  test('by cell, row and column of the matrix, and by a threshold', () => {
    const mixing = new Mixing(pool);
    mixing.mix({ ...question, cuts: ['canoe hire wrenport'] });
    tellAll(mixing);
    const view = { rows: 1, columns: 2, rest: [] };
    expect(mixing.matrix(view)).toMatchObject({
      rowNames: ['kayak', 'canoe', 'raft'],
      columnNames: ['wrenport', 'heronsea', null],
    });
    expect(mixing.inMatrix(view, 1, 0, false)).toEqual([]);
    expect(mixing.inMatrix(view, 1, 0, true)).toEqual(['canoe hire wrenport']);
    expect(mixing.inMatrix(view, 0, null, false)).toEqual([
      'kayak hire wrenport',
      'kayak hire heronsea',
      'kayak hire',
    ]);
    expect(mixing.inMatrix(view, null, 2, false)).toEqual(['kayak hire', 'canoe hire', 'raft hire']);
    expect(mixing.under(101)).toEqual({
      texts: ['kayak hire', 'canoe hire', 'raft hire wrenport', 'raft hire heronsea', 'raft hire'],
      searches: 200,
    });
  });

  test('the flat list: states, words, orders; a place that is gone is left out', () => {
    const mixing = new Mixing(pool);
    mixing.mix({ ...question, cuts: ['kayak hire'] });
    tellAll(mixing);
    const list = (more: object) =>
      mixing
        .page([...mixing.list({ text: '', state: 'all', sort: 'made', down: false, ...more })])
        .map(({ text }) => text);
    expect(list({})).toHaveLength(9);
    expect(list({ state: 'cut' })).toEqual(['kayak hire']);
    expect(list({ state: 'elsewhere' })).toEqual(['canoe hire']);
    expect(list({ state: 'fresh', text: 'RAFT w' })).toEqual(['raft hire wrenport']);
    expect(list({ sort: 'searches', down: true }).slice(0, 2)).toEqual([
      'kayak hire wrenport',
      'kayak hire heronsea',
    ]);
    expect(list({ sort: 'text' })[0]).toBe('canoe hire');
    expect(mixing.page([3, 99])).toEqual([
      {
        at: 3,
        text: 'canoe hire wrenport',
        pattern: 1,
        isCut: false,
        elsewhere: false,
        searches: 190,
        cpc: 500_000,
      },
    ]);
  });
});
