import { negativeTypes } from '@sprig/core/match';
import { z } from 'zod';
import { count, id, idText, nothing, planParams, revisionAnswer, text } from '../common.ts';
import { endpoint } from '../endpoint.ts';

const ids = z.array(id).min(1).max(1_000_000);
const negativeText = text(400).refine((value) => value.trim() !== '', 'A negative keyword needs a word.');

/** Folds look-alikes into the keyword that is kept: they leave what is built, and keep their figures and sources. */
export const foldKeywords = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/keywords/fold',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    folds: z
      .array(z.object({ keeper: id, others: ids }))
      .min(1)
      .max(500_000),
  }),
  answer: revisionAnswer,
});

export const unfoldKeywords = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/keywords/unfold',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ ids }),
  answer: revisionAnswer,
});

/** Keywords that are to stand for themselves are not offered as look-alikes again. */
export const setApart = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/keywords/apart',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ ids, apart: z.boolean() }),
  answer: revisionAnswer,
});

export const negativeReasons = ['hand', 'block'] as const;

export const negativeSchema = z.object({
  id,
  text: z.string(),
  norm: z.string(),
  type: z.enum(negativeTypes),
  /** `block`: it takes the pool's own keywords out; `hand`: it only stands in the campaigns. */
  reason: z.enum(negativeReasons),
  source: id.nullable(),
});
export type Negative = z.infer<typeof negativeSchema>;

export const listNegatives = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/negatives',
  access: 'read',
  reads: ['plan'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ negatives: z.array(negativeSchema) }),
});

const newNegative = z.object({ text: negativeText, type: z.enum(negativeTypes) });

/** Adds negatives for all of the plan's campaigns; those of one campaign or ad group are placed there, in Build. */
export const addNegatives = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/negatives',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    negatives: z.array(newNegative).min(1).max(100_000),
    reason: z.enum(negativeReasons),
    /** A shared list in the place of the plan; the plan gets it attached. */
    list: id.optional(),
  }),
  answer: revisionAnswer.extend({ added: count, blocked: count }),
});

/** Makes negatives block the pool's keywords, or only stand in the campaigns. */
export const setReason = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/negatives/reason',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ ids, reason: z.enum(negativeReasons) }),
  answer: revisionAnswer,
});

export const removeNegatives = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/negatives/remove',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ ids }),
  answer: revisionAnswer,
});

/** Words judged to be kept: they are not asked again. */
export const listVerdicts = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/verdicts',
  access: 'read',
  reads: ['plan'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ kept: z.array(z.string()) }),
});

export const keepWords = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/verdicts',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ words: z.array(text(400)).min(1).max(100_000), keep: z.boolean() }),
  answer: revisionAnswer,
});

export const sharedList = z.object({
  id,
  name: z.string(),
  about: z.string(),
  attached: z.boolean(),
  /** Plans that attach it. */
  plans: count,
  negatives: z.array(z.object({ id, text: z.string(), norm: z.string(), type: z.enum(negativeTypes) })),
});
export type SharedList = z.infer<typeof sharedList>;

export const listShared = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/shared-lists',
  access: 'read',
  reads: ['plan'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ lists: z.array(sharedList) }),
});

const listName = text(120).refine((name) => name.trim() !== '', 'A list needs a name.');

export const makeShared = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/shared-lists',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ name: listName, about: text(300).default('') }),
  answer: revisionAnswer.extend({ id }),
});

const listParams = planParams.extend({ list: idText });

export const renameShared = endpoint({
  method: 'PATCH',
  path: '/api/plans/:plan/shared-lists/:list',
  access: 'build',
  changes: ['plan'],
  params: listParams,
  query: nothing,
  body: z.object({ name: listName, before: z.string() }),
  answer: revisionAnswer,
});

export const attachShared = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/shared-lists/:list/attach',
  access: 'build',
  changes: ['plan'],
  params: listParams,
  query: nothing,
  body: z.object({ attach: z.boolean() }),
  answer: revisionAnswer,
});

export const removeFromShared = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/shared-lists/:list/remove',
  access: 'build',
  changes: ['plan'],
  params: listParams,
  query: nothing,
  body: z.object({ ids }),
  answer: revisionAnswer,
});
