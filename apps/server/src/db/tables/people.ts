import { day, flag, given, int, json, moment, optional, table, text, texts } from './define.ts';

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

/** Rules of plans that are kept for others to begin with. */
export const outsets = table('outsets', 'record', {
  scope: 'workspace',
  identity: 'own',
  key: ['id'],
  columns: {
    id: given(int),
    name: text,
    made_of: text,
    parts: texts,
    body: json,
    is_default: given(flag),
    kept_at: given(moment),
    removed_at: optional(moment),
  },
});
