import { bareColumns, CUT, type PoolColumns, packPool, unpackPool } from '@sprig/contracts';
import { filterWords } from '@sprig/core/gather';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { merged, type PoolQuery, PoolStore, wholePool } from './pool-store.ts';

const codec = {
  encode: (text: string) => new TextEncoder().encode(text),
  decode: (bytes: Uint8Array) => new TextDecoder().decode(bytes),
};

const columns = (
  rows: { id: number; text: string; searches?: number; cut?: boolean; sources?: number[] }[],
): PoolColumns => ({
  ...bareColumns(rows.map(({ text }) => text)),
  revision: 3,
  ids: Uint32Array.from(rows, ({ id }) => id),
  cpc: Float64Array.from(rows, ({ id }) => id * 10_000),
  searches: Int32Array.from(rows, ({ searches }) => searches ?? -1),
  flags: Uint8Array.from(rows, ({ cut }) => (cut ? CUT : 0)),
  texts: rows.map(({ text }) => text),
  norms: rows.map(({ text }) => text.toLowerCase()),
  sources: rows.map(({ sources }) => sources ?? [1]),
});
const pool = [
  { id: 2, text: 'Sea Kayak', searches: 90 },
  { id: 5, text: 'canoe', searches: 0 },
  { id: 7, text: 'kayak hire', cut: true, searches: 500 },
  { id: 9, text: 'sup \u{1f6f6}', sources: [1, 4] },
];
const all: PoolQuery = { ...wholePool, sort: 'made', down: false, state: 'all' };
const storeOf = () => {
  const store = new PoolStore();
  store.take(columns(pool));
  return store;
};
const ids = (query: Partial<PoolQuery>) => [...storeOf().order({ ...all, ...query }).ids];

test('packing and unpacking gives the same columns, whatever the alignment', () => {
  const packed = packPool(columns(pool), codec);
  const shifted = new Uint8Array(packed.length + 3);
  shifted.set(packed, 3);
  expect(unpackPool(packed, codec)).toEqual(columns(pool));
  expect(unpackPool(shifted.subarray(3), codec)).toEqual(columns(pool));
  expect(unpackPool(packPool(columns([]), codec), codec)).toEqual(columns([]));
});

test('filters and orders', () => {
  expect(ids({ filter: 'kayak -hire' })).toEqual([2]);
  expect(ids({ state: 'in' })).toEqual([2, 5, 9]);
  expect(ids({ state: 'cut' })).toEqual([7]);
  expect(ids({ source: 4 })).toEqual([9]);
  expect(ids({ from: 0, to: 99 })).toEqual([2, 5]);
  expect(ids({ sort: 'text' })).toEqual([5, 7, 2, 9]);
  expect(ids({ sort: 'searches', down: true })).toEqual([7, 2, 5, 9]);
  expect(ids({ sort: 'searches' })).toEqual([5, 2, 7, 9]);
  expect(ids({ sort: 'made', down: true })).toEqual([9, 7, 5, 2]);
  expect(storeOf().order(all).searches).toBe(590);
});

test('the histogram counts every keyword once', () => {
  const { bars, most } = storeOf().order(all).histogram;
  expect(bars.reduce((sum, { count }) => sum + count, 0)).toBe(4);
  expect(bars[0]).toMatchObject({ from: null, count: 1 });
  expect(bars.find(({ from }) => from === 50)).toMatchObject({ to: 99, count: 1, searches: 90 });
  expect(most).toBe(1);
});

test('the histogram stays whole under the brush, and a query may ask for a range of any figure', () => {
  const { ids: brushed, histogram } = storeOf().order({ ...all, from: 50, to: 99 });
  expect([...brushed]).toEqual([2]);
  expect(histogram.bars.reduce((sum, { count }) => sum + count, 0)).toBe(4);
  expect(ids({ cpcFrom: 50_000, cpcTo: 70_000 })).toEqual([5, 7]);
  expect(ids({ competitionFrom: 0 })).toEqual([]);
});

test('as one types, a store answers what a fresh one would', () => {
  const letters = fc.constantFrom('k', 'a', 'y', ' ', '-', 's', 'e', 'n', 'o');
  fc.assert(
    fc.property(fc.array(letters, { maxLength: 8 }), fc.boolean(), (typed, down) => {
      const store = storeOf();
      for (let at = 0; at <= typed.length; at++) {
        const query = { ...all, filter: typed.slice(0, at).join(''), sort: 'searches' as const, down };
        expect([...store.order(query).ids]).toEqual([...storeOf().order(query).ids]);
      }
    }),
  );
});

test('whatever is typed after whatever, the keywords are those that a plain look through each would leave', () => {
  const word = fc.constantFrom('ab', 'b', 'abc', 'a b', 'cab', '\u00e9b', '\u{1f6f6}');
  const texts = fc.uniqueArray(
    fc.array(word, { minLength: 1, maxLength: 4 }).map((words) => words.join(' ')),
  );
  const typed = fc.array(fc.constantFrom('a', 'b', 'ab', '-c', 'cab -b', '-', ' b a', '\u{1f6f6}', 'bb'));
  fc.assert(
    fc.property(texts, typed, (list, filters) => {
      const store = new PoolStore();
      store.take(columns(list.map((text, at) => ({ id: at + 1, text }))));
      for (const filter of filters) {
        const { wanted, unwanted } = filterWords(filter);
        const plain = list.flatMap((text, at) =>
          wanted.every((one) => text.includes(one)) && !unwanted.some((one) => text.includes(one))
            ? [at + 1]
            : [],
        );
        expect([...store.order({ ...all, filter }).ids]).toEqual(plain);
      }
    }),
  );
});

test('states: cut before folded before blocked; and what each source brings', () => {
  const many = {
    ...columns(pool),
    foldedInto: Uint32Array.of(0, 2, 2, 0),
    blockedBy: Int32Array.of(0, 4, 0, -7),
  };
  const store = new PoolStore();
  store.take(many);
  expect([0, 1, 2, 3].map((row) => store.stateOf(row))).toEqual(['in', 'folded', 'cut', 'blocked']);
  expect(store.counts()).toEqual({ in: 1, cut: 1, folded: 1, blocked: 1 });
  expect(store.page([5])[0]).toMatchObject({ state: 'folded', foldedInto: 'Sea Kayak', blockedBy: 4 });
  expect(store.sourceTotals().get(1)).toEqual({ keywords: 4, searches: 590, onlyHere: 3, onlySearches: 590 });
  expect(store.sourceTotals().get(4)).toEqual({ keywords: 1, searches: 0, onlyHere: 0, onlySearches: 0 });
});

test('sets of sources that bring the same keywords', () => {
  expect(storeOf().sourceSets()).toEqual([
    { sources: [1], keywords: 3, searches: 590 },
    { sources: [1, 4], keywords: 1, searches: 0 },
  ]);
});

test('a delta adds, changes and removes, and keeps the order of ids', () => {
  const delta = {
    ...columns([
      { id: 5, text: 'canoes', searches: 7 },
      { id: 8, text: 'raft' },
    ]),
    delta: true,
    revision: 4,
    removed: [9],
  };
  const now = merged(columns(pool), delta);
  expect([...now.ids]).toEqual([2, 5, 7, 8]);
  expect(now.texts).toEqual(['Sea Kayak', 'canoes', 'kayak hire', 'raft']);
  expect(now.revision).toBe(4);
  const store = storeOf();
  store.take(delta);
  expect(store.page([8, 9, 5]).map(({ text, searches }) => [text, searches])).toEqual([
    ['raft', null],
    ['canoes', 7],
  ]);
});

test('filter words', () => {
  expect(filterWords('  Red -Kayak - x')).toEqual({ wanted: ['red', 'x'], unwanted: ['kayak'] });
});

test('columns that were kept as they are: shown, and ordered by their numbers, those without last', () => {
  const store = storeOf();
  store.takeKeptColumn('CTR', [2, 5, 9], ['4.2%', '1,100 %', '12%']);
  const order = (down: boolean) => [...store.order({ ...all, sort: 'kept:CTR', down }).ids];
  expect([order(true), order(false)]).toEqual([
    [5, 9, 2, 7],
    [2, 9, 5, 7],
  ]);
  expect(store.page([5, 7]).map(({ kept }) => kept)).toEqual([{ CTR: '1,100 %' }, {}]);
  store.takeKeptColumn('Note', [2, 7], ['zebra', 'ant']);
  expect([...store.order({ ...all, sort: 'kept:Note', down: false }).ids]).toEqual([7, 2, 5, 9]);
});

test('columns that were kept as they are: sifted by numbers in whichever notation, or by words', () => {
  const store = storeOf();
  store.takeKeptColumn('CTR', [2, 5, 9], ['4,2 %', '1.100,5 %', '-3,5 %']);
  store.takeKeptColumn('Note', [2, 7, 9], ['Call back soon', 'call', 'late']);
  expect([store.keptKind('CTR'), store.keptKind('Note')]).toEqual(['numbers', 'words']);
  const left = (...kept: [string, number | null, number | null, string][]) => [
    ...store.order({
      ...all,
      sort: 'made',
      down: false,
      kept: kept.map(([heading, from, to, words]) => ({ heading, from, to, words })),
    }).ids,
  ];
  expect(left(['CTR', 4.2, null, ''])).toEqual([2, 5]);
  expect(left(['CTR', null, 4.1, ''])).toEqual([9]);
  expect(left(['Note', null, null, 'call'])).toEqual([2, 7]);
  expect(left(['Note', null, null, 'call -soon'])).toEqual([7]);
  expect(left(['CTR', 0, null, ''], ['Note', null, null, 'call'])).toEqual([2]);
  expect(left(['Gone', 0, null, ''])).toEqual([]);
});

test('what stands for a keyword: told, else taken, estimated, made up where the brief says so; sums say of what', () => {
  const store = new PoolStore();
  store.take({
    ...bareColumns(['told', 'hand', 'estimated', 'made', 'nothing']),
    searches: Int32Array.of(10, 20, -1, -1, -1),
    hand: Uint8Array.of(0, 1, 0, 0, 0),
    madeSearches: Int32Array.of(900, 900, 900, 40, -1),
    takenCpc: Float64Array.of(-1, -1, 70, -1, -1),
  });
  const estimator = {
    into(text: string, out: { searches: number; meanSearches: number; cpc: number; competition: number }) {
      const isKnown = text === 'estimated';
      Object.assign(out, {
        searches: isKnown ? 30 : -1,
        meanSearches: isKnown ? 36 : -1,
        cpc: 55,
        competition: -1,
      });
    },
  };
  store.estimateBy(estimator, true);
  // Until all are gone over nothing shows.
  expect(store.fillEstimates(1)).toBe(true);
  expect(store.order(all).searches).toBe(30);
  expect(store.fillEstimates(100)).toBe(false);
  expect(store.page([1, 2, 3, 4, 5]).map(({ searches, from }) => [searches, from.searches])).toEqual([
    [10, 'told'],
    [20, 'hand'],
    [30, 'estimated'],
    [40, 'made-up'],
    [null, null],
  ]);
  expect(store.page([3])[0]).toMatchObject({ cpc: 70, from: { cpc: 'taken' } });
  expect(store.order(all)).toMatchObject({ searches: 106, estimated: 36, madeUp: 40 });
  const of = (origin: PoolQuery['origin']) => [...store.order({ ...all, origin }).ids];
  expect([of('told'), of('estimated'), of('made-up'), of('none')]).toEqual([[1, 2], [3], [4], [5]]);
  // A keyword that changes keeps its estimate; one that is renamed is estimated anew.
  store.take({ ...bareColumns(['estimated', 'else'], 2), ids: Uint32Array.of(3, 4), delta: true });
  expect(store.fillEstimates(100)).toBe(false);
  expect(store.page([3, 4]).map(({ searches }) => searches)).toEqual([30, null]);
  store.estimateBy(estimator, false);
  store.fillEstimates(100);
  expect(store.page([4])[0]?.searches).toBeNull();
});
