import type { DeskState, NoteKind } from '@sprig/contracts';
import {
  amount,
  bytes,
  day,
  flag,
  given,
  holding,
  int,
  ints,
  json,
  moment,
  optional,
  table,
  text,
  uuid,
} from './define.ts';

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

export const notes = table('notes', 'record', {
  identity: 'own',
  key: ['id'],
  columns: {
    id: given(int),
    about_kind: holding<NoteKind>(text),
    about_key: text,
    about_name: text,
    text,
    by_actor: int,
    at: given(moment),
    edited_at: optional(moment),
    mentions: given(ints),
    for_actor: optional(int),
    due: optional(day),
    done_at: optional(moment),
    done_by: optional(int),
  },
  refers: { by_actor: 'actors', for_actor: 'actors', done_by: 'actors' },
});

/** The ads of ad groups as they were handed over or judged. */
export const handOvers = table('hand_overs', 'record', {
  key: ['group_key'],
  columns: {
    group_key: text,
    state: holding<Exclude<DeskState, 'open'>>(text),
    stamp: text,
    reason: given(text),
    by_actor: int,
    at: given(moment),
  },
  refers: { by_actor: 'actors' },
});
