import { negativeTypes } from '@sprig/core/match';
import { z } from 'zod';
import { count, nothing, planParams, revisionAnswer, text } from '../../common.ts';
import { endpoint } from '../../endpoint.ts';
import { blockLevels } from './fences.ts';
import { campaignKey, groupKey } from './keys.ts';

export const negativeSorts = ['text', 'type', 'place', 'level'] as const;
export const negativeQuery = z.object({
  filter: z.string().max(200).default(''),
  level: z.enum(['all', ...blockLevels, 'out']).default('all'),
  sort: z.enum(negativeSorts).default('level'),
  down: z.enum(['true', 'false']).default('false'),
});

/** The keys of all negatives of a plan, of every level, its fences among them, and those fences that were taken away. */
export const orderAllNegatives = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/all-negatives',
  access: 'read',
  reads: ['built', 'plan'],
  params: planParams,
  query: negativeQuery,
  body: nothing,
  answer: z.object({ builtRevision: count, keys: z.array(z.string()) }),
});

export const allNegative = z.object({
  key: z.string(),
  /** `out`: a fence that was taken away for good. */
  level: z.enum([...blockLevels, 'out']),
  text: z.string(),
  type: z.enum(negativeTypes),
  /** The campaign or ad group that it is of, by its key and its name; the list by its name. */
  place: z.string(),
  placeName: z.string(),
  /** Of a fence, the ad group that it keeps the search for; of one that was taken away, why. */
  note: z.string(),
  /** It takes keywords out of the pool. */
  blocks: z.boolean(),
});
export type AllNegative = z.infer<typeof allNegative>;

const keys = z.array(z.string().max(700));

export const pageAllNegatives = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/all-negatives/page',
  access: 'read',
  reads: ['built', 'plan'],
  changes: [],
  params: planParams,
  query: nothing,
  body: z.object({ keys: keys.max(500) }),
  answer: z.object({ negatives: z.array(allNegative) }),
});

/** What becomes of negatives: another type, another place, or gone. Fences can only be taken away, with why, and put back. */
export const negativesChange = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('type'), type: z.enum(negativeTypes) }),
  z.strictObject({ kind: z.literal('plan') }),
  z.strictObject({ kind: z.literal('campaign') }),
  z.strictObject({
    kind: z.literal('places'),
    places: z
      .array(z.union([campaignKey, groupKey]))
      .min(1)
      .max(20_000),
  }),
  z.strictObject({ kind: z.literal('remove'), reason: text(300) }),
  z.strictObject({ kind: z.literal('back') }),
]);
export type NegativesChange = z.infer<typeof negativesChange>;

/**
 * Changes many negatives of whatever level. Those of shared lists are changed where the list is, and fences follow from the
 * build: what can't be done to a negative is counted in `left`.
 */
export const changeAllNegatives = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/all-negatives/change',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ keys: keys.min(1).max(300_000), change: negativesChange }),
  answer: revisionAnswer.extend({ changed: count, left: count }),
});
