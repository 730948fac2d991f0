import { countMix } from '@sprig/core/mix';
import { expect, test } from 'vitest';
import type { IdeaRow } from '../../../pool/ideas.ts';
import { recipeOf } from './class-recipe.ts';
import { sorted } from './idea-columns.tsx';

const context = (before: string, behind: string) => ({ before, behind, there: new Uint8Array(2), count: 2 });

test('a class and its contexts become lists and patterns; words on both sides a pattern of their own', () => {
  const recipe = recipeOf(
    {
      fillers: ['mug', 'jug'],
      contexts: [
        context('red', ''),
        context('blue', ''),
        context('red', ''),
        context('', 'price'),
        context('best', 'set'),
      ],
      gaps: 3,
    },
    'Gaps: mug, jug',
  );
  expect(recipe.lists.map((list) => list.kind === 'own' && [list.name, list.text])).toEqual([
    ['Members', 'mug\njug'],
    ['Before', 'red\nblue'],
    ['Behind', 'price'],
  ]);
  expect(
    recipe.patterns.map(({ slots }) => slots.map((slot) => (slot.kind === 'list' ? slot.list : slot.text))),
  ).toEqual([
    [2, 1],
    [1, 3],
    ['best', 1, 'set'],
  ]);
  const sizes = [0, 2, 2, 1];
  expect(countMix(recipe.patterns, (list) => sizes[list] as number).total).toBe(8n);
});

test('ideas without a figure come last, whichever way they are ordered', () => {
  const idea = (text: string, searches: number | null) => ({ text, searches }) as IdeaRow;
  const list = [idea('b', null), idea('a', 5), idea('c', 9)];
  const texts = (down: boolean) => sorted(list, { id: 'searches', down }).map(({ text }) => text);
  expect([texts(true), texts(false)]).toEqual([
    ['c', 'a', 'b'],
    ['a', 'c', 'b'],
  ]);
});
