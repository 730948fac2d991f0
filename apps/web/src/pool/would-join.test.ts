import { expect, test } from 'vitest';
import { wouldJoin } from './would-join.ts';

const theme = (id: number, name: string, has: string[][], more = {}) => ({
  id,
  parent: null,
  name,
  at: id,
  sift: { has, not: [], ...more },
  stage: null,
});
const input = (themes: ReturnType<typeof theme>[]) =>
  ({
    language: 'en',
    functionWords: null,
    places: [],
    themes,
    settings: { signals: [] },
  }) as unknown as Parameters<typeof wouldJoin>[1];

test('an idea joins the first theme whose rule takes it, as a keyword would; rules by searches take none', () => {
  const themes = [
    theme(1, 'Well searched', [['mug']], { searchesFrom: 100 }),
    theme(2, 'Mugs', [['mug', 'cup']]),
    theme(3, 'Red', [['red']]),
  ];
  expect(wouldJoin(['red mugs', 'blue cup', 'red jug', 'jug'], input(themes))).toEqual([
    'Mugs',
    'Mugs',
    'Red',
    null,
  ]);
  expect(wouldJoin(['red mug'], input([]))).toEqual([null]);
  expect(wouldJoin([], input(themes))).toEqual([]);
});
