import { LONGEST_KEYWORD, negativeTypes } from '@sprig/core/match';
import { z } from 'zod';
import { count, fieldEdits, id, idText, nothing, planParams, revisionAnswer, text } from '../../common.ts';
import { endpoint } from '../../endpoint.ts';
import { factsSchema } from '../brief.ts';
import { campaignKey, groupKey, MOST_KEY } from './keys.ts';
import { placedNegative } from './rows.ts';

const addedNegative = z.object({ text: text(400), type: z.enum(negativeTypes) });

/** Adds negatives to campaigns or ad groups by hand. */
export const placeNegatives = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/placed-negatives',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    places: z.array(z.string().max(MOST_KEY)).min(1).max(20_000),
    negatives: z.array(addedNegative).min(1).max(10_000),
  }),
  answer: revisionAnswer.extend({ added: count }),
});

export const listPlaced = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/placed-negatives',
  access: 'read',
  reads: ['plan'],
  params: planParams,
  query: z.object({ place: z.string().max(MOST_KEY) }),
  body: nothing,
  answer: z.object({ negatives: z.array(placedNegative) }),
});

export const removePlacedNegatives = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/placed-negatives/remove',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ ids: z.array(id).min(1).max(100_000) }),
  answer: revisionAnswer,
});

/** Which campaigns an attached list is for; null: all. */
export const attachToCampaigns = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/attached-lists/:list/campaigns',
  access: 'build',
  changes: ['plan'],
  params: planParams.extend({ list: idText }),
  query: nothing,
  body: z.object({ campaigns: z.array(campaignKey).max(1_000).nullable() }),
  answer: revisionAnswer,
});

export const listAttached = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/attached-lists',
  access: 'read',
  reads: ['plan'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({
    lists: z.array(
      z.object({ id, name: z.string(), negatives: count, campaigns: z.array(z.string()).nullable() }),
    ),
  }),
});

/** A campaign's settings under a name, to be given to others. */
export const settingSetSchema = factsSchema
  .pick({
    networks: true,
    locations: true,
    locationsOut: true,
    presence: true,
    languages: true,
    schedule: true,
    devices: true,
    delivery: true,
    strategy: true,
    targetCost: true,
    targetReturn: true,
    conversions: true,
    starts: true,
    ends: true,
    rotation: true,
    sitesOut: true,
  })
  .extend({
    id,
    name: text(120).refine((name) => name.trim() !== '', 'These settings need a name.'),
    /** Those of the workspace that they are: whoever changes these changes them in all plans; null: the plan's own. */
    shared: id.nullable().default(null),
  });
export type SettingSet = z.infer<typeof settingSetSchema>;

export const listSettingSets = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/setting-sets',
  access: 'read',
  reads: ['plan'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ sets: z.array(settingSetSchema) }),
});

const sharedSettings = z.object({
  id,
  name: z.string(),
  /** How many plans have them, and the number that they have in this one. */
  plans: count,
  here: id.nullable(),
});
export type SharedSettings = z.infer<typeof sharedSettings>;

/** The settings that belong to the workspace: plans have them, and change with them. */
export const listSharedSettings = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/shared-settings',
  access: 'read',
  reads: ['plan'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ shared: z.array(sharedSettings) }),
});

/** Makes a plan's own settings the workspace's, or has the plan keep them as its own again. */
export const shareSettingSet = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/setting-sets/:set/share',
  access: 'build',
  changes: ['plan'],
  params: planParams.extend({ set: idText }),
  query: nothing,
  body: z.object({ shared: z.boolean() }),
  answer: revisionAnswer,
});

/** Has a plan use settings of the workspace, and gives them to campaigns. */
export const takeSharedSettings = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/shared-settings/:shared/take',
  access: 'build',
  changes: ['plan'],
  params: planParams.extend({ shared: idText }),
  query: nothing,
  body: z.object({ campaigns: z.array(campaignKey).max(1_000) }),
  answer: revisionAnswer.extend({ id }),
});

/** What was copied, and where keywords of split themes stand: what a build besides its rules keeps in its place. */
export const readStanding = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/standing',
  access: 'read',
  reads: ['built'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({
    copies: z.array(
      z.object({
        id,
        of: z.string(),
        name: z.string(),
        ads: z.boolean(),
        /** Its keywords where it follows the first no more, and its campaign. */
        own: z.object({ keywords: z.array(id), campaign: z.string() }).nullish(),
      }),
    ),
    parts: z.array(z.object({ unit: z.string(), part: count, keywords: z.array(id) })),
  }),
});
export type BuiltStanding = z.infer<typeof readStanding.answer>;

/** Makes a set, of the brief's settings or of another set's, and gives it to campaigns. */
export const makeSettingSet = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/setting-sets',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ name: text(120), from: id.nullable(), campaigns: z.array(campaignKey).max(1_000) }),
  answer: revisionAnswer.extend({ id }),
});

export const editSettingSet = endpoint({
  method: 'PATCH',
  path: '/api/plans/:plan/setting-sets/:set',
  access: 'build',
  changes: ['plan'],
  params: planParams.extend({ set: idText }),
  query: nothing,
  body: fieldEdits,
  answer: revisionAnswer,
});

export const removeSettingSet = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/setting-sets/:set/remove',
  access: 'build',
  changes: ['plan'],
  params: planParams.extend({ set: idText }),
  query: nothing,
  body: nothing,
  answer: revisionAnswer,
});

/** Makes a campaign or an ad group once more, following the first; a lane is copied in the layout. */
export const copyBuilt = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/copies',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ of: z.union([campaignKey, groupKey]), name: text(500), ads: z.boolean() }),
  answer: revisionAnswer.extend({ key: z.string() }),
});

/** A copy of an ad group with more keywords of its own is not to be had. */
export const MOST_OWN = 10_000;
/**
 * Gives a copied ad group keywords of its own: those that it has now, or these of the pool, by their texts. From then on it
 * follows the first no more; null: it does again.
 */
export const editCopy = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/copies/own',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    key: groupKey,
    own: z.union([z.literal('as-is'), z.array(text(LONGEST_KEYWORD)).min(1).max(MOST_OWN)]).nullable(),
  }),
  answer: revisionAnswer.extend({ keywords: count }),
});

export const removeCopy = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/copies/remove',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ key: z.string().max(MOST_KEY) }),
  answer: revisionAnswer,
});
