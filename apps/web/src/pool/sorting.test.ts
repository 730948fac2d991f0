import { bareColumns, usualSortSettings } from '@sprig/contracts';
import { describe, expect, test } from 'vitest';
import { PoolStore } from './pool-store.ts';
import { type SortInput, Sorting } from './sorting.ts';

const TEXTS: [string, number][] = [
  ['kayak', 900],
  ['inflatable kayak', 500],
  ['buy inflatable kayak', 300],
  ['inflatable kayak price', 200],
  ['how to store a canoe', 90],
  ['canoe', 800],
  ['canoe hire', 100],
  ['canoes', 50],
  ['tent', 10],
];

function sorting() {
  const store = new PoolStore();
  const texts = TEXTS.map(([text]) => text);
  store.take({
    ...bareColumns(texts),
    revision: 1,
    ids: Uint32Array.from(texts, (_, at) => 11 + at),
    searches: Int32Array.from(TEXTS, ([, searches]) => searches),
    texts,
    norms: texts,
    sources: texts.map(() => [1]),
  });
  return new Sorting(store);
}

const theme = (id: number, parent: number | null, word: string, stage: 'early' | null = null) => ({
  id,
  parent,
  name: word,
  sift: { has: [[word]], not: [] },
  idea: false,
  colour: null,
  stage,
});

const input = (more: Partial<SortInput> = {}): SortInput => ({
  language: 'en',
  functionWords: null,
  places: [],
  themes: [theme(1, null, 'kayak'), theme(2, 1, 'inflatable'), theme(3, null, 'canoe', 'early')],
  placed: [],
  settings: usualSortSettings,
  seen: 0,
  ...more,
});

describe('the pool sorted by themes', () => {
  test('sums of each theme of its own and with what is in it, by stage, and what is unplaced', () => {
    const { all, unplaced, themes, stages, fresh } = sorting().place(input({ seen: 15 }));
    expect(all).toEqual({ keywords: 9, searches: 2_950 });
    expect(unplaced).toEqual({ keywords: 1, searches: 10 });
    expect(themes.map(({ id, own, all: sum }) => [id, own, sum])).toEqual([
      [1, { keywords: 1, searches: 900 }, { keywords: 4, searches: 1_900 }],
      [2, { keywords: 3, searches: 1_000 }, { keywords: 3, searches: 1_000 }],
      [3, { keywords: 4, searches: 1_040 }, { keywords: 4, searches: 1_040 }],
    ]);
    expect(themes[0]?.stages).toMatchObject({ ready: { keywords: 2, searches: 500 }, none: { keywords: 2 } });
    expect(themes[2]?.stages).toMatchObject({
      early: { keywords: 3 },
      ready: { keywords: 1, searches: 100 },
    });
    expect(stages.none).toEqual({ keywords: 3, searches: 1_410 });
    expect(themes[1]?.tightness).toBe(1);
    expect(fresh).toEqual({ keywords: 4, placed: 3, newest: 19 });
  });

  test('what is placed by hand, and its stage, go before the rules', () => {
    const sorted = sorting();
    const { themes, unplaced } = sorted.place(
      input({
        placed: [
          { keyword: 19, theme: 2, stage: null },
          { keyword: 11, theme: 0, stage: 'comparing' },
          { keyword: 999, theme: 1, stage: null },
        ],
      }),
    );
    expect(themes.map(({ own, held }) => [own.keywords, held])).toEqual([
      [0, 0],
      [4, 1],
      [4, 0],
    ]);
    expect(unplaced).toEqual({ keywords: 1, searches: 900 });
    expect(sorted.places([19, 11, 13])).toEqual([
      { id: 19, theme: 2, stage: null },
      { id: 11, theme: 0, stage: { stage: 'comparing', from: 'hand' } },
      { id: 13, theme: 2, stage: { stage: 'ready', from: 'words' } },
    ]);
  });

  test('a sift in a scope, with the next words, the forms of what is typed, and where the matches stand', () => {
    const sorted = sorting();
    sorted.place(input());
    const found = sorted.sift({ has: [['kayak']], not: [] }, { kind: 'all' }, 'canoe');
    expect(found).toMatchObject({ keywords: 4, searches: 1_900 });
    expect(found.others.map(({ text }) => text)).toEqual(['inflatable', 'buy', 'price']);
    expect(found.forms.map(({ term }) => term)).toEqual(['=canoes']);
    expect(found.byTheme).toEqual([
      [1, 1],
      [2, 3],
    ]);
    expect([...found.ids]).toEqual([11, 12, 13, 14]);
    expect(sorted.sift({ has: [['kayak']], not: [] }, { kind: 'unplaced' }, '').keywords).toBe(0);
    expect(sorted.sift({ has: [], not: [], stage: 'early' }, { kind: 'all' }, '').keywords).toBe(3);
    expect([...sorted.ids({ kind: 'theme', theme: 1, own: false })]).toEqual([11, 12, 13, 14]);
    expect([...sorted.ids({ kind: 'theme', theme: 1, own: true })]).toEqual([11]);
    expect([...sorted.ids({ kind: 'unplaced' })]).toEqual([19]);
  });

  test('suggestions and the whole plan are of what is unplaced, and are made again when that changes', () => {
    const sorted = sorting();
    sorted.place(input({ themes: [] }));
    const names = () => sorted.suggestions({ kind: 'unplaced' }, null).map(({ name }) => name);
    expect(names()).toEqual(['kayak', 'canoe']);
    const plan = sorted.wholePlan({ kind: 'unplaced' });
    expect(plan).toMatchObject({ themes: 2, groups: 2, placed: { keywords: 8 }, all: { keywords: 9 } });
    const sentence = sorted.sentenceOfSuggestion({ kind: 'unplaced' }, plan?.branches[1]?.at ?? 0);
    expect(sentence).toBe('has canoe');
    expect(sorted.branchThemes({ kind: 'unplaced' }, [plan?.branches[1]?.at ?? 0])).toEqual([
      {
        name: 'canoe',
        sift: { has: [['canoe']], not: [] },
        idea: false,
        colour: null,
        stage: null,
        within: null,
      },
    ]);
    sorted.place(input({ themes: [], settings: { ...usualSortSettings, dismissed: [sentence] } }));
    expect(names()).toEqual(['kayak']);
    sorted.place(input({ themes: [theme(3, null, 'canoe')] }));
    expect(names()).toEqual(['inflatable kayak']);
  });

  test('other signal words make another proposal', () => {
    const sorted = sorting();
    const tightness = (signals: SortInput['settings']['signals']) => {
      sorted.place(input({ themes: [], settings: { ...usualSortSettings, signals } }));
      return sorted.wholePlan({ kind: 'unplaced' })?.tightness;
    };
    const before = tightness(null);
    // Where nothing is a signal, each word counts as what a keyword is about.
    expect(tightness([])).toBeLessThan(before ?? 0);
    expect(tightness(null)).toBe(before);
  });

  test('what a theme before another has of what both want', () => {
    const sorted = sorting();
    sorted.place(input({ themes: [theme(1, null, 'kayak'), theme(2, null, 'inflatable')] }));
    expect(sorted.contests()).toEqual([
      {
        theme: 2,
        wonBy: 1,
        keywords: 3,
        examples: ['inflatable kayak', 'buy inflatable kayak', 'inflatable kayak price'],
      },
    ]);
  });

  test('before anything is placed there is nothing to tell', () => {
    expect(sorting().suggestions({ kind: 'unplaced' }, null)).toEqual([]);
    expect(sorting().wholePlan({ kind: 'all' })).toBeNull();
  });
});
