import { given, int, optional, table, text, texts } from './define.ts';

export const negatives = table('negatives', 'input', {
  key: ['id'],
  columns: {
    id: int,
    text: text,
    norm: text,
    match_type: text,
    source_id: optional(int),
    level: given(text),
    reason: given(text),
  },
});

export const wordVerdicts = table('word_verdicts', 'input', {
  key: ['id'],
  columns: {
    id: int,
    text: text,
  },
});

export const sharedLists = table('shared_lists', 'input', {
  scope: 'workspace',
  key: ['id'],
  columns: {
    id: int,
    name: text,
    about: text,
  },
});

export const sharedNegatives = table('shared_negatives', 'input', {
  scope: 'workspace',
  key: ['id'],
  columns: {
    id: int,
    list_id: int,
    text: text,
    norm: text,
    match_type: text,
  },
  refers: { list_id: 'shared_lists' },
});

export const attachedLists = table('attached_lists', 'input', {
  key: ['id'],
  columns: {
    id: int,
    list_id: int,
    campaigns: optional(texts),
  },
  refers: { list_id: 'shared_lists' },
});
