import { findingRules } from '@sprig/core/findings';
import { cellValues, rowKinds } from '@sprig/core/outlets';
import { lossRules } from '@sprig/core/sheets';
import { adFields } from '@sprig/core/write';
import { z } from 'zod';
import { count, nothing, planParams, revisionAnswer, text } from '../common.ts';
import { endpoint } from '../endpoint.ts';
import { byKind, outletKey, outletParams, outletSchema, outletShape } from './outlets.ts';

export * from './ship/receipts.ts';
export * from './ship/rows.ts';

export const findingSchema = z.object({
  rule: z.enum(findingRules),
  severity: z.enum(['blocker', 'warning', 'tip']),
  field: z.enum([...adFields, 'finalUrl']).nullable(),
  count,
  /** Searches a month of what it speaks of; null where it speaks of no ad groups. */
  searches: count.nullable().default(null),
  /** Of all that it speaks of: an acceptance holds as long as this does. */
  facts: z.number().default(0),
  place: z.object({
    stage: z.enum(['brief', 'gather', 'prune', 'sort', 'build', 'write', 'ship']),
    key: z.string().optional(),
    field: z.enum([...adFields, 'finalUrl']).optional(),
  }),
  samples: z.array(z.object({ key: z.string(), text: z.string(), count: count.optional() })),
});

/** A finding of the plan itself (no outlet) or of one outlet, with why it was accepted. */
const outletFinding = findingSchema.extend({
  outlet: outletKey.nullable(),
  accepted: text(500).nullable(),
  /** Who accepted it, by name, and when; null: it is not, or it was before that was kept. */
  acceptedBy: z.string().nullable(),
  acceptedAt: z.iso.datetime({ offset: true }).nullable(),
});
export type OutletFinding = z.infer<typeof outletFinding>;

const lossSchema = z.object({
  rule: z.enum(lossRules),
  count,
  samples: z.array(
    z.object({ campaign: z.string(), group: z.string(), text: z.string(), becomes: z.string() }),
  ),
});

export const fieldChange = z.object({ value: z.enum(cellValues), before: z.string(), after: z.string() });
export const changedRow = z.object({
  change: z.enum(['added', 'changed', 'removed']),
  kind: z.enum(rowKinds),
  campaign: z.string(),
  group: z.string(),
  text: z.string(),
  fields: z.array(fieldChange),
});
export type ChangedRow = z.infer<typeof changedRow>;

/** What a look through the plan for one outlet has found. */
export const outletCheck = z.object({
  revision: count,
  rows: byKind,
  files: z.array(z.object({ name: z.string(), rows: count })),
  losses: z.array(lossSchema),
  notCarried: z.array(z.object({ file: z.string(), row: count, character: z.string(), text: z.string() })),
  difference: z.object({
    /** The receipt that it is measured against; null where nothing was shipped yet. */
    receipt: z.uuid().nullable(),
    added: count,
    changed: count,
    removed: count,
    same: count,
    /** Removed rows whose sheet can not tell it. */
    untold: count,
    /** Rows that the difference is told by. */
    told: byKind,
    /** Budgets that wait, since the outlet takes only so many changes a day. */
    waiting: count,
    /** The first few hundred. */
    rows: z.array(changedRow),
  }),
});
export type OutletCheck = z.infer<typeof outletCheck>;

/** In basis points. */
const shareOfBid = z
  .number()
  .int()
  .min(100, 'A network’s bid is at least 1% of the bid.')
  .max(100_000, 'A network’s bid is at most 1000% of the bid.');

/** What a plan says of an outlet that it ships to. */
export const planOutletBody = z.strictObject({
  /** Prerequisites that are in place. */
  ticks: z.array(outletKey).max(40).default([]),
  /** What is bid on each network, in basis points of the bid. */
  steps: z
    .strictObject({
      search: shareOfBid,
      partners: shareOfBid,
      display: shareOfBid,
    })
    .default({ search: 10_000, partners: 10_000, display: 10_000 }),
});
export type PlanOutletBody = z.infer<typeof planOutletBody>;

const chosenOutlet = z.object({
  /** 0 where nobody has chosen yet. */
  id: count,
  outlet: outletShape,
  body: planOutletBody,
  /** Of all that a look through the plan for it hangs on. */
  stamp: z.number(),
  check: outletCheck.nullable(),
});
export type ChosenOutlet = z.infer<typeof chosenOutlet>;

export const shipView = z.object({
  builtRevision: count,
  findings: z.array(outletFinding),
  /** Whether every outlet has been looked through at this revision. */
  checked: z.boolean(),
  outlets: z.array(chosenOutlet),
  counts: z.object({ campaigns: count, groups: count, keywords: count, negatives: count, ads: count }),
});
export type ShipView = z.infer<typeof shipView>;

export const viewShip = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/ship',
  access: 'read',
  reads: ['plan', 'built', 'receipts', 'work'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: shipView,
});

/** All that a finding speaks of, two hundred at a time; a list has up to 20,000. */
export const listFinding = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/ship/findings',
  access: 'read',
  reads: ['plan', 'built', 'receipts', 'work'],
  params: planParams,
  query: z.object({
    rule: z.enum(findingRules),
    /** Empty: it speaks of no field, or of the plan itself. */
    field: z.string().max(40).default(''),
    outlet: z.union([z.literal(''), outletKey]).default(''),
    from: z.coerce.number().int().min(0).max(1_000_000).default(0),
  }),
  body: nothing,
  answer: z.object({
    total: count,
    rows: z.array(z.object({ key: z.string(), text: z.string(), count })),
  }),
});

/** All outlets that a plan can ship to: those that come with the product, and the workspace's own. */
export const listOutlets = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/outlets',
  access: 'read',
  reads: ['plan', 'receipts'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({
    outlets: z.array(z.object({ outlet: outletShape, own: z.boolean(), chosen: z.boolean() })),
  }),
});

/** Keeps an outlet of the workspace, new or changed; the body's key is the path's. */
export const keepOutlet = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/outlets/:outlet',
  access: 'build',
  changes: ['plan'],
  params: outletParams,
  query: nothing,
  body: z.object({ outlet: outletSchema, isNew: z.boolean() }),
  answer: revisionAnswer,
});

export const removeOutlet = endpoint({
  method: 'DELETE',
  path: '/api/plans/:plan/outlets/:outlet',
  access: 'build',
  changes: ['plan'],
  params: outletParams,
  query: nothing,
  body: nothing,
  answer: revisionAnswer,
});

/** Tries an outlet, kept or not, on the first ad groups of the plan. */
export const tryOutlet = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/outlet-trials',
  access: 'read',
  reads: ['built'],
  changes: [],
  params: planParams,
  query: nothing,
  body: z.object({ outlet: outletSchema }),
  answer: z.object({
    groups: count,
    files: z.array(z.object({ name: z.string(), rows: z.array(z.array(z.string())) })),
    losses: z.array(lossSchema),
  }),
});

/** Ships the plan to an outlet, too, or no more; or says what is in place there. */
export const chooseOutlet = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/outlets/:outlet/choose',
  access: 'build',
  changes: ['plan'],
  params: outletParams,
  query: nothing,
  body: z.object({ chosen: z.boolean(), body: planOutletBody.optional() }),
  answer: revisionAnswer,
});

/** Accepts a warning with a reason, or (null) takes that back. */
export const acceptFinding = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/findings/accept',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    rule: z.enum(findingRules),
    field: z.enum([...adFields, 'finalUrl']).nullable(),
    outlet: outletKey.nullable(),
    facts: z.number(),
    reason: text(500).nullable(),
  }),
  answer: revisionAnswer,
});

/** What a sure fix would change, or has changed. */
export const findingFix = z.object({
  /** What the button says. */
  words: z.string(),
  total: count,
  changes: z.array(z.object({ of: z.string(), before: z.string(), after: z.string() })),
});
export type FindingFix = z.infer<typeof findingFix>;
export const fixableRules = [
  'presence-interested',
  'no-language',
  'bid-under-least',
  'budget-under-least',
  'keyword-too-long',
  'keyword-too-many-words',
  'copy-not-made',
] as const;
export type FixableRule = (typeof fixableRules)[number];
const fixBody = z.object({ rule: z.enum(fixableRules), outlet: outletKey.nullable() });

export const previewFix = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/findings/fix/look',
  access: 'read',
  reads: ['built'],
  changes: [],
  params: planParams,
  query: nothing,
  body: fixBody,
  answer: findingFix,
});

export const applyFix = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/findings/fix',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: fixBody,
  answer: revisionAnswer.extend({ fixed: count }),
});

/** Looks through the plan for the outlets that it ships to. */
export const startCheck = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/check',
  access: 'read',
  changes: ['jobs'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ job: z.uuid() }),
});
