import { origins } from '@sprig/core/figures';
import { z } from 'zod';
import { count, micros, nothing, planParams, revisionAnswer, text } from '../common.ts';
import { endpoint } from '../endpoint.ts';
import { importResult } from './gather.ts';

/** Where ideas come from. */
export const ideaRequest = z.discriminatedUnion('from', [
  z.object({ from: z.literal('seeds'), seeds: z.array(text(200)).min(1).max(200) }),
  z.object({ from: z.literal('page'), address: text(2_000) }),
  z.object({ from: z.literal('completions'), typed: text(200) }),
  z.object({ from: z.literal('pool') }),
]);

export const ideaFilters = z.object({
  contains: text(200).default(''),
  excludes: text(200).default(''),
  leastSearches: count.default(0),
});

export const ideaSchema = z.object({
  text: z.string(),
  searches: count,
  /** Searches of the last twelve months, oldest first. */
  months: z.array(count).length(12),
  competition: count,
  cpc: micros,
  impressions: count,
  /** Basis points. */
  ctr: count,
  inPool: z.boolean(),
});
export type Idea = z.infer<typeof ideaSchema>;

export const findIdeas = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/ideas',
  access: 'read',
  changes: [],
  params: planParams,
  query: nothing,
  body: z.object({ request: ideaRequest, filters: ideaFilters }),
  answer: z.object({
    provider: z.object({ name: z.string(), isStandIn: z.boolean() }),
    /** What the ideas were made of: the seeds, or the words found on the page. */
    seeds: z.array(z.string()),
    total: count,
    ideas: z.array(ideaSchema),
  }),
});

/** Takes ideas into the pool, with the market's figures of the moment. */
export const takeIdeas = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/ideas/take',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ name: text(200), texts: z.array(text(400)).min(1).max(20_000) }),
  answer: importResult,
});

/** Asks the market for figures of keywords that are in the pool; null: of all without any. */
export const askFigures = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/ideas/figures',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ ids: z.array(z.number().int().positive()).max(1_000_000).nullable() }),
  answer: importResult,
});

const origin = z.enum(origins).nullable();

/** What is known of one search, each figure with where it is from (null: nowhere), and what each position would cost. */
export const lookUp = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/search',
  access: 'read',
  reads: ['built'],
  params: planParams,
  query: z.object({ text: z.string().min(1).max(400) }),
  body: nothing,
  answer: z.object({
    text: z.string(),
    inPool: z.boolean(),
    searches: z.number().nullable(),
    cpc: z.number().nullable(),
    competition: z.number().nullable(),
    from: z.object({ searches: origin, cpc: origin, competition: origin }),
    /** Searches of the last twelve months, oldest first, where they are told or made up. */
    months: z.array(count).nullable(),
    /** The least bid that reaches each position, 1 = top; none where searches or the CPC are not known. */
    positions: z.array(
      z.object({ position: z.number(), bid: micros, clicks: z.number(), share: z.number() }),
    ),
  }),
});
export type SearchKnown = z.infer<(typeof lookUp)['answer']>;

export const siteRequest = z.object({
  address: text(2_000).refine((address) => address.trim() !== '', 'Type the address of a site.'),
});

/** Has a site read; the job's result is a `siteReading`. */
export const startSiteReading = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/site-readings',
  access: 'build',
  changes: ['jobs'],
  params: planParams,
  query: nothing,
  body: siteRequest,
  answer: z.object({ job: z.uuid() }),
});

const siteWhere = z.enum(['title', 'heading', 'navigation', 'link', 'picture', 'product']);

/** What was read of a site, what was not and why, and the runs of words that it speaks of. */
export const siteReading = z.object({
  address: z.string(),
  pages: z.array(z.object({ address: z.string(), title: z.string(), isCut: z.boolean() })),
  refused: z.array(z.object({ address: z.string(), why: z.string() })),
  isMore: z.boolean(),
  phrases: z.array(
    z.object({ text: z.string(), pages: count, where: z.array(siteWhere), weight: z.number() }),
  ),
});
export type SiteReading = z.infer<typeof siteReading>;

/** Ideas that are not to be proposed again. */
export const listDismissed = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/ideas/dismissed',
  access: 'read',
  reads: ['plan'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ texts: z.array(z.string()) }),
});

/** Dismisses ideas, or lets them be proposed again. */
export const dismissIdeas = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/ideas/dismiss',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ texts: z.array(text(400)).min(1).max(20_000), dismissed: z.boolean() }),
  answer: revisionAnswer,
});
