import { columnRoles } from '@sprig/core/gather';
import { matchTypes } from '@sprig/core/match';
import { z } from 'zod';
import { count, id, idText, micros, nothing, planParams, revisionAnswer, text } from '../common.ts';
import { endpoint, rawEndpoint } from '../endpoint.ts';

/** The most that one list may weigh. */
export const MOST_UPLOAD_BYTES = 100_000_000;

export const readOptions = z.object({
  delimiter: z.enum(['\t', ';', ',']).nullable().optional(),
  headerLine: z.number().int().positive().nullable().optional(),
  roles: z.array(z.enum(columnRoles)).max(200).optional(),
  decimal: z.enum(['.', ',']).optional(),
  takeOutNotAllowed: z.boolean().optional(),
  askedAs: z.enum(matchTypes).nullable().optional(),
  /** What amounts are multiplied by, in millionths. */
  rate: z.number().int().min(1).max(1_000_000_000).optional(),
  /** Lines that are keywords, though they look like a title, a heading or a total. */
  taken: z.array(z.number().int().positive()).max(2_000).optional(),
  commasPart: z.boolean().optional(),
  bullets: z.boolean().optional(),
});

/** The header that names what a model of estimates was learned from; `known` in the query asks for another one only. */
export const LEARNED_FROM = 'x-learned-from';

/** A day, `2027-03-31`. */
export const figuresDay = z
  .string()
  .regex(/^\d{4}-\d\d-\d\d$/, 'Not a day. Write it like 2027-03-31.')
  .refine((value) => !Number.isNaN(Date.parse(value)), 'There is no such day.');

export const uploadAnswer = z.object({ upload: z.uuid(), bytes: count });

export const startImport = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/imports',
  access: 'build',
  changes: ['jobs'],
  params: planParams,
  query: nothing,
  body: z.object({
    upload: z.uuid(),
    /** `figures`: no keyword goes in; what is said fills the figures of those that are there. */
    kind: z.enum(['paste', 'file', 'figures']),
    name: text(200).refine((name) => name.trim() !== '', 'A source needs a name.'),
    options: readOptions,
    /** The day that its figures are of; null: that on which it comes in. */
    figuresOn: figuresDay.nullable().default(null),
  }),
  answer: z.object({ job: z.uuid() }),
});

export const importResult = z.object({
  source: id,
  added: count,
  alreadyThere: count,
  negatives: count,
  problems: count,
  /** Keywords that are asked for in match types which they don't get, since theirs were set by hand. */
  byHand: count.default(0),
  /** Of figures that were read back: told of keywords that are there, of look-alikes of some, and of none. */
  figures: z.object({ met: count, alike: count, unmet: count }).nullable().default(null),
});
export type ImportResult = z.infer<typeof importResult>;

export const sourceSchema = z.object({
  id,
  kind: z.enum(['paste', 'file', 'hand', 'ideas', 'recipe', 'figures', 'estimates']),
  name: z.string(),
  madeAt: z.string(),
  /** The day that its figures are of, where somebody said so. */
  figuresOn: z.string().nullable(),
  actor: z.string(),
  /** Lines read, keywords among them, lines that said nothing new. */
  lines: count,
  keywords: count,
  /** Keywords that no other source brings. */
  onlyHere: count,
  repeated: count,
  problems: count,
});
export type Source = z.infer<typeof sourceSchema>;

export const listSources = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/sources',
  access: 'read',
  reads: ['plan'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ sources: z.array(sourceSchema) }),
});

export const problemLine = z.object({
  id,
  line: count,
  raw: z.string(),
  code: z.string(),
  at: count,
  character: z.string().nullable(),
  kept: z.boolean(),
});
export type ProblemLine = z.infer<typeof problemLine>;

export const listProblems = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/sources/:source/problems',
  access: 'read',
  reads: ['plan'],
  params: planParams.extend({ source: idText }),
  query: nothing,
  body: nothing,
  answer: z.object({ problems: z.array(problemLine) }),
});

/** Reads a line again as mended; `null` lets it go. */
export const mendProblem = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/problems/:problem',
  access: 'build',
  changes: ['plan'],
  params: planParams.extend({ problem: idText }),
  query: nothing,
  body: z.object({ text: text(2_000).nullable() }),
  answer: revisionAnswer,
});

export const renameSource = endpoint({
  method: 'PATCH',
  path: '/api/plans/:plan/sources/:source',
  access: 'build',
  changes: ['plan'],
  params: planParams.extend({ source: idText }),
  query: nothing,
  body: z.object({
    name: text(200).refine((name) => name.trim() !== '', 'A source needs a name.'),
    before: z.string(),
  }),
  answer: revisionAnswer,
});

export const removeSource = endpoint({
  method: 'DELETE',
  path: '/api/plans/:plan/sources/:source',
  access: 'build',
  changes: ['plan'],
  params: planParams.extend({ source: idText }),
  query: nothing,
  body: nothing,
  answer: revisionAnswer,
});

/** Cuts keywords or puts them back. */
export const setCut = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/keywords/cut',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ ids: z.array(id).min(1).max(1_000_000), cut: z.boolean() }),
  answer: revisionAnswer,
});

/** Changes one keyword by hand. Figures given by hand belong to the source `hand`. */
export const editKeyword = endpoint({
  method: 'PATCH',
  path: '/api/plans/:plan/keywords/:keyword',
  access: 'build',
  changes: ['plan'],
  params: planParams.extend({ keyword: idText }),
  query: nothing,
  body: z.discriminatedUnion('field', [
    z.object({ field: z.literal('text'), before: z.string(), after: text(400) }),
    z.object({
      field: z.literal('searches'),
      before: count.nullable(),
      after: count.max(2_000_000_000).nullable(),
    }),
    z.object({ field: z.literal('cpc'), before: count.nullable(), after: micros.nullable() }),
  ]),
  answer: revisionAnswer,
});

/** Changes the texts of many keywords at once; those that can't be are answered one by one, and the others go through. */
export const rewriteKeywords = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/keywords/rewrite',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    edits: z
      .array(z.object({ id, before: z.string(), after: text(100_000) }))
      .min(1)
      .max(100_000),
  }),
  answer: revisionAnswer.extend({
    changed: count,
    refusedCount: count,
    refused: z.array(z.object({ id, text: z.string(), why: z.string() })),
  }),
});

/** At most so many keywords are filled in one change. */
export const MOST_FILLED = 100_000;

/**
 * Texts and figures of many keywords by hand, in one change: cells that were pasted. A text that can't be is answered
 * one by one, and the others go through; a figure that is left out stays, null takes the one given by hand away.
 */
export const fillKeywords = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/keywords/fill',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    texts: z.array(z.object({ id, before: z.string(), after: text(400) })).max(MOST_FILLED),
    figures: z
      .array(
        z.object({
          id,
          searches: count.max(2_000_000_000).nullable().optional(),
          cpc: micros.nullable().optional(),
        }),
      )
      .max(MOST_FILLED),
  }),
  answer: revisionAnswer.extend({
    refusedCount: count,
    refused: z.array(z.object({ id, text: z.string(), why: z.string() })),
  }),
});

/**
 * Keeps estimated CPCs as they are: bids of keywords whose CPC nobody told follow them from then on, until they are
 * taken again or let go (`cpc` null).
 */
export const takeEstimatedCpcs = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/keywords/estimates',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    taken: z
      .array(z.object({ id, cpc: micros.nullable() }))
      .min(1)
      .max(200_000),
  }),
  answer: revisionAnswer,
});

/** Columns that sheets were said to keep as they are, by their headings, with how many keywords have something in each. */
export const listKeptColumns = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/kept-columns',
  access: 'read',
  reads: ['plan'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ keptColumns: z.array(z.object({ heading: z.string(), keywords: count })) }),
});

/**
 * What each month has of a mean month's searches, in basis points, by what columns of months tell of the keywords
 * searched most; null where not all twelve months are told.
 */
export const readSeason = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/season',
  access: 'read',
  reads: ['plan'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ season: z.object({ parts: z.array(count), keywords: count }).nullable() }),
});

/** What stands in such a column, by keyword: what the newest source with it says. */
export const readKeptColumn = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/kept-columns/values',
  access: 'read',
  reads: ['plan'],
  params: planParams,
  query: z.object({ heading: z.string().min(1).max(400) }),
  body: nothing,
  answer: z.object({ ids: z.array(id), texts: z.array(z.string()) }),
});

/** Keeps a list or a sheet until it is taken in; answers the name that it is kept under. */
export const uploadList = rawEndpoint({
  method: 'POST',
  path: '/api/plans/:plan/uploads',
  access: 'build',
  changes: [],
  params: planParams,
  query: nothing,
  takes: 'application/octet-stream',
  answers: 'application/json',
});

/** The pool in packed columns, whole or what has changed since a revision. */
export const fetchPool = rawEndpoint({
  method: 'GET',
  path: '/api/plans/:plan/pool',
  access: 'read',
  params: planParams,
  query: z.object({ since: z.coerce.number().int().min(0).default(0) }),
  takes: null,
  answers: 'application/x-sprig-pool',
});

/** What was learned of the told figures; nothing where it is what is known already. */
export const fetchEstimates = rawEndpoint({
  method: 'GET',
  path: '/api/plans/:plan/estimates',
  access: 'read',
  params: planParams,
  query: z.object({ known: z.string().max(200).optional() }),
  takes: null,
  answers: 'application/json',
});
