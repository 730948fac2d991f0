import { cellValues, rowKinds } from '@sprig/core/outlets';
import { mergeKinds } from '@sprig/core/sheets';
import { z } from 'zod';
import { count, nothing, planParams, text } from '../common.ts';
import { endpoint } from '../endpoint.ts';
import { outletKey } from './outlets.ts';
import { fieldChange, sheetProblem } from './ship.ts';

export const MOST_READ_FILES = 200;
/** Of all sheets that are read back at once, in characters. */
export const MOST_READ_LENGTH = 120_000_000;
export const MOST_READ_ROWS = 600_000;

/** By which outlet's profile sheets are read: the one that they fit best, one of them, or by what their columns are. */
export const readingBy = z.union([z.literal('best'), z.literal('columns'), outletKey]);

const heading = z.string().max(500);
/** What columns hold, by their headings, where the guess is wrong; null: nothing that a plan has. */
const columnChoices = z.record(heading, z.enum(cellValues).nullable());

export const startReadBack = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/read-backs',
  access: 'build',
  changes: ['jobs'],
  params: planParams,
  query: nothing,
  body: z.object({
    files: z
      .array(z.object({ upload: z.uuid(), name: text(300) }))
      .min(1, 'Choose a sheet.')
      .max(MOST_READ_FILES, `Up to ${MOST_READ_FILES} sheets are read at once.`),
    by: readingBy.default('best'),
    columns: columnChoices.default({}),
  }),
  answer: z.object({ job: z.uuid() }),
});

const ofKinds = z.record(
  z.enum(rowKinds),
  z.object({ added: count, changed: count, removed: count, missing: count, same: count }),
);

export const readBack = z.object({
  id: z.uuid(),
  at: z.iso.datetime({ offset: true }),
  /** The plan as it was compared; a later one is to be compared anew. */
  revision: count,
  /** Whether the plan had nothing in it, so that it takes the shape of what is read. */
  isEmpty: z.boolean(),
  by: readingBy,
  outletName: z.string(),
  files: z.array(
    z.object({
      upload: z.uuid(),
      name: z.string(),
      rows: count,
      columns: z.array(z.object({ heading: z.string(), value: z.enum(cellValues).nullable() })),
    }),
  ),
  problems: z.object({ count, shown: z.array(sheetProblem.extend({ file: z.string() })) }),
  kinds: ofKinds,
  /** Rows that stand in the sheets more than once, and rows that are gone there and were never here. */
  twice: count,
  goneThere: count,
  /** How often each value differs. */
  fields: z.partialRecord(z.enum(cellValues), count),
  hasSchedule: z.boolean(),
});
export type ReadBack = z.infer<typeof readBack>;

/** The sheets that were read back last and not taken in yet. */
export const viewReadBack = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/read-backs',
  access: 'read',
  reads: ['plan', 'read-back'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ readBack: readBack.nullable() }),
});

export const readBackRow = z.object({
  n: count,
  kind: z.enum(rowKinds),
  change: z.enum(mergeKinds),
  campaign: z.string(),
  group: z.string(),
  text: z.string(),
  fields: z.array(fieldChange),
  /** Where it stands; none of what is missing. */
  file: z.string(),
  line: count,
  taken: z.boolean(),
});
export type ReadBackRow = z.infer<typeof readBackRow>;

const readBackParams = planParams.extend({ readBack: z.uuid() });
const rowFilter = z.object({
  kind: z.enum(rowKinds).optional(),
  change: z.enum(mergeKinds).optional(),
  /** A campaign by its name; empty: what is of the whole account. */
  campaign: z.string().max(1_000).optional(),
});
export type ReadBackFilter = z.infer<typeof rowFilter>;

export const listReadBackRows = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/read-backs/:readBack/rows',
  access: 'read',
  reads: ['plan', 'read-back'],
  params: readBackParams,
  query: rowFilter.extend({ from: z.coerce.number().int().min(0).default(0) }),
  body: nothing,
  answer: z.object({ total: count, left: count, rows: z.array(readBackRow) }),
});

export const stagedCampaign = z.object({ campaign: z.string(), rows: count, taken: count });
export type StagedCampaign = z.infer<typeof stagedCampaign>;

/** The campaigns of which rows differ, with how many of these are taken. */
export const listReadBackCampaigns = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/read-backs/:readBack/campaigns',
  access: 'read',
  reads: ['plan', 'read-back'],
  params: readBackParams,
  query: nothing,
  body: nothing,
  answer: z.object({ campaigns: z.array(stagedCampaign) }),
});

/** Takes rows, or leaves them: some by their numbers, or all of a kind or a campaign. */
export const chooseReadBackRows = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/read-backs/:readBack/choose',
  access: 'build',
  changes: ['read-back'],
  params: readBackParams,
  query: nothing,
  body: rowFilter.extend({ rows: z.array(count).max(10_000).optional(), taken: z.boolean() }),
  answer: z.object({ chosen: count }),
});

export const amountModes = ['take', 'keep', 'scale'] as const;
const amounts = z.strictObject({
  mode: z.enum(amountModes),
  /** Of scaled amounts, in basis points. */
  scale: z.number().int().min(1, 'At least 0.01%.').max(1_000_000, 'At most 10,000%.').default(10_000),
});

export const takeOptions = z.strictObject({
  kinds: z.array(z.enum(rowKinds)).min(1, 'Choose what is taken in.'),
  /** Campaign settings, told by the rows of campaigns. */
  settings: z.boolean().default(true),
  bids: amounts,
  budgets: amounts,
  /** Whether what is missing is paused, or taken out where it can't be. */
  missing: z.boolean().default(false),
  /** By whose clock the schedules are; null: the plan's. */
  timeZone: text(80).nullable().default(null),
});
export type TakeOptions = z.infer<typeof takeOptions>;

export const takeReadBack = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/read-backs/:readBack/take',
  access: 'build',
  changes: ['jobs'],
  params: readBackParams,
  query: nothing,
  body: takeOptions,
  answer: z.object({ job: z.uuid() }),
});

export const dropReadBack = endpoint({
  method: 'DELETE',
  path: '/api/plans/:plan/read-backs/:readBack',
  access: 'build',
  changes: ['read-back'],
  params: readBackParams,
  query: nothing,
  body: nothing,
  answer: z.object({}),
});

/** Why something of what was chosen could not be taken in as it stands. */
export const takeNotes = [
  'keyword-refused',
  'keyword-elsewhere',
  'keyword-blocked',
  'group-single',
  'types-not-asked',
  'campaign-by-rule',
  'ad-token',
  'ad-insertion',
  'ad-patterns-full',
  'ad-mobile',
  'ad-kept',
  'ad-address',
  'bid-network',
  'no-address',
  'setting',
  'setting-of-site',
  'negative-by-rule',
  'extra',
  'extras-full',
  'nothing-to-pause',
] as const;
export type TakeNote = (typeof takeNotes)[number];
export const takeResult = z.object({
  revision: count,
  taken: z.object({
    campaigns: count,
    groups: count,
    keywords: count,
    negatives: count,
    ads: count,
    extras: count,
    values: count,
    paused: count,
  }),
  notes: z.array(z.object({ code: z.enum(takeNotes), count, samples: z.array(z.string()) })),
});
export type TakeResult = z.infer<typeof takeResult>;
export const readBackResult = z.object({ readBack: z.uuid() });
