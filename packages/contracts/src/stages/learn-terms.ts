import { matchTypes, negativeTypes } from '@sprig/core/match';
import { z } from 'zod';
import { count, nothing, planParams, revisionAnswer, text } from '../common.ts';
import { endpoint } from '../endpoint.ts';
import { askedOfResults } from './asked-of-results.ts';
import { groupKey } from './build/keys.ts';
import { days, isoDay, lookSchema, noLook, reportAccount } from './learn.ts';

const told = z.number().nullable();

/** Which search terms: those to judge, those that an exact keyword of the plan equals, or those that were judged or are blocked. */
export const termLists = ['open', 'kept', 'judged'] as const;
export type TermList = (typeof termLists)[number];

/**
 * What becomes of a term: an ad group of its own, a place in the ad group that answered it, a negative (in the whole plan, or
 * in that ad group), or nothing.
 */
export const termJudgement = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('own') }),
  z.strictObject({ kind: z.literal('into') }),
  z.strictObject({
    kind: z.literal('block'),
    type: z.enum(negativeTypes),
    where: z.enum(['plan', 'group']),
    /** What is blocked instead of the whole term: a word or two of it. */
    text: text(400).optional(),
  }),
  z.strictObject({ kind: z.literal('leave') }),
]);
export type TermJudgement = z.infer<typeof termJudgement>;
export const judgedTerm = z.object({ term: z.string(), judgement: termJudgement, on: isoDay });
export type JudgedTerm = z.infer<typeof judgedTerm>;

const about = z.object({ account: lookSchema.shape.account });

export const termsAnswer = z.object({
  account: reportAccount.nullable(),
  range: days.nullable(),
  grain: z.string().nullable(),
  why: noLook.nullable(),
  lists: z.array(z.object({ list: z.enum(termLists), terms: count, cost: z.number() })),
  /** Numbers of the terms of the list: those that the last report told of first, look-alikes together, the dearest first. */
  order: z.array(count),
  /** For each of them: how many look-alikes stand right below it; -1 where it is one of those itself. */
  alike: z.array(z.number().int().min(-1)),
  /** How many of them no report told of before the last. */
  fresh: count,
  /** Words, and two in a row, of all terms that are not kept out, that cost and sold nothing: the dearest first, each with its dearest term. */
  onlyCosting: z.array(
    z.object({ run: z.string(), terms: count, cost: z.number(), clicks: z.number(), dearest: z.string() }),
  ),
  stamp: z.string(),
});
export type TermsAnswer = z.infer<typeof termsAnswer>;

export const readTerms = endpoint({
  ...askedOfResults,
  path: '/api/plans/:plan/learn/terms',
  body: about.extend({ list: z.enum(termLists).default('open'), like: text(200).default('') }),
  answer: termsAnswer,
});

export const termRow = z.object({
  n: count,
  term: z.string(),
  impressions: z.number(),
  clicks: z.number(),
  cost: z.number(),
  conversions: told,
  /** The keyword that answered it most often, as the report names it, and how many others did. */
  by: z.object({
    keyword: z.string().nullable(),
    type: z.enum(matchTypes).nullable(),
    group: z.string().nullable(),
    campaign: z.string().nullable(),
    key: groupKey.nullable(),
    others: count,
  }),
  judged: judgedTerm.nullable(),
  /** No report told of it before the last one. */
  isFresh: z.boolean(),
  /** A negative of the plan keeps it out already. */
  isBlocked: z.boolean(),
});
export type TermRow = z.infer<typeof termRow>;

export const readTermRows = endpoint({
  ...askedOfResults,
  path: '/api/plans/:plan/learn/term-rows',
  body: about.extend({ rows: z.array(count).max(1_000) }),
  answer: z.object({ rows: z.array(termRow) }),
});

/** What a negative would keep out besides: own keywords, and other terms with what they brought. */
export const previewBlock = endpoint({
  ...askedOfResults,
  path: '/api/plans/:plan/learn/term-block',
  body: about.extend({ text: text(400), type: z.enum(negativeTypes) }),
  answer: z.object({
    keywords: z.object({ count, shown: z.array(z.string()) }),
    terms: z.object({
      count,
      clicks: z.number(),
      cost: z.number(),
      conversions: z.number(),
      shown: z.array(z.string()),
    }),
  }),
});

export const MOST_JUDGED = 5_000;

/** Judges terms, as one change: they do not come back. Those that can't become keywords are left out, and told. */
export const judgeTerms = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/learn/term-judgements',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: about.extend({
    terms: z.array(text(600)).min(1).max(MOST_JUDGED),
    judgement: termJudgement,
  }),
  answer: revisionAnswer.extend({ judged: count, refused: z.array(z.string()) }),
});
