import { int, ints, json, optional, table, text } from './define.ts';

export const recipes = table('recipes', 'input', {
  key: ['id'],
  columns: {
    id: int,
    position: int,
    source_id: optional(int),
    body: json,
  },
});

export const recipeCuts = table('recipe_cuts', 'input', {
  key: ['id'],
  columns: {
    id: int,
    recipe_id: int,
    norm: text,
  },
  refers: { recipe_id: 'recipes' },
});

export const wordLists = table('word_lists', 'input', {
  scope: 'workspace',
  key: ['id'],
  columns: {
    id: int,
    name: text,
    text: text,
    takes: ints,
  },
});
