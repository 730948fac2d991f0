import {
  bareColumns,
  CUT,
  type GroupHeads,
  noFacts,
  type PoolColumns,
  usualSortSettings,
} from '@sprig/contracts';
import { defaultLayout } from '@sprig/core/build';
import { usualAssumptions } from '@sprig/core/figures';
import { emptyRecipe, type Recipe } from '@sprig/core/mix';
import { asMicros } from '@sprig/core/money';
import { harrowlight, plainOutlet } from '@sprig/core/outlets';
import { patternOf, usualAddressRule } from '@sprig/core/write';
import { describe, expect, test } from 'vitest';
import { type BuildInput, Building } from './building.ts';
import { Mixing, type MixQuestion } from './mixing.ts';
import { PatternFits, type WriteInput } from './pattern-fits.ts';
import { PoolStore } from './pool-store.ts';
import { type PruneInput, Pruning } from './pruning.ts';
import { type SortInput, Sorting } from './sorting.ts';

/**
 * Whatever is remembered hangs on all that it is made of: an instance that has answered one question answers the next, and
 * the first one again, as one that has never been asked anything. Each question differs from the first in its answer, so
 * that a part which is missing in a key is seen.
 */
function answersAfresh<Instance, Question, Answer>(
  make: () => Instance,
  ask: (instance: Instance, question: Question) => Answer,
  first: Question,
  others: Record<string, Question>,
): void {
  const fresh = (question: Question) => ask(make(), question);
  const plain = (value: unknown) => structuredClone(value);
  test.each(Object.entries(others))('%s', (_, other) => {
    const expected = { first: plain(fresh(first)), other: plain(fresh(other)) };
    expect(expected.other).not.toEqual(expected.first);
    const asked = make();
    expect(plain(ask(asked, first))).toEqual(expected.first);
    expect(plain(ask(asked, other))).toEqual(expected.other);
    expect(plain(ask(asked, first))).toEqual(expected.first);
    expect(plain(ask(asked, first))).toEqual(expected.first);
  });
}

type Given = { text: string; searches: number; cpc?: number; cut?: boolean; sources?: number[] };
const teas: Given[] = [
  { text: 'tea', searches: 900, cpc: 500_000 },
  { text: 'green tea', searches: 500, cpc: 400_000 },
  { text: 'tea green', searches: 40 },
  { text: 'buy green tea', searches: 90 },
  { text: 'tea of wrenport', searches: 30, sources: [1, 2] },
  { text: 'tea wrenport', searches: 20 },
  { text: 'teapot', searches: 700, cpc: 600_000 },
  { text: 'cast iron teapot', searches: 300 },
  { text: 'kettle and cup teapot', searches: 5 },
];
const columnsOf = (rows: readonly Given[], revision: number): PoolColumns => ({
  ...bareColumns(rows.map(({ text }) => text)),
  revision,
  ids: Uint32Array.from(rows, (_, at) => at + 1),
  cpc: Float64Array.from(rows, ({ cpc }) => cpc ?? -1),
  searches: Int32Array.from(rows, ({ searches }) => searches),
  flags: Uint8Array.from(rows, ({ cut }) => (cut ? CUT : 0)),
  texts: rows.map(({ text }) => text),
  norms: rows.map(({ text }) => text),
  sources: rows.map(({ sources }) => sources ?? [1]),
});

/** A question together with the pool that it is asked of. */
type OfPool<Question> = { question: Question; rows: readonly Given[] };
let revision = 1;
const storeOf = () => new PoolStore();
/** Takes the pool where it is another one than before. */
const taken = new WeakMap<PoolStore, readonly Given[]>();
function have(store: PoolStore, rows: readonly Given[]): void {
  if (taken.get(store) === rows) return;
  taken.set(store, rows);
  store.take(columnsOf(rows, revision++));
}
const fewer = teas.map((row) => (row.text === 'tea' ? { ...row, cut: true } : row));
const dearer = teas.map((row) => ({ ...row, cpc: 2_000_000 }));

const theme = (id: number, word: string, stage: 'early' | null = null) => ({
  id,
  parent: null,
  name: word,
  sift: { has: [[word]], not: [] },
  idea: false,
  colour: null,
  stage,
});
const sort: SortInput = {
  language: 'en',
  functionWords: null,
  places: [['Wrenport']],
  themes: [theme(1, 'teapot'), theme(2, 'tea')],
  placed: [],
  settings: usualSortSettings,
  seen: 0,
};

describe('Sort', () => {
  const of = (more: Partial<SortInput>, rows = teas): OfPool<SortInput> => ({
    question: { ...sort, ...more },
    rows,
  });
  answersAfresh(
    () => {
      const store = storeOf();
      return { store, sorting: new Sorting(store) };
    },
    ({ store, sorting }, { question, rows }) => {
      have(store, rows);
      return [
        sorting.place(question),
        sorting.sift({ has: [['tea']], not: [] }, { kind: 'all' }, 'te'),
        sorting.suggestions({ kind: 'all' }, null),
      ];
    },
    of({}),
    {
      'other themes': of({ themes: [theme(1, 'green'), theme(2, 'tea')] }),
      'another order of themes': of({ themes: [theme(2, 'tea'), theme(1, 'tea')] }),
      'a theme’s stage': of({ themes: [theme(1, 'teapot', 'early'), theme(2, 'tea')] }),
      'a keyword placed by hand': of({ placed: [{ keyword: 7, theme: 2, stage: null }] }),
      'a stage by hand': of({ placed: [{ keyword: 7, theme: null, stage: 'early' }] }),
      'no place': of({ places: [] }),
      'function words': of({ functionWords: ['tea'] }),
      'signal words': of({ settings: { ...usualSortSettings, signals: [] } }),
      'what was seen': of({ seen: 5 }),
      'a keyword cut': of({}, fewer),
    },
  );
});

describe('Build', () => {
  const input: BuildInput = {
    layout: defaultLayout('Tea', 'GBP'),
    sort,
    facts: { ...noFacts(), places: [['Wrenport']] },
    holds: [],
    sources: [
      { id: 1, name: 'Report' },
      { id: 2, name: 'Notes' },
    ],
    standing: { copies: [], parts: [] },
    increment: asMicros(10_000),
  };
  const of = (more: Partial<BuildInput>, rows = teas): OfPool<BuildInput> => ({
    question: { ...input, ...more },
    rows,
  });
  answersAfresh(
    () => {
      const store = storeOf();
      return { store, building: new Building(store, new Sorting(store)) };
    },
    ({ store, building }, { question, rows }) => {
      have(store, rows);
      return building.live(question);
    },
    of({}),
    {
      'other themes': of({ sort: { ...sort, themes: [theme(2, 'tea')] } }),
      'a keyword placed by hand': of({
        sort: { ...sort, placed: [{ keyword: 7, theme: 2, stage: null }] },
      }),
      'a stage by hand': of({ sort: { ...sort, placed: [{ keyword: 7, theme: null, stage: 'early' }] } }),
      'signal words': of({
        sort: {
          ...sort,
          settings: { ...usualSortSettings, signals: [{ text: 'iron', stage: 'early' }] },
        },
      }),
      'another layout': of({ layout: { ...input.layout, unplaced: 'out', campaignName: 'Teas' } }),
      'places of campaigns': of({
        facts: { ...input.facts, places: [] },
        sort: { ...sort, places: [] },
      }),
      'a held bid': of({
        holds: [{ rowKey: 'k1:e', field: 'bid', outlet: null, value: 9_000_000 } as never],
      }),
      'what was copied': of({
        standing: { copies: [{ id: 9, of: 't1', name: 'Once more', ads: true }], parts: [] },
      }),
      'the step of bids': of({ increment: asMicros(250_000) }),
      'a keyword cut': of({}, fewer),
      'other CPCs': of({}, dearer),
    },
  );
});

describe('Prune', () => {
  const input: PruneInput = {
    language: 'en',
    facts: { ...noFacts(), rivals: ['Kettle & Cup'] },
    limits: { leastSearches: 10, length: 80, words: 10 },
  };
  const of = (
    more: Partial<PruneInput>,
    rows = teas,
  ): OfPool<PruneInput> & { classes: ('order' | 'function')[] } => ({
    question: { ...input, ...more },
    rows,
    classes: ['order', 'function'],
  });
  answersAfresh(
    () => {
      const store = storeOf();
      return { store, pruning: new Pruning(store, (word) => word === 'tea') };
    },
    ({ store, pruning }, { question, rows, classes }) => {
      have(store, rows);
      return [
        pruning.lookAlikes(question, classes),
        pruning.allFolds(),
        pruning.filters(question),
        pruning.reviewSummary(question, { kind: 'words', order: 'searches' }, [], []),
      ];
    },
    of({}),
    {
      'fewer classes of look-alikes': { ...of({}), classes: ['order' as const] },
      'function words': of({ facts: { ...input.facts, functionWords: ['green'] } }),
      'no rival': of({ facts: { ...input.facts, rivals: [] } }),
      'the least searches': of({ limits: { ...input.limits, leastSearches: 100 } }),
      'the longest keyword': of({ limits: { ...input.limits, length: 5 } }),
      'the most words': of({ limits: { ...input.limits, words: 2 } }),
      'a keyword cut': of({}, fewer),
    },
  );
});

describe('Mix', () => {
  const recipe: Recipe = {
    ...emptyRecipe('Teas'),
    lists: [
      { id: 1, kind: 'own', name: 'Kinds', text: 'green\nwhite', takes: [] },
      { id: 2, kind: 'shared', list: 5 },
      { id: 3, kind: 'brief', from: 'places' } as never,
    ],
    patterns: [
      {
        id: 1,
        slots: [
          { kind: 'list', list: 1, optional: false },
          { kind: 'list', list: 2, optional: true },
        ],
        flip: false,
      },
    ],
  };
  const question: MixQuestion = {
    recipe: { ...recipe, lists: recipe.lists.slice(0, 2) },
    source: 7,
    shared: [{ id: 5, name: 'Goods', text: 'tea\ntea set of many pieces', takes: [] }],
    places: [['Wrenport']],
    brands: [],
    offers: [],
    language: 'en',
    functionWords: null,
    cuts: [],
    limits: { words: 10, length: 80 },
    assumptions: usualAssumptions,
  };
  const of = (more: Partial<MixQuestion>, rows = teas): OfPool<MixQuestion> => ({
    question: { ...question, ...more },
    rows,
  });
  answersAfresh(
    () => {
      const store = storeOf();
      return { store, mixing: new Mixing(store) };
    },
    ({ store, mixing }, { question: asked, rows }) => {
      have(store, rows);
      const summary = mixing.mix(asked);
      return [summary, mixing.list({ text: '', state: 'all', sort: 'made', down: false })];
    },
    of({}),
    {
      'a shared list': of({ shared: [{ id: 5, name: 'Goods', text: 'tea', takes: [] }] }),
      cuts: of({ cuts: ['green tea'] }),
      'its own source': of({ source: 1 }),
      'the most words': of({ limits: { words: 3, length: 80 } }),
      'the longest keyword': of({ limits: { words: 10, length: 10 } }),
      'another pool': of({}, [
        { text: 'white tea', searches: 5, sources: [2] },
        { text: 'green tea', searches: 5, sources: [2] },
      ]),
    },
  );
});

describe('Write', () => {
  const keywords = ['green tea', 'a long keyword about tea and pots', 'teapot'];
  const heads: GroupHeads = {
    builtRevision: 1,
    keys: ['k1', 'k2', 'k3'],
    names: keywords,
    keywords,
    searches: [10, 50, 30],
    themes: [2, 2, 3],
    places: ['Wrenport', null, null],
    stages: [null, null, null],
    campaigns: [0, 0, 0],
    campaignNames: ['Teas'],
    campaignKeys: ['ct2'],
    themeNames: [
      { id: 2, parent: null, name: 'Teas', branch: 'Teas' },
      { id: 3, parent: null, name: 'Pots', branch: 'Pots' },
    ],
  };
  const lines = {
    headline1: ['@keyword today', '@keyword'],
    headline2: ['@offer', '@site', 'At Leaf'],
    headline3: ['@brand', 'Of the leaf'],
    description1: ['In @year and on.'],
  };
  const body = patternOf(lines, 'title');
  const input: WriteInput = {
    plan: 1,
    builtRevision: 1,
    patterns: [{ id: 1, body }],
    address: usualAddressRule(),
    holds: [],
    language: 'en',
    site: 'tea.example',
    facts: { ...noFacts(), brands: ['Otterleaf'] },
    today: '2027-01-01',
    outlet: plainOutlet,
  };
  /** Whatever order they stand in: that stays while one writes. */
  const misfitsOf = (writing: PatternFits) =>
    writing
      .page(0, 3)
      .map(({ key, misfit }) => `${key} ${misfit}`)
      .sort();
  type Asked = { question: WriteInput; of: GroupHeads };
  const of = (more: Partial<WriteInput>, groups = heads): Asked => ({
    question: { ...input, ...more },
    of: groups,
  });
  const held = { id: 1, rowKey: 'k1/a1', field: 'headline1', outlet: null, value: 'x'.repeat(60) };
  answersAfresh(
    () => new PatternFits(),
    (writing, { question, of: groups }) => {
      writing.take(groups);
      const { ordered: _, ...fit } = writing.fit(question, 1, false);
      return [fit, writing.cures(1, 'headline1'), misfitsOf(writing)];
    },
    of({}),
    {
      'a line': of({
        patterns: [
          {
            id: 1,
            body: {
              ...body,
              fields: { ...body.fields, headline1: { ...body.fields.headline1, lines: ['Tea'] } },
            },
          },
        ],
      }),
      'the form': of({ patterns: [{ id: 1, body: { ...body, form: 'assembled' } }] }),
      'its groups': of({
        patterns: [
          { id: 1, body: { ...body, groups: { to: 'themes', themes: [3], groups: [], campaigns: [] } } },
        ],
      }),
      'a split': of({
        patterns: [
          {
            id: 1,
            body: {
              ...body,
              split: { by: 'line', field: 'headline1', lines: ['Tea'], labels: ['a', 'b'], paused: null },
            },
          },
        ],
      }),
      'a held text': of({ holds: [held as never] }),
      'the outlet': of({ outlet: harrowlight }),
      'the outlet’s limits, under the same key': of({
        outlet: {
          ...plainOutlet,
          ad: {
            ...plainOutlet.ad,
            plain: {
              ...plainOutlet.ad.plain,
              headlines: { limit: 12, least: 2, most: 3, shown: 3 },
            } as never,
          },
        },
      }),
      'the site': of({ site: 'a-very-long-name-for-a-tea-house.example' }),
      'an offer': of({
        facts: { ...input.facts, offers: [{ text: 'Free post', from: null, until: null }] },
      }),
      'a brand': of({ facts: { ...input.facts, brands: ['green tea'] } }),
      'other groups': of({}, { ...heads, keywords: ['tea', 'cup', 'pot'], keys: ['k7', 'k8', 'k9'] }),
      'the same groups with other keywords': of({}, { ...heads, keywords: ['tea', 'cup', 'x'.repeat(50)] }),
    },
  );
});
