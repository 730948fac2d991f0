import { day, given, int, json, moment, optional, table, text } from './define.ts';

export const workspaces = table('workspaces', 'record', {
  scope: 'none',
  key: ['id'],
  columns: {
    id: given(int),
    name: text,
  },
});

export const actors = table('actors', 'record', {
  scope: 'workspace',
  identity: 'own',
  key: ['id'],
  columns: {
    id: given(int),
    name: text,
    preferences: given(json),
  },
});

export const plans = table('plans', 'record', {
  scope: 'workspace',
  identity: 'own',
  key: ['id'],
  columns: {
    id: given(int),
    created_by: int,
    created_at: given(moment),
    changed_at: given(moment),
    revision: given(int),
    built_revision: given(int),
    next_id: given(int),
    built_day: optional(day),
  },
  refers: { created_by: 'actors' },
});
