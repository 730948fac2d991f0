import { rowKinds, sheetFormats, sheetKinds } from '@sprig/core/outlets';
import { sheetProblems } from '@sprig/core/sheets';
import { z } from 'zod';
import { count, nothing, planParams, text } from '../../common.ts';
import { endpoint, rawEndpoint } from '../../endpoint.ts';
import { campaignKey, groupKey } from '../build/keys.ts';
import { byKind, outletKey, outletParams } from '../outlets.ts';

/** How many campaigns and ad groups a part is chosen by. */
const MOST_IN_PART = 100_000;
/**
 * A part of a plan: its chosen campaigns with all that is in them, chosen ad groups, and those that have one of the labels (or
 * whose campaign has it); without any of these all of it. Of that, these kinds of rows.
 */
export const shipPart = z.object({
  campaigns: z.array(campaignKey).max(MOST_IN_PART).default([]),
  groups: z.array(groupKey).max(MOST_IN_PART).default([]),
  labels: z.array(text(100)).max(200).default([]),
  kinds: z
    .array(z.enum(rowKinds))
    .min(1, 'Choose a kind of rows at least.')
    .default([...rowKinds]),
});
export type ShipPart = z.output<typeof shipPart>;

/** What of a plan a set of sheets was of; the first names of the campaigns. */
const partTold = z.object({
  campaigns: z.array(z.string()),
  campaignCount: count,
  groupCount: count,
  labels: z.array(z.string()),
  kinds: z.array(z.enum(rowKinds)),
});
export type PartTold = z.infer<typeof partTold>;

export const shipBody = z.object({
  outlet: outletKey,
  format: z.enum(sheetFormats),
  sheets: z.array(z.enum(sheetKinds)).min(1),
  what: z.enum(['all', 'difference']).default('all'),
  note: text(500).default(''),
  part: shipPart.nullable().default(null),
});

export const startShip = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/sheet-sets',
  access: 'ship',
  changes: ['jobs'],
  params: planParams,
  query: nothing,
  body: shipBody,
  answer: z.object({ job: z.uuid() }),
});

/** What a part of the plan can be chosen by. */
export const readPartChoices = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/ship/parts',
  access: 'read',
  reads: ['built'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({
    campaigns: z.array(z.object({ key: z.string(), name: z.string(), groups: count })),
    labels: z.array(z.object({ label: z.string(), groups: count })),
  }),
});

/** Ad groups by their keys, or else those whose name has all of these words, in the order in which they ship: the first of them. */
export const findPartGroups = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/ship/parts/groups',
  access: 'read',
  reads: ['built'],
  changes: [],
  params: planParams,
  query: nothing,
  body: z.object({ words: text(200).default(''), keys: z.array(groupKey).max(200).default([]) }),
  answer: z.object({
    total: count,
    groups: z.array(z.object({ key: z.string(), name: z.string(), campaign: z.string() })),
  }),
});

/** Looks at what shipping a part would tell an outlet. */
export const startPartLook = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/outlets/:outlet/part',
  access: 'read',
  changes: ['jobs'],
  params: outletParams,
  query: nothing,
  body: z.object({ part: shipPart }),
  answer: z.object({ job: z.uuid() }),
});

export const sheetFile = z.object({ name: z.string(), kind: z.enum(sheetKinds), rows: count, bytes: count });
export type SheetFile = z.infer<typeof sheetFile>;
export const shipResult = z.object({ sheetSet: z.uuid(), revision: count, files: z.array(sheetFile) });
export type ShipResult = z.infer<typeof shipResult>;

const answerSummary = z.object({
  taken: count,
  refused: count,
  /** Rows of the answer that are none of the set's. */
  strange: count,
});
export const receipt = z.object({
  id: z.uuid(),
  n: count,
  outlet: outletKey,
  outletName: z.string(),
  at: z.iso.datetime({ offset: true }),
  by: z.string(),
  revision: count,
  what: z.enum(['all', 'difference']).default('all'),
  /** Of which part of the plan; null: of all of it. */
  part: partTold.nullable(),
  format: z.enum(sheetFormats),
  note: z.string(),
  hash: z.string(),
  state: z.enum(['written', 'accepted', 'answered', 'withdrawn']),
  counts: z.object({ added: count, changed: count, removed: count, same: count }),
  files: z.array(sheetFile),
  answer: answerSummary.nullable(),
  zipped: z.boolean(),
  /** Whether a simulated engine takes sheets of this outlet. */
  standIn: z.boolean(),
});
export type Receipt = z.infer<typeof receipt>;

export const listReceipts = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/receipts',
  access: 'read',
  reads: ['receipts'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ receipts: z.array(receipt) }),
});

export const sheetSetParams = planParams.extend({ set: z.uuid() });
export const sheetFileParams = sheetSetParams.extend({ file: z.string().max(100) });

/** Marks a sheet set as taken as a whole, or as never handed in; or notes something on it. */
export const markReceipt = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/sheet-sets/:set/mark',
  access: 'ship',
  changes: ['receipts'],
  params: sheetSetParams,
  query: nothing,
  body: z.object({ state: z.enum(['accepted', 'withdrawn']).optional(), note: text(500).optional() }),
  answer: z.object({ receipt }),
});

/** Hands the sheets to the simulated engine of their outlet. */
export const handIn = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/sheet-sets/:set/hand-in',
  access: 'ship',
  changes: ['jobs'],
  params: sheetSetParams,
  query: nothing,
  body: nothing,
  answer: z.object({ job: z.uuid() }),
});

/** A row that can't be read, or a column that is not there. */
export const sheetProblem = z.object({
  line: count,
  code: z.enum(sheetProblems),
  column: z.string(),
  text: z.string(),
});

/** Reads an engine's answer sheet that was uploaded before. */
export const readAnswer = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/sheet-sets/:set/answer',
  access: 'ship',
  changes: ['receipts', 'plan'],
  params: sheetSetParams,
  query: nothing,
  body: z.object({ upload: z.uuid(), name: text(200) }),
  answer: z.object({
    summary: answerSummary,
    problems: z.array(sheetProblem),
  }),
});

export const refusedRow = z.object({
  file: z.string(),
  line: count,
  kind: z.enum(rowKinds),
  campaign: z.string(),
  group: z.string(),
  text: z.string(),
  reason: z.string(),
});
export type RefusedRow = z.infer<typeof refusedRow>;

export const listRefusals = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/sheet-sets/:set/refusals',
  access: 'read',
  reads: ['receipts'],
  params: sheetSetParams,
  query: nothing,
  body: nothing,
  answer: z.object({ total: count, rows: z.array(refusedRow) }),
});

/** The account that the simulated engine keeps: campaigns, and on demand what is in one of them. */
export const viewAccount = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/outlets/:outlet/account',
  access: 'read',
  reads: ['receipts'],
  params: outletParams,
  query: z.object({ campaign: z.string().max(300).optional() }),
  body: nothing,
  answer: z.object({
    rows: byKind,
    campaigns: z.array(
      z.object({
        name: z.string(),
        state: z.string(),
        budget: z.string(),
        groups: count,
        keywords: count,
        ads: count,
      }),
    ),
    /** Of the campaign that was asked for: its rows as they stand in the account, up to 500. */
    inside: z.array(z.object({ kind: z.enum(rowKinds), group: z.string(), cells: z.array(z.string()) })),
    /** Days that it has run: made-up traffic over what was handed in. */
    ran: z.object({ from: z.iso.date(), to: z.iso.date(), days: count }).nullable(),
  }),
});

/** What a simulated engine reports of the days that it has run. */
export const accountReports = ['campaigns', 'keywords', 'terms', 'ads'] as const;
export type AccountReport = (typeof accountReports)[number];
export const MOST_DAYS_RUN = 366;

/** Lets the account of a simulated engine run, and has its reports read where that is wanted; days pass at once. */
export const runAccount = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/outlets/:outlet/account/run',
  access: 'ship',
  changes: ['jobs'],
  params: outletParams,
  query: nothing,
  body: z.object({
    days: z.number().int().min(0).max(MOST_DAYS_RUN, `Up to ${MOST_DAYS_RUN} days at once.`),
    /** Reports that are read in Learn once they are there. */
    read: z.array(z.enum(accountReports)).max(accountReports.length).default([]),
  }),
  answer: z.object({ job: z.uuid() }),
});
export const accountRan = z.object({
  from: z.iso.date(),
  to: z.iso.date(),
  impressions: count,
  clicks: count,
  /** The job that reads its reports. */
  reading: z.uuid().nullable(),
});

const download = <P extends z.ZodType>(path: string, params: P, answers: string) =>
  rawEndpoint({ method: 'GET', path, access: 'read', params, query: nothing, takes: null, answers });

/** A report of all days that a simulated account has run, in the outlet's own columns and encoding. */
export const downloadAccountReport = download(
  '/api/plans/:plan/outlets/:outlet/account/reports/:report',
  outletParams.extend({ report: z.enum(accountReports) }),
  'text/csv',
);

/** What an outlet can't carry, row by row. */
export const downloadLosses = download(
  '/api/plans/:plan/outlets/:outlet/losses.csv',
  outletParams,
  'text/csv',
);

/** Keywords and negatives as an outlet writes them, in one column. */
export const downloadKeywords = download(
  '/api/plans/:plan/outlets/:outlet/keywords.txt',
  outletParams,
  'text/plain',
);

/** The sheets of a shipment: all in one archive, and each. */
export const downloadSheets = download(
  '/api/plans/:plan/sheet-sets/:set/zip',
  sheetSetParams,
  'application/zip',
);
export const downloadSheet = download(
  '/api/plans/:plan/sheet-sets/:set/files/:file',
  sheetFileParams,
  'application/octet-stream',
);
