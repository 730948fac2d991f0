import { emptySift, readSentence } from '@sprig/core/sort';
import { describe, expect, test } from 'vitest';
import type { SortSummary, ThemeSum } from '../../pool/sorting.ts';
import { mapPatches, shortName } from './map-layout.ts';
import { themesOf } from './PasteNames.tsx';
import { limitsIn, limitWords } from './SiftLimits.tsx';
import { readSignals, writeSignals } from './SignalWords.tsx';
import { addTerm, removeTerm, typingProblem, withTyping } from './sift-edits.ts';
import { siftProblemWords } from './sort-words.ts';
import { mergedRule, nameOfRule, stepOf } from './theme-edits.ts';
import { allOf, flagsOf, pathTo, treeOf } from './theme-tree.ts';

const theme = (id: number, parent: number | null) => ({
  id,
  parent,
  name: `T${id}`,
  sift: null,
  idea: false,
  colour: null,
  stage: null,
});
const sum = (id: number, keywords: number, tightness = 1, searches = 0): ThemeSum => {
  const none = { keywords: 0, searches: 0 };
  const own = { keywords, searches };
  return {
    id,
    own,
    all: own,
    held: 0,
    tightness,
    stages: { early: none, comparing: none, ready: none, none },
  };
};

describe('the tree of themes', () => {
  const themes = [theme(1, null), theme(2, 1), theme(3, 2), theme(4, null), theme(5, 99)];
  const summary = { themes: [sum(2, 7)] } as unknown as SortSummary;

  test('each stands in its parent, with its sums and its depth; one without a parent is at the top', () => {
    const tree = treeOf(themes, summary);
    expect(tree.roots.map(({ id }) => id)).toEqual([1, 4, 5]);
    expect(allOf(tree.roots).map(({ id, depth }) => [id, depth])).toEqual([
      [1, 0],
      [2, 1],
      [3, 2],
      [4, 0],
      [5, 0],
    ]);
    expect(tree.byId.get(2)?.sum.own.keywords).toBe(7);
    expect(tree.byId.get(1)?.sum.own.keywords).toBe(0);
    expect(pathTo(tree, 3).map(({ id }) => id)).toEqual([1, 2, 3]);
    expect(pathTo(tree, null)).toEqual([]);
    expect(pathTo(tree, 77)).toEqual([]);
  });

  test.each([
    [sum(1, 0), []],
    [sum(1, 2), ['under']],
    [sum(1, 2, 1, 600), []],
    [sum(1, 3), []],
    [sum(1, 20), []],
    [sum(1, 21), ['over']],
    [sum(1, 5, 0.5), ['loose']],
    [sum(1, 1, 0), ['under']],
  ])('flags of %j', (one, flags) =>
    expect(flagsOf({ sum: one, idea: false }, { target: 20, least: 3, floor: 500 })).toEqual(flags),
  );
});

describe('a sentence as it is typed', () => {
  const sift = { has: [['kayak'], ['inflatable']], not: ['pump'] };

  test('terms come and go; a condition without terms goes with its last', () => {
    expect(addTerm(sift, 0, 'canoe').has).toEqual([['kayak', 'canoe'], ['inflatable']]);
    expect(addTerm(sift, 0, 'Kayak').has[0]).toEqual(['kayak']);
    expect(addTerm(sift, 2, 'sit on top').has[2]).toEqual(['"sit on top"']);
    expect(addTerm(sift, 'not', 'repair').not).toEqual(['pump', 'repair']);
    expect(removeTerm(sift, 0, 'kayak').has).toEqual([['inflatable']]);
    expect(removeTerm(sift, 'not', 'pump').not).toEqual([]);
  });

  test('what is typed counts as soon as it can be read', () => {
    expect(withTyping(emptySift(), { slot: 0, text: 'k' }).has).toEqual([['k']]);
    expect(withTyping(sift, { slot: 0, text: '' })).toBe(sift);
    expect(withTyping(sift, { slot: 1, text: 'a*' })).toBe(sift);
    expect(typingProblem({ slot: 1, text: 'a*' })).toMatchObject({ why: 'prefix-too-short' });
    expect(typingProblem({ slot: 1, text: ' ' })).toBeNull();
    expect(typingProblem(null)).toBeNull();
  });

  test('problems say what to do', () => {
    const read = readSentence('kayak');
    expect('problems' in read && read.problems.map(siftProblemWords)).toEqual([
      '“kayak” must come after “has” or “but not”.',
    ]);
  });
});

describe('rules and places of themes', () => {
  const rule = (sentence: string) => {
    const read = readSentence(sentence);
    if ('problems' in read) throw new Error(sentence);
    return read.sift;
  };

  test.each([
    ['has desk', 'has lamp', 'has desk / lamp'],
    ['has oak and has desk', 'has oak and has lamp', 'has oak and has desk / lamp'],
    ['has desk', 'has desk', 'has desk'],
    ['has desk / table', 'has table / lamp', 'has desk / table / lamp'],
  ])('%s and %s are %s together', (one, other, both) =>
    expect(mergedRule([rule(one), rule(other)])).toEqual(rule(both)),
  );

  test.each([
    ['has oak and has desk', 'has white and has lamp'],
    ['has desk', 'has oak and has lamp'],
    ['has desk', 'has lamp but not oak'],
  ])('no one rule says %s and %s', (one, other) => expect(mergedRule([rule(one), rule(other)])).toBeNull());

  test('one alone is not merged, nor one by hand', () => {
    expect(mergedRule([rule('has desk')])).toBeNull();
    expect(mergedRule([rule('has desk'), null])).toBeNull();
  });

  test('steps in the outline', () => {
    const tree = treeOf([theme(1, null), theme(2, null), theme(3, null), theme(4, 2)], undefined);
    const step = (id: number, way: 'up' | 'down' | 'in' | 'out') => {
      const node = tree.byId.get(id);
      return node ? stepOf(tree, node, way) : undefined;
    };
    expect(step(1, 'up')).toBeNull();
    expect(step(2, 'up')).toEqual({ parent: null, before: 1 });
    expect(step(1, 'down')).toEqual({ parent: null, before: 3 });
    expect(step(2, 'down')).toEqual({ parent: null, before: null });
    expect(step(3, 'down')).toBeNull();
    expect(step(3, 'in')).toEqual({ parent: 2, before: null });
    expect(step(4, 'out')).toEqual({ parent: null, before: 3 });
    expect(step(1, 'out')).toBeNull();
  });

  test('names of rules, and names within a theme', () => {
    expect(nameOfRule(rule('has "sit on top" / sit-on-top and has =kayaks'))).toBe('sit on top kayaks');
    expect(shortName('two person kayak', 'kayak')).toBe('two person');
    expect(shortName('kayak', 'kayak')).toBe('kayak');
  });
});

describe('what is typed into panels', () => {
  test('names, one to a line with forms; lines that are none are told', () => {
    const { themes, wrong } = themesOf('desk | desks | writing table\n\n|\n*\nlamp');
    expect(themes.map(({ name, sift }) => [name, sift?.has])).toEqual([
      ['desk', [['desk', 'desks', '"writing table"']]],
      ['lamp', [['lamp']]],
    ]);
    expect(wrong).toEqual([
      { line: 3, typed: '|' },
      { line: 4, typed: '*' },
    ]);
  });

  test('signal words by lines, in their order', () => {
    const text = 'early: how to, what\nready: buy\nearly: why';
    const { words, wrong } = readSignals(text);
    expect(words.map(({ text: word, stage }) => `${stage} ${word}`)).toEqual([
      'early how to',
      'early what',
      'ready buy',
      'early why',
    ]);
    expect(wrong).toEqual([]);
    expect(writeSignals(words)).toBe(text);
    expect(readSignals('soon: x\nREADY: Buy, buy,\nnothing')).toEqual({
      words: [{ text: 'buy', stage: 'ready' }],
      wrong: [1, 3],
    });
  });

  test('limits of the address: what is no number or stage is none', () => {
    expect(limitsIn(new URLSearchParams('stage=ready&from=10&to=x&source=3'))).toEqual({
      stage: 'ready',
      searchesFrom: 10,
      source: 3,
    });
    expect(limitsIn(new URLSearchParams('stage=soon&from=-1&state=in'))).toEqual({});
    expect(limitsIn(new URLSearchParams('state=cut&cpcFrom=400000&cpcTo=1.5'))).toEqual({
      state: 'cut',
      cpcFrom: 400_000,
    });
    expect(limitWords({ has: [], not: [], stage: 'ready', searchesFrom: 1_000 })).toBe(
      'at stage ready, from 1,000 searches',
    );
  });
});

describe('the map', () => {
  const nodesOf = (...keywords: number[]) =>
    treeOf(
      keywords.map((_, at) => theme(at + 1, null)),
      { themes: keywords.map((count, at) => sum(at + 1, count, 1, count * 10)) } as unknown as SortSummary,
    ).roots;
  const none = { keywords: 0, searches: 0 };
  const base = { open: null, suggestions: [], unplaced: none, width: 600, height: 300 };

  test('area goes by searches, and nothing stands out of it', () => {
    const patches = mapPatches({
      ...base,
      nodes: nodesOf(100, 50, 50),
      unplaced: { keywords: 20, searches: 2_000 },
    });
    const area = (key: string) => {
      const { width = 0, height = 0 } = patches.find((patch) => patch.key === key) ?? {};
      return width * height;
    };
    expect(patches.map(({ kind }) => kind).sort()).toEqual(['theme', 'theme', 'theme', 'unplaced']);
    expect(area('t1') / area('t2')).toBeCloseTo(2, 0);
    expect(area('unplaced') / area('t1')).toBeCloseTo(2, 0);
    for (const { x, y, width, height } of patches) {
      expect(x).toBeGreaterThanOrEqual(0);
      expect(x + width).toBeLessThanOrEqual(600);
      expect(y + height).toBeLessThanOrEqual(300);
    }
  });

  test('suggestions stand in the bare ground and are never larger than it', () => {
    const suggestion = (at: number, searches: number) => ({
      at,
      name: `S${at}`,
      sift: { has: [], not: [] },
      keywords: 5,
      searches,
      tightness: 1,
      cpc: null,
      examples: [],
      inside: 0,
    });
    const patches = mapPatches({
      ...base,
      nodes: nodesOf(100),
      unplaced: { keywords: 20, searches: 1_000 },
      suggestions: [suggestion(1, 900), suggestion(2, 900)],
    });
    const ground = patches.find(({ kind }) => kind === 'unplaced');
    const inside = patches.filter(({ kind }) => kind === 'suggestion');
    expect(inside).toHaveLength(2);
    for (const { x, width } of inside) {
      expect(x).toBeGreaterThanOrEqual(ground?.x ?? Number.NaN);
      expect(x + width).toBeLessThanOrEqual((ground?.x ?? 0) + (ground?.width ?? 0));
    }
  });

  test.each([
    ['8,000 themes', 8_000, 600, 300],
    ['8,000 themes in a wide window', 8_000, 2_500, 900],
    ['a few in very little room', 60, 160, 80],
    ['one', 1, 600, 300],
  ])('%s: each is a patch that can be hit, or counted behind `more`', (_words, themes, width, height) => {
    // One theme has nearly everything: the others are slivers.
    const searches = Array.from({ length: themes }, (_, at) => (at === 0 ? 1_000_000_000 : themes - at));
    const patches = mapPatches({ ...base, nodes: nodesOf(...searches), width, height });
    const shown = patches.filter(({ kind }) => kind === 'theme');
    const more = patches.find(({ kind }) => kind === 'more')?.count ?? 0;
    expect(shown.length).toBeGreaterThan(0);
    expect(shown.length + more).toBe(themes);
    for (const patch of patches) {
      expect(patch.width).toBeGreaterThanOrEqual(5);
      expect(patch.height).toBeGreaterThanOrEqual(5);
    }
  });

  test('very many themes: the smallest are one patch together; no room is no patch', () => {
    const many = mapPatches({ ...base, nodes: nodesOf(...Array.from({ length: 400 }, (_, at) => 400 - at)) });
    expect(many.find(({ kind }) => kind === 'more')).toMatchObject({ count: 280, name: '280 smaller' });
    // Those behind it are shown by themselves, and again the smallest of them together.
    const smaller = mapPatches({
      ...base,
      nodes: nodesOf(...Array.from({ length: 400 }, (_, at) => 400 - at)),
      from: 120,
    });
    expect(smaller.find(({ kind }) => kind === 'more')).toMatchObject({ count: 160 });
    expect(smaller.find(({ key }) => key === 't121')).toBeTruthy();
    expect(mapPatches({ ...base, nodes: nodesOf(5), width: 0 })).toEqual([]);
    expect(mapPatches({ ...base, nodes: [] })).toEqual([]);
  });
});
