import { z } from 'zod';
import { count, id, idText, nothing, planParams, text } from '../common.ts';
import { endpoint } from '../endpoint.ts';
import { isoDay } from './learn.ts';

/** What a note may be about. */
export const noteKinds = ['plan', 'campaign', 'group', 'ad', 'keyword', 'theme', 'finding', 'worth'] as const;
export type NoteKind = (typeof noteKinds)[number];

/** `key`: the number of a keyword or theme, the key of what is built, the rule of a finding, the code of what is worth doing; of the plan itself empty. */
const aboutKey = z.strictObject({ kind: z.enum(noteKinds), key: text(400) });
export type AboutKey = z.infer<typeof aboutKey>;

const MOST_NOTE = 4_000;
const noteText = text(MOST_NOTE).refine((words) => words.trim() !== '', 'Write something first.');

const somebody = z.object({ actor: id, name: z.string() });
export const noteView = z.object({
  id,
  about: aboutKey.extend({
    /** As it is called now, or was when it was there last; empty where its kind says all. */
    name: z.string(),
    /** Whether the plan still has it. */
    isThere: z.boolean(),
  }),
  text: z.string(),
  by: somebody,
  at: z.string(),
  editedAt: z.string().nullable(),
  /** Those whose name stands in the text behind an @. */
  mentions: z.array(id),
  /** Whose work it is, and until when. */
  for: somebody.nullable(),
  due: isoDay.nullable(),
  done: z.object({ by: z.string(), at: z.string() }).nullable(),
  /** Whether who asks has written it. */
  isYours: z.boolean(),
});
export type NoteView = z.infer<typeof noteView>;

/** `open`: not done; `mine`: open, and for who asks, or with their name in it. */
export const noteOnly = ['open', 'mine', 'done', 'all'] as const;
export const NOTE_PAGE = 100;

/** Notes of a plan, newest first; those with a day come before the others, the nearest first. */
export const listNotes = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/notes',
  access: 'read',
  reads: ['work', 'people'],
  params: planParams,
  query: z.object({
    only: z.enum(noteOnly).default('open'),
    kind: z.enum(noteKinds).optional(),
    key: z.string().max(400).optional(),
    from: z.coerce.number().int().min(0).max(1_000_000).default(0),
  }),
  body: nothing,
  answer: z.object({ notes: z.array(noteView), total: count, today: isoDay }),
});

/** How many notes are open, and what they are about. */
export const readNoteMarks = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/notes/marks',
  access: 'read',
  reads: ['work', 'people'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({
    open: count,
    mine: count,
    /** Of the newest 5,000 that are open. */
    marks: z.array(aboutKey.extend({ open: count })),
  }),
});

const given = {
  /** Who is to do it; null: nobody in particular. */
  for: id.nullable(),
  due: isoDay.nullable(),
};

export const addNote = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/notes',
  access: 'read',
  changes: ['work'],
  params: planParams,
  query: nothing,
  /** `said`: what a finding, or a thing that is worth doing, said when the note was written. */
  body: z.strictObject({ about: aboutKey, said: text(300).default(''), text: noteText, ...given }),
  answer: z.object({ id }),
});

const noteParams = planParams.extend({ note: idText });

/** Its text is changed by who has written it; whose it is, its day and whether it is done by whoever sees it. */
export const changeNote = endpoint({
  method: 'PATCH',
  path: '/api/plans/:plan/notes/:note',
  access: 'read',
  changes: ['work'],
  params: noteParams,
  query: nothing,
  body: z
    .strictObject({ text: noteText, ...given, done: z.boolean() })
    .partial()
    .refine((parts) => Object.keys(parts).length > 0, 'Nothing is to be changed.'),
  answer: nothing,
});

/** Takes away a note; only who has written it, or an owner. */
export const removeNote = endpoint({
  method: 'DELETE',
  path: '/api/plans/:plan/notes/:note',
  access: 'read',
  changes: ['work'],
  params: noteParams,
  query: nothing,
  body: nothing,
  answer: nothing,
});

/** What is open for who asks, in all plans that they see: the nearest day first. */
export const listMyWork = endpoint({
  method: 'GET',
  path: '/api/work',
  access: 'self',
  reads: ['plans', 'people', 'work'],
  params: nothing,
  query: nothing,
  body: nothing,
  answer: z.object({
    notes: z.array(z.object({ plan: id, planName: z.string(), note: noteView })),
    total: count,
    today: isoDay,
  }),
});
