import { expect, test } from 'vitest';
import { wordsOfTheme } from './theme-words.ts';

const theme = (id: number, parent: number | null, ...has: string[][]) => ({
  id,
  parent,
  name: `T${id}`,
  sift: has.length === 0 ? null : { has, not: [] },
  idea: false,
  colour: null,
  stage: null,
});

test('a theme’s words: its sub-themes with their forms, or its own terms', () => {
  const kayaks = theme(1, null, ['kayak']);
  const themes = [
    kayaks,
    theme(2, 1, ['"sit on top"', 'sit-on-top']),
    theme(3, 1, ['sea'], ['=touring', 'tour*']),
    theme(4, 1),
    theme(5, 2, ['deep']),
  ];
  expect(wordsOfTheme(kayaks, themes)).toEqual(['sit on top | sit-on-top', 'touring']);
  const boards = theme(6, null, ['paddleboard', '"paddle board"', 'sup*']);
  expect(wordsOfTheme(boards, [boards])).toEqual(['paddleboard', 'paddle board']);
  expect(wordsOfTheme(theme(7, null), [])).toEqual([]);
});
