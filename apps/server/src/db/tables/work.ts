import { amount, bytes, flag, given, int, json, moment, optional, table, text, uuid } from './define.ts';

export const changes = table('changes', 'record', {
  key: ['revision'],
  columns: {
    revision: int,
    actor_id: int,
    at: given(moment),
    label: text,
    kind: text,
    undoable: flag,
    undone: given(flag),
    diff: bytes,
  },
  refers: { actor_id: 'actors' },
});

export const jobs = table('jobs', 'record', {
  identity: 'own',
  key: ['id'],
  columns: {
    id: given(uuid),
    actor_id: int,
    kind: text,
    input: json,
    status: given(text),
    phase: given(text),
    done: given(amount),
    total: given(amount),
    result: optional(json),
    failure: optional(json),
    runs: given(int),
    runner: optional(int),
    worker: optional(text),
    created_at: given(moment),
    ended_at: optional(moment),
  },
  refers: { actor_id: 'actors' },
});

export const removedKeywords = table('removed_keywords', 'record', {
  identity: 'none',
  key: [],
  columns: {
    revision: int,
    keyword_id: int,
  },
});

export const archivedRows = table('archived_rows', 'record', {
  identity: 'none',
  key: [],
  columns: {
    source_id: int,
    kind: text,
    body: json,
  },
});
