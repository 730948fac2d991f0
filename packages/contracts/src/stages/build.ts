import { matchTypes } from '@sprig/core/match';
import { caseStyles, parseLine } from '@sprig/core/text';
import { adFields } from '@sprig/core/write';
import { z } from 'zod';
import { count, fieldEdits, id, micros, nothing, planParams, revisionAnswer, text } from '../common.ts';
import { endpoint } from '../endpoint.ts';

/** 0 to 1000%. */
export const basisPoints = z.number().int().min(0).max(100_000);

export const layoutSchema = z
  .strictObject({
    campaignName: text(500).refine((name) => name.trim() !== '', 'A campaign needs a name.'),
    dailyBudget: micros,
    groupName: z.strictObject({
      pattern: text(500).refine((pattern) => pattern.trim() !== '' && !('problem' in parseLine(pattern)), {
        message: 'The name may hold @keyword and plain text only.',
      }),
      style: z.enum(caseStyles),
    }),
    asAsked: z.boolean(),
    types: z.number().int().min(1, 'At least one match type is needed.').max(15),
    ladder: z.strictObject({
      defaultBase: micros,
      steps: z.strictObject({
        broad: basisPoints,
        modified: basisPoints,
        phrase: basisPoints,
        exact: basisPoints,
      }),
      floor: micros,
      ceiling: micros,
    }),
  })
  .refine(({ ladder }) => ladder.floor <= ladder.ceiling, {
    message: 'The least bid is above the greatest. Lower the one or raise the other.',
    path: ['ladder', 'floor'],
  });

export const readLayout = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/layout',
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ layout: layoutSchema }),
});

export const editLayout = endpoint({
  method: 'PATCH',
  path: '/api/plans/:plan/layout',
  params: planParams,
  query: nothing,
  body: fieldEdits,
  answer: revisionAnswer,
});

export const groupSorts = ['made', 'name', 'searches', 'bid'] as const;
export const groupQuery = z.object({
  filter: z.string().max(200).default(''),
  sort: z.enum(groupSorts).default('made'),
  down: z.enum(['true', 'false']).default('false'),
  only: z.enum(['all', 'held', 'no-estimate']).default('all'),
});

/** Ordered keys first, then pages by key: the scroll bar can jump anywhere. */
export const orderGroups = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/groups',
  params: planParams,
  query: groupQuery,
  body: nothing,
  answer: z.object({ builtRevision: count, keys: z.array(z.string()) }),
});

export const groupRow = z.object({
  key: z.string(),
  keyword: z.string(),
  name: z.string(),
  searches: count.nullable(),
  base: micros,
  baseFrom: z.enum(['held', 'estimate', 'default']),
  /** The rule's values under what is held. */
  covered: z.record(z.string(), z.union([z.string(), z.number(), z.null()])).nullable(),
  rows: z.array(
    z.object({
      key: z.string(),
      type: z.enum(matchTypes),
      bid: micros,
      held: z.boolean(),
      ruleBid: micros,
    }),
  ),
});
export type GroupRow = z.infer<typeof groupRow>;

export const pageGroups = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/groups/page',
  params: planParams,
  query: nothing,
  body: z.object({ keys: z.array(z.string().max(40)).max(500) }),
  answer: z.object({ groups: z.array(groupRow) }),
});

export const holdFields = ['name', 'bid', ...adFields] as const;

/** A value set by hand on a derived row: a group's name or bid, a row's bid, an ad's text. */
export const holdValue = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/holds',
  params: planParams,
  query: nothing,
  body: z.object({
    rowKey: z.string().regex(/^k\d+(?::[bmpe]|\/a1)?$/),
    field: z.enum(holdFields),
    value: z.union([text(2_000), micros]),
    /** What was held before, null if nothing was. */
    before: z.union([z.string(), z.number()]).nullable(),
  }),
  answer: revisionAnswer,
});

export const letGo = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/holds/let-go',
  params: planParams,
  query: nothing,
  body: z.object({
    places: z
      .array(z.object({ rowKey: z.string().max(40), field: z.string().max(40) }))
      .min(1)
      .max(100_000),
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
  /** The keyword whose group it is about, where there is one still, and whether it is cut. */
  keyword: z.string().nullable(),
  keywordId: id,
  cut: z.boolean(),
});
export type HeldValue = z.infer<typeof heldValue>;

export const listHolds = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/holds',
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ holds: z.array(heldValue) }),
});
