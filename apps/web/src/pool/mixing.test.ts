import { bareColumns } from '@sprig/contracts';
import { CurveMaker, type Rounded, usualAssumptions } from '@sprig/core/figures';
import { emptyRecipe, type Recipe } from '@sprig/core/mix';
import { asMicros } from '@sprig/core/money';
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
  assumptions: usualAssumptions,
};

/** Ten searches for each letter, but none for a raft, and nothing known of a ghost. */
const estimator = {
  into(text: string, out: Rounded) {
    const isKnown = !text.startsWith('ghost');
    const searches = text.startsWith('raft') ? 0 : text.length * 10;
    out.searches = out.meanSearches = isKnown ? searches : -1;
    out.cpc = isKnown ? 500_000 : -1;
    out.competition = -1;
  },
};

const storeOf = (rows: [string, number[]][]): PoolStore => {
  const store = new PoolStore();
  const texts = rows.map(([text]) => text);
  store.take({
    ...bareColumns(texts),
    revision: 1,
    sources: rows.map(([, sources]) => sources),
  });
  store.estimateBy(estimator, false);
  expect(store.fillEstimates(1_000)).toBe(false);
  return store;
};

const pool = storeOf([
  ['kayak hire', [1]],
  ['canoe hire', [1, 7]],
  ['raft hire', [7]],
]);

function lookAtAll(mixing: Mixing) {
  for (let figures = mixing.figures(); figures.asked < figures.of; figures = mixing.figures())
    mixing.lookAtNext(3);
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

describe('what is known of it', () => {
  test('sums grow as it is looked at, of what is not cut', () => {
    const mixing = new Mixing(pool);
    mixing.mix({ ...question, cuts: ['kayak hire'] });
    expect(mixing.figures()).toMatchObject({ asked: 0, of: 8, searches: 0, cpc: null });
    lookAtAll(mixing);
    const figures = mixing.figures();
    expect(figures).toMatchObject({
      asked: 8,
      of: 8,
      searched: 5,
      known: 8,
      estimated: 8,
      cpc: 500_000,
      isSample: false,
    });
    expect(figures.estimatedSearches).toBe(figures.searches);
    const texts = [
      'kayak hire wrenport',
      'kayak hire heronsea',
      'canoe hire',
      'canoe hire wrenport',
      'canoe hire heronsea',
    ];
    expect(figures.searches).toBe(texts.reduce((sum, text) => sum + text.length * 10, 0));
    const month = { clicks: 0, cost: 0, impressions: 0 };
    const curves = new CurveMaker(usualAssumptions);
    for (const { length } of texts)
      curves.add({ searches: length * 10, cpc: 500_000, competition: null }, asMicros(500_000), month);
    expect(figures.cost).toBe(month.cost);
  });

  test('what is not known is no figure: it is in no sum, under no threshold, and no list is idle for it', () => {
    const mixing = new Mixing(pool);
    const lists = [
      { id: 1, kind: 'own' as const, name: 'Things', text: 'kayak\nghost\nghostly\nghost boat', takes: [] },
      recipe.lists[1] as Recipe['lists'][number],
    ];
    mixing.mix({ ...question, recipe: { ...recipe, lists } });
    lookAtAll(mixing);
    expect(mixing.figures()).toMatchObject({ asked: 12, known: 3, searched: 3, idle: [] });
    expect(mixing.under(1_000_000, true).texts).toHaveLength(3);
    expect([...mixing.matrix({ rows: 1, columns: 2, rest: [] }).unknown]).toEqual([
      0, 0, 0, 1, 1, 1, 1, 1, 1, 1, 1, 1,
    ]);
    expect(mixing.page([5])).toMatchObject([{ searches: null, cpc: null, from: null }]);
  });

  test('what the pool is told of a combination goes before an estimate, and decides alone', () => {
    const store = new PoolStore();
    store.take({
      ...bareColumns(['kayak hire', 'canoe hire']),
      searches: Int32Array.of(3, -1),
      madeSearches: Int32Array.of(-1, 7),
    });
    store.estimateBy(null, true);
    store.fillEstimates(100);
    const mixing = new Mixing(store);
    mixing.mix(question);
    lookAtAll(mixing);
    expect(mixing.figures()).toMatchObject({ known: 2, estimated: 1, searches: 10, madeUpSearches: 7 });
    expect(mixing.under(50, false)).toEqual({ texts: ['kayak hire'], searches: 3, more: 1 });
    expect(mixing.under(50, true)).toEqual({ texts: ['kayak hire', 'canoe hire'], searches: 10, more: 1 });
  });

  test('a list whose entries bring next to nothing is named', () => {
    const lists = [
      { id: 1, kind: 'own' as const, name: 'Things', text: 'kayak\nraft\nrafts\nraft boat', takes: [] },
      recipe.lists[1] as Recipe['lists'][number],
    ];
    const mixing = new Mixing(pool);
    mixing.mix({ ...question, recipe: { ...recipe, lists } });
    lookAtAll(mixing);
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
    while (mixing.figures().asked < mixing.figures().of) mixing.lookAtNext(7_000);
    const figures = mixing.figures();
    expect(figures).toMatchObject({ isSample: true, asked: 20_000, searched: made, known: made });
    expect(figures.searches / made).toBeGreaterThan(60);
    expect(figures.searches / made).toBeLessThan(90);
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
    lookAtAll(mixing);
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
    expect(mixing.under(101, false)).toEqual({ texts: [], searches: 0, more: 5 });
    expect(mixing.under(101, true)).toEqual({
      more: 5,
      texts: ['kayak hire', 'canoe hire', 'raft hire wrenport', 'raft hire heronsea', 'raft hire'],
      searches: 200,
    });
  });

  test('the flat list: states, words, orders; a place that is gone is left out', () => {
    const mixing = new Mixing(pool);
    mixing.mix({ ...question, cuts: ['kayak hire'] });
    lookAtAll(mixing);
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
        from: 'estimated',
      },
    ]);
  });
});
