import { matchTypes, negativeTypes, standings } from '@sprig/core/match';
import { z } from 'zod';
import { count, micros, nothing, planParams, text } from '../../common.ts';
import { endpoint } from '../../endpoint.ts';
import { adTextsView } from './keys.ts';

/** How many fences there would be, before they are made. */
export const countFences = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/fences/count',
  access: 'read',
  reads: ['built'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ exact: count, tight: count, keywords: count, mostInGroup: count, limit: count }),
});

/** Who would have stolen from whom: pairs of ad groups, the most searched first. */
export const viewFences = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/fences',
  access: 'read',
  reads: ['built'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({
    pairs: z.array(
      z.object({
        from: z.string(),
        fromName: z.string(),
        keeper: z.string(),
        keeperName: z.string(),
        fences: count,
        searches: count,
        samples: z.array(z.string()),
      }),
    ),
    pairCount: count,
    fullest: z.array(z.object({ key: z.string(), name: z.string(), fences: count })),
    limit: count,
  }),
});
export type FencesView = z.output<(typeof viewFences)['answer']>;

export const viewAudit = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/audit',
  access: 'read',
  reads: ['built'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({
    tried: count,
    kept: count,
    failed: count,
    failures: z.array(
      z.object({
        key: z.string(),
        text: z.string(),
        group: z.string(),
        groupName: z.string(),
        /** What blocks it in its own group; null: nothing does. */
        blockedBy: z.string().nullable(),
        others: z.array(z.object({ key: z.string(), name: z.string(), has: z.boolean() })),
      }),
    ),
  }),
});
export type AuditView = z.output<(typeof viewAudit)['answer']>;

export const blockLevels = ['plan', 'list', 'campaign', 'group', 'fence'] as const;
const block = z.object({ text: z.string(), type: z.enum(negativeTypes), level: z.enum(blockLevels) });
const candidate = z.object({
  key: z.string(),
  text: z.string(),
  type: z.enum(matchTypes),
  marks: z.array(count),
  group: z.string(),
  groupName: z.string(),
  campaignName: z.string(),
  bid: micros,
  /** The share of the stems of keyword and search that both have, and bid × that. */
  relevance: z.object({ shared: count, all: count }),
  weight: micros,
  standing: z.enum(standings),
  blockedBy: block.nullable(),
});
export type TriedCandidate = z.infer<typeof candidate>;

/** Most searches of one paste. */
export const MOST_TRIED = 100_000;

export const trySearch = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/try',
  access: 'read',
  reads: ['built'],
  changes: [],
  params: planParams,
  query: nothing,
  body: z.object({ search: text(400) }),
  answer: z.object({
    builtRevision: count,
    search: z.string(),
    candidates: z.array(candidate),
    candidateCount: count,
    wonBy: z.enum(['alone', 'standing', 'bid', 'narrower', 'text', 'group']).nullable(),
    ad: adTextsView.nullable(),
  }),
});
export type TriedView = z.output<(typeof trySearch)['answer']>;

export const trySearches = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/try/many',
  access: 'read',
  reads: ['built'],
  changes: [],
  params: planParams,
  query: nothing,
  body: z.object({ text: text(8_000_000) }),
  answer: z.object({
    searches: count,
    answered: count,
    blocked: count,
    groups: z.array(
      z.object({ key: z.string(), name: z.string(), searches: count, samples: z.array(z.string()) }),
    ),
    groupCount: count,
    unanswered: z.array(z.string()),
    blockedSamples: z.array(z.string()),
  }),
});
export type TriedMany = z.output<(typeof trySearches)['answer']>;
