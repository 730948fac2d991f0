import type { Rewriting } from '@sprig/core/gather';
import { caseStyles } from '@sprig/core/text';
import { z } from 'zod';
import { count, id, nothing, planParams, revisionAnswer, someOf, text } from '../../common.ts';
import { endpoint } from '../../endpoint.ts';
import { heldInput, holdFields, MOST_HELD } from './holds.ts';
import { anyKey, campaignKey } from './keys.ts';
import { settingSetSchema } from './sets.ts';

/** What may be changed of the settings of campaigns: each by itself, the others stay. */
export const settingValues = someOf(settingSetSchema.omit({ id: true, name: true, shared: true }));
export type SettingValues = z.infer<typeof settingValues>;

const MOST_CAMPAIGNS = 20_000;
const campaignCell = z.tuple([campaignKey, z.enum(holdFields), heldInput]);
const campaignKeys = z.array(campaignKey).min(1).max(MOST_CAMPAIGNS);

/** What campaigns come to have: settings that are there, changed or new, and how many have them; `id` is null for the brief's, and where they are yet to be made. */
export const settledSet = z.object({
  id: id.nullable(),
  name: z.string(),
  /** How they come about: they say it already, they are changed for all that have them, or they are made. */
  how: z.enum(['there', 'changed', 'made']),
  campaigns: count,
});
export type SettledSet = z.infer<typeof settledSet>;

/**
 * Changes many campaigns at once: values of each (names, budgets, statuses, labels, named settings), and what some of
 * them are set to. Settings that others have too stay as they are: those that are changed get settings under a name of
 * their own. One value that can't be kept refuses them all. `dry`: says what settings they would have.
 */
export const changeCampaigns = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/campaigns/change',
  access: 'build',
  reads: ['built', 'plan'],
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    values: z.array(campaignCell).max(MOST_HELD),
    /** Some of the settings changed, or others given by their number; null: the brief's. */
    settings: z
      .array(
        z.union([
          z.strictObject({ campaigns: campaignKeys, values: settingValues }),
          z.strictObject({ campaigns: campaignKeys, set: id.nullable() }),
        ]),
      )
      .max(MOST_CAMPAIGNS),
    dry: z.boolean(),
  }),
  answer: revisionAnswer.extend({ held: count, sets: z.array(settledSet) }),
});

const typed = text(500);
const rewriting = z.strictObject({
  find: typed,
  replace: typed,
  isPattern: z.boolean(),
  prefix: typed,
  suffix: typed,
  style: z.enum(caseStyles),
}) satisfies z.ZodType<Rewriting>;

/** What of campaigns, ad groups, keyword rows and ads is found and replaced: names, labels, final URLs. */
export const rewritables = ['names', 'labels', 'urls'] as const;
export type Rewritable = (typeof rewritables)[number];

/** Of which it is changed: these, or all that are there. Final URLs of campaigns and ad groups are those of their ads. */
export const nameScope = z.union([
  z.strictObject({
    keys: z.array(anyKey).min(1).max(MOST_HELD),
  }),
  z.strictObject({ all: z.enum(['campaigns', 'groups']) }),
]);

/** Changes many names, labels or final URLs, or says what it would do. They are held from then on. */
export const rewriteNames = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/names/rewrite',
  access: 'build',
  reads: ['built'],
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ scope: nameScope, of: z.enum(rewritables).default('names'), rewriting, dry: z.boolean() }),
  answer: revisionAnswer.extend({
    /** How many there are of what is chosen. */
    names: count,
    changed: count,
    samples: z.array(z.object({ key: z.string(), before: z.string(), after: z.string() })),
    /** Those that can't be, and why: they stay as they are. */
    refused: z.array(z.object({ key: z.string(), before: z.string(), after: z.string(), why: z.string() })),
    refusedCount: count,
  }),
});
export type RewrittenNames = z.output<(typeof rewriteNames)['answer']>;
