import { bareColumns, CUT, noFacts, type PoolColumns } from '@sprig/contracts';
import { lookAlikeClasses } from '@sprig/core/prune';
import { describe, expect, test } from 'vitest';
import { PoolStore } from './pool-store.ts';
import { type PruneInput, Pruning } from './pruning.ts';

type Given = { text: string; searches?: number; cut?: boolean; blockedBy?: number; apart?: boolean };

function storeOf(rows: Given[]): PoolStore {
  const columns: PoolColumns = {
    ...bareColumns(rows.map(({ text }) => text)),
    revision: 1,
    ids: Uint32Array.from(rows, (_, at) => at + 1),
    searches: Int32Array.from(rows, ({ searches }) => searches ?? -1),
    blockedBy: Int32Array.from(rows, ({ blockedBy }) => blockedBy ?? 0),
    flags: Uint8Array.from(rows, ({ cut, apart }) => (cut ? CUT : 0) | (apart ? 8 : 0)),
    texts: rows.map(({ text }) => text),
    norms: rows.map(({ text }) => text.toLowerCase()),
    sources: rows.map(() => [1]),
  };
  const store = new PoolStore();
  store.take(columns);
  return store;
}

const input: PruneInput = {
  language: 'en',
  facts: { ...noFacts(), rivals: ['Fathom & Reed'] },
  limits: { leastSearches: 10, length: 80, words: 10 },
};
const pruning = (rows: Given[]) => new Pruning(storeOf(rows), (word) => word === 'hire');

describe('look-alikes of the pool', () => {
  const rows: Given[] = [
    { text: 'hire kayak', searches: 50 },
    { text: 'Kayak Hire', searches: 900 },
    { text: 'kayaks hire', searches: 70, cut: true },
    { text: 'kayak for hire', searches: 60, apart: true },
    { text: 'canoe', searches: 5 },
  ];
  test('only those that are in and do not stand apart; what folding would do, by id', () => {
    const prune = pruning(rows);
    expect(prune.lookAlikes(input, lookAlikeClasses)).toMatchObject({ groups: 1, keywords: 1, apart: 1 });
    expect(prune.allFolds()).toEqual([{ keeper: 2, others: [1] }]);
    expect(prune.alikeGroups(0, 5)).toEqual([
      {
        keeper: { id: 2, text: 'Kayak Hire', searches: 900 },
        others: [{ id: 1, text: 'hire kayak', searches: 50, by: 'order' }],
        searches: 950,
      },
    ]);
    expect(prune.lookAlikes(input, ['number'])).toMatchObject({ groups: 0 });
  });
});

describe('word review of the pool', () => {
  const rows: Given[] = [
    { text: 'kayak hire', searches: 100 },
    { text: 'kayak jobs', searches: 40, blockedBy: 7 },
    { text: 'hire for a kayak', searches: 10 },
    { text: 'film', searches: 30 },
  ];
  test('judged words are not asked again, function words never; both sides have their weight', () => {
    const summary = pruning(rows).reviewSummary(
      input,
      { kind: 'words', order: 'searches' },
      ['kayak'],
      [{ id: 7, norm: 'jobs', type: 'broad' }],
    );
    expect(summary.undecided.map(({ text }) => text)).toEqual(['hire', 'film']);
    expect(summary).toMatchObject({ undecidedCount: 2, keptWeight: 110, blockedWeight: 40 });
    expect(summary.blocked).toEqual([{ text: 'jobs', keywords: 1, searches: 40 }]);
    // kayak 110, hire 110, film 30, for 10 and a 10: kayak and the function words are judged.
    expect(summary.share).toBeCloseTo(130 / 270);
  });

  test('pairs whose words are both judged say nothing new', () => {
    const pairs = { kind: 'pairs', order: 'searches' } as const;
    const { undecided } = pruning(rows).reviewSummary(input, pairs, ['kayak', 'hire'], []);
    expect(undecided).toEqual([]);
  });

  test('in most keywords first, whatever is searched', () => {
    const given = [...rows, { text: 'hire a film', searches: 1 }, { text: 'film hire', searches: 1 }];
    const first = (order: 'searches' | 'keywords') =>
      pruning(given)
        .reviewSummary(input, { kind: 'words', order }, [], [])
        .undecided.map(({ text, keywords }) => [text, keywords]);
    expect(first('searches')).toEqual([
      ['hire', 4],
      ['kayak', 2],
      ['film', 3],
    ]);
    expect(first('keywords')).toEqual([
      ['hire', 4],
      ['film', 3],
      ['kayak', 2],
    ]);
  });

  test('what a block takes out, and the keywords around a word', () => {
    const prune = pruning(rows);
    expect(prune.blockEffect('Hire', 'broad', [3])).toMatchObject({ keywords: 2, searches: 110, held: 1 });
    expect(prune.blockEffect('kayak hire', 'phrase', [])).toMatchObject({
      keywords: 1,
      searches: 100,
      held: 0,
    });
    expect(prune.context('kayak').sample.map(({ text }) => text)).toEqual(['kayak hire', 'hire for a kayak']);
  });
});

test('ready filters count what is in, and give the ids most searched first', () => {
  const prune = pruning([
    { text: 'kayak', searches: 3 },
    { text: 'canoe', searches: 8 },
    { text: 'raft', searches: 2, cut: true },
    { text: 'fathom & reed raft', searches: 90 },
  ]);
  const summary = prune.filters(input);
  expect(summary['low-volume']).toEqual({ keywords: 2, searches: 11 });
  expect(summary.rival).toEqual({ keywords: 1, searches: 90 });
  expect(prune.filterIds(input, 'low-volume')).toEqual([2, 1]);
  expect(prune.filterIds({ ...input, limits: { ...input.limits, leastSearches: 5 } }, 'low-volume')).toEqual([
    1,
  ]);
});

test('what each negative does: blocks count what they keep out, others what they stand against', () => {
  const prune = pruning([
    { text: 'kayak hire', searches: 100 },
    { text: 'kayak jobs', searches: 40, blockedBy: 7 },
    { text: 'free jobs', searches: 5, blockedBy: 7, cut: true },
  ]);
  const common = { text: '', source: null };
  const effects = prune.negativeEffects([
    { ...common, id: 7, norm: 'jobs', type: 'broad', reason: 'block' },
    { ...common, id: 8, norm: 'hire', type: 'broad', reason: 'hand' },
    { ...common, id: 9, norm: 'jobs', type: 'broad', reason: 'hand' },
  ]);
  expect(effects[7]).toEqual({ blocks: 1, searches: 40, conflicts: 0, sample: ['kayak jobs'] });
  expect(effects[8]).toEqual({ blocks: 0, searches: 0, conflicts: 1, sample: ['kayak hire'] });
  expect(effects[9]).toMatchObject({ blocks: 0, conflicts: 0 });
  expect(
    prune.listEffect({ negatives: [{ id: 1, text: 'hire', norm: 'hire', type: 'broad' }] }),
  ).toMatchObject({
    keywords: 1,
    searches: 100,
  });
});
