import { emptySift, readSentence } from '@sprig/core/sort';
import { describe, expect, test } from 'vitest';
import type { SortSummary, ThemeSum } from '../../pool/sorting.ts';
import { addTerm, removeTerm, typingProblem, withTyping } from './sift-edits.ts';
import { siftProblemWords } from './sort-words.ts';
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
