import type { NetworkName } from '@sprig/core/outlets';
import { adFields } from '@sprig/core/write';
import { z } from 'zod';
import { count, id, micros, nothing, planParams, revisionAnswer, text } from '../../common.ts';
import { endpoint } from '../../endpoint.ts';
import { anyKey, MOST_KEY } from './keys.ts';

export const holdFields = [
  'name',
  'bid',
  'step',
  'status',
  'labels',
  'lead',
  'budget',
  'settings',
  ...adFields,
  'finalUrl',
  'path',
  'matching',
  'rotation',
  'bidPartners',
  'bidDisplay',
] as const;
export type HoldField = (typeof holdFields)[number];
/** The field that a bid on a network is held in. */
export const bidFields = {
  search: 'bid',
  partners: 'bidPartners',
  display: 'bidDisplay',
} as const satisfies Record<NetworkName, HoldField>;
export const heldInput = z.union([text(2_000), micros]);

/**
 * Sets a value of a derived row by hand. Who may write holds values of ads; those of all else are held by who may build. So it is
 * with the calls below.
 */
export const holdValue = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/holds',
  access: 'write',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    rowKey: anyKey,
    field: z.enum(holdFields),
    value: heldInput,
    /** What was held before, null if nothing was. */
    before: z.union([z.string(), z.number()]).nullable(),
  }),
  answer: revisionAnswer,
});

/** At most so many values are set, or bids changed, in one change. */
export const MOST_HELD = 300_000;

/** A value of a row: its key, the field, the value. */
const heldCell = z.tuple([anyKey, z.enum(holdFields), heldInput]);

/** Holds one value for a field of many rows: a status, a step. */
export const holdMany = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/holds/many',
  access: 'write',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    rowKeys: z.array(anyKey).min(1).max(MOST_HELD),
    field: z.enum(['status', 'step', 'budget', 'settings']),
    value: heldInput,
  }),
  answer: revisionAnswer.extend({ held: count }),
});

/** Holds values of many rows, each its own: cells that were pasted. One that can't be kept refuses them all. */
export const holdEach = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/holds/each',
  access: 'write',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    values: z.array(heldCell).min(1).max(MOST_HELD),
  }),
  answer: revisionAnswer.extend({ held: count }),
});

const labelList = z.array(text(200)).max(50);

/** Gives labels to many campaigns, ad groups or keyword rows and takes others away; what they have besides stays. */
export const labelMany = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/holds/labels',
  access: 'write',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z
    .object({ rowKeys: z.array(anyKey).min(1).max(MOST_HELD), add: labelList, remove: labelList })
    .refine(({ add, remove }) => add.length + remove.length > 0, 'Name a label to give or to take away.'),
  answer: revisionAnswer.extend({ held: count }),
});

export const letGo = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/holds/let-go',
  access: 'write',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    places: z
      .array(z.object({ rowKey: z.string().max(MOST_KEY), field: z.string().max(40) }))
      .min(1)
      .max(MOST_HELD),
  }),
  answer: revisionAnswer,
});

export const heldValue = z.object({
  id,
  rowKey: z.string(),
  field: z.string(),
  outlet: z.string().nullable(),
  value: z.union([z.string(), z.number()]),
  /** True: the row it stood on is no longer made. */
  orphan: z.boolean(),
  /** The keyword or the theme it is about, where there is one still, and whether it is cut. */
  keyword: z.string().nullable(),
  keywordId: count,
  cut: z.boolean(),
});
export type HeldValue = z.infer<typeof heldValue>;

export const listHolds = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/holds',
  access: 'read',
  reads: ['plan', 'built'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ holds: z.array(heldValue) }),
});
