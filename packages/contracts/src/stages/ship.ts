import { cellValues, findingRules, sheetKinds } from '@sprig/core/ship';
import { type AdField, adFields } from '@sprig/core/write';
import { z } from 'zod';
import { count, micros, nothing, planParams } from '../common.ts';
import { endpoint } from '../endpoint.ts';

const limit = z.number().int().positive();
const adLimit = z.strictObject({ limit, required: z.boolean() });

/** An outlet's profile as data. */
export const outletSchema = z.strictObject({
  key: z.string().regex(/^[a-z][a-z0-9-]{0,39}$/),
  name: z.string().min(1).max(80),
  limits: z.strictObject({
    campaignName: limit,
    groupName: limit,
    keywordLength: limit,
    keywordWords: limit,
    groupsPerCampaign: limit,
    rowsPerCampaign: limit,
    finalUrl: limit,
  }),
  ad: z.strictObject(
    Object.fromEntries(adFields.map((field) => [field, adLimit])) as Record<AdField, typeof adLimit>,
  ),
  bidIncrement: micros.nullable(),
  words: z.strictObject({
    matchTypes: z.strictObject({
      broad: z.string(),
      modified: z.string(),
      phrase: z.string(),
      exact: z.string(),
    }),
    enabled: z.string(),
    rowKinds: z.strictObject({
      campaign: z.string(),
      group: z.string(),
      keyword: z.string(),
      negative: z.string(),
      ad: z.string(),
    }),
  }),
  sheets: z
    .array(
      z.strictObject({
        kind: z.enum(sheetKinds),
        fileName: z.string().regex(/^[a-z0-9-]{1,60}$/),
        columns: z.array(z.strictObject({ heading: z.string(), value: z.enum(cellValues) })).min(1),
      }),
    )
    .min(1),
  file: z.strictObject({
    formats: z.array(z.enum(['csv', 'tsv'])).min(1),
    lineEnding: z.enum(['\r\n', '\n']),
    byteOrderMark: z.boolean(),
  }),
});

export const findingSchema = z.object({
  rule: z.enum(findingRules),
  severity: z.enum(['blocker', 'warning', 'tip']),
  field: z.enum([...adFields, 'finalUrl']).nullable(),
  count,
  place: z.object({
    stage: z.enum(['brief', 'gather', 'prune', 'build', 'write']),
    key: z.string().optional(),
    field: z.enum([...adFields, 'finalUrl']).optional(),
  }),
  samples: z.array(z.object({ key: z.string(), text: z.string() })),
});

export const shipView = z.object({
  builtRevision: count,
  outlet: outletSchema,
  findings: z.array(findingSchema),
  counts: z.object({ campaigns: count, groups: count, keywords: count, negatives: count, ads: count }),
});
export type ShipView = z.infer<typeof shipView>;

export const viewShip = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/ship',
  params: planParams,
  query: nothing,
  body: nothing,
  answer: shipView,
});

export const startShip = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/sheet-sets',
  params: planParams,
  query: nothing,
  body: z.object({
    outlet: z.literal('plain'),
    format: z.enum(['csv', 'tsv']),
    sheets: z.array(z.enum(sheetKinds)).min(1),
  }),
  answer: z.object({ job: z.uuid() }),
});

export const sheetFile = z.object({ name: z.string(), kind: z.enum(sheetKinds), rows: count, bytes: count });
export type SheetFile = z.infer<typeof sheetFile>;
export const shipResult = z.object({ sheetSet: z.uuid(), revision: count, files: z.array(sheetFile) });
export type ShipResult = z.infer<typeof shipResult>;

export const sheetSetParams = planParams.extend({ set: z.uuid() });
export const sheetFileParams = sheetSetParams.extend({ file: z.string().max(100) });
