import { english } from '@sprig/core/text';
import { expect, test } from 'vitest';
import type { IdeaRow } from '../../../pool/ideas.ts';
import { groupsOf } from './idea-groups.ts';

const idea = (text: string, joins: string | null, inPool = false): IdeaRow => ({
  text,
  joins,
  inPool,
  searches: null,
  cpc: null,
  competition: null,
  from: { searches: null, cpc: null, competition: null },
  why: '',
  of: null,
});
const ideas = [
  idea('green tea pots', 'Pots'),
  idea('tea for two', null),
  idea('white tea pot', 'Pots'),
  idea('oolong', null),
  idea('black tea pot', 'Pots', true),
];
const read = (by: Parameters<typeof groupsOf>[1]) =>
  groupsOf(ideas, by, english).map(({ name, ideas: own }) => [name, own.map(({ text }) => text)]);

test('ideas are grouped by the theme that they would join, those of none together; what the pool has is left out', () => {
  expect(read('theme')).toEqual([
    ['', ['tea for two', 'oolong']],
    ['Pots', ['green tea pots', 'white tea pot']],
  ]);
});

test('or by the content words that they share, plural or not', () => {
  expect(read('word')).toEqual([
    ['tea', ['green tea pots', 'tea for two', 'white tea pot']],
    ['pot', ['green tea pots', 'white tea pot']],
  ]);
  expect(read('nothing')).toEqual([]);
});
