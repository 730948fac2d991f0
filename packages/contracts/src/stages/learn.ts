import {
  dimensions,
  lookGroupings,
  reportProblems,
  reportRoles,
  resultFigures,
  timeSteps,
} from '@sprig/core/learn';
import { currencies } from '@sprig/core/money';
import { z } from 'zod';
import { count, id, idText, nothing, planParams, revisionAnswer, text } from '../common.ts';
import { endpoint } from '../endpoint.ts';
import { askedOfResults } from './asked-of-results.ts';
import { factsSchema } from './brief.ts';
import { MOST_KEY } from './build/keys.ts';
import { outletKey } from './outlets.ts';

/** Reports that are taken in at once. */
export const MOST_REPORTS = 60;
/** Accounts that the rows of one report may be of. */
export const MOST_ACCOUNTS = 20;

export const isoDay = z.iso.date('Not a day. Write it like 2027-03-31.');
/** From a first day to a last, both in it. */
export const days = z
  .strictObject({ from: isoDay, to: isoDay })
  .refine(({ from, to }) => from <= to, 'The last day lies before the first.');
export type Days = z.infer<typeof days>;

/** Whose figures they are. Those of two accounts are never added to each other. */
export const reportAccount = z.strictObject({
  /** null: of none of the outlets that are known here. */
  outlet: outletKey.nullable(),
  name: text(200).refine((name) => name.trim() !== '', 'An account needs a name.'),
  currency: z.string().refine((code) => code in currencies, 'Not a currency we know.'),
  timeZone: factsSchema.shape.timeZone.unwrap(),
});
export type ReportAccount = z.infer<typeof reportAccount>;

/** What an account is told apart by, as one text. */
export const accountCode = ({ outlet, name, currency, timeZone }: ReportAccount): string =>
  JSON.stringify([outlet, name.trim().toLowerCase(), currency, timeZone]);

/** What its user says of a report, where it can't be told or is told wrong. */
export const reportChoices = z.strictObject({
  roles: z.array(z.enum(reportRoles)).max(2_000).optional(),
  dayOrder: z.enum(['day-first', 'month-first']).optional(),
  decimal: z.enum(['.', ',']).optional(),
  range: days.optional(),
  /** The account whose rows alone are read, as its column names it. */
  ofAccount: text(200).optional(),
});
export type ReportChoices = z.infer<typeof reportChoices>;

/** Reads reports, and says what they hold and what they would replace; nothing goes in. */
export const startReports = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/reports/readings',
  access: 'build',
  changes: ['jobs'],
  params: planParams,
  query: nothing,
  body: z.object({
    files: z
      .array(
        z.object({
          upload: z.uuid(),
          name: text(300),
          /** The reading that is read again with these choices. */
          again: z.uuid().nullable().default(null),
          account: reportAccount.nullable().default(null),
          choices: reportChoices.default({}),
        }),
      )
      .min(1, 'Choose a report.')
      .max(MOST_REPORTS, `Up to ${MOST_REPORTS} reports are read at once.`),
  }),
  answer: z.object({ job: z.uuid() }),
});
export const reportsRead = z.object({ readings: z.array(z.uuid()) });

const some = <T extends z.ZodType>(shown: T) => z.object({ count, shown: z.array(shown) });

/** What an import would do to what stands. */
const replacingSchema = z.object({
  rows: count,
  times: count,
  campaigns: count,
  added: count,
  gone: count,
  changed: count,
});

const told = z.number().nullable();

/** A report as it was read. What of it is read in decides nothing until it is taken in. */
export const reportReading = z.object({
  id: z.uuid(),
  at: z.iso.datetime({ offset: true }),
  upload: z.uuid(),
  name: z.string(),
  account: reportAccount,
  /** The currency that its amounts name; null where they name none. */
  currency: z.string().nullable(),
  layout: z.object({
    headerLine: count,
    headings: z.array(z.string()),
    roles: z.array(z.enum(reportRoles)),
    samples: z.array(z.array(z.string())),
    titles: z.array(z.string()),
    dayOrder: z.enum(['day-first', 'month-first']),
    decimal: z.enum(['.', ',']),
    /** What has to be said before it can be taken in. */
    open: z.array(z.enum(['day-order', 'decimal', 'range'])),
    step: z.enum(timeSteps),
  }),
  choices: reportChoices,
  /** Whether its columns are those that were picked for such a report before. */
  remembered: z.boolean(),
  /** By its code. */
  grain: z.string(),
  rows: count,
  /** Times that it names; null where it has none. */
  range: days.nullable(),
  times: count,
  campaigns: count,
  totals: z.object({ impressions: told, clicks: told, cost: told, conversions: told, value: told }),
  problems: some(
    z.object({
      line: count,
      code: z.enum([...reportProblems, 'broken']),
      column: z.string(),
      text: z.string(),
    }),
  ),
  setAside: some(z.object({ line: count, text: z.string() })),
  repeated: some(count),
  /** Figures that it tells and that its other figures don't make. */
  otherwise: some(z.object({ line: count, column: z.string(), told: z.number(), worked: z.number() })),
  /** Rows with more clicks than impressions. */
  unlikely: some(count),
  notMet: z.array(
    z.object({
      campaign: z.string(),
      why: z.enum(['campaign', 'group', 'keyword', 'match-type', 'ad']),
      rows: count,
      clicks: z.number(),
      cost: z.number(),
      samples: z.array(z.string()),
    }),
  ),
  /** Rows that are met, in part or whole. */
  met: count,
  replaces: replacingSchema,
  /** The same where it is the whole account. */
  replacesWhole: replacingSchema,
});
export type ReportReading = z.infer<typeof reportReading>;
export type ReportReplacing = z.infer<typeof replacingSchema>;

export const reportImport = z.object({
  id,
  name: z.string(),
  madeAt: z.string(),
  actor: z.string(),
  account: reportAccount,
  grain: z.string(),
  rows: count,
  range: days,
  times: count,
  /** null: the whole account. */
  campaigns: count.nullable(),
  cost: told,
  /** Campaigns and times of it that no later report has replaced, of how many. */
  stands: z.object({ some: count, of: count }),
});
export type ReportImport = z.infer<typeof reportImport>;

/** What was taken in, newest first, and what was read and waits. */
export const listReports = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/reports',
  access: 'read',
  reads: ['plan', 'read-back'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({
    imports: z.array(reportImport),
    readings: z.array(reportReading),
    accounts: z.array(reportAccount),
  }),
});

/** Takes readings in, as one change. What says nothing new is only put away: `same` tells how many. */
export const takeReports = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/reports/take',
  access: 'build',
  changes: ['plan', 'read-back'],
  params: planParams,
  query: nothing,
  body: z.object({
    readings: z
      .array(z.uuid())
      .min(1)
      .max(MOST_REPORTS * MOST_ACCOUNTS),
    /** They are the whole account: campaigns that they do not name had nothing in their times. */
    isWhole: z.boolean().default(false),
  }),
  answer: revisionAnswer.extend({ taken: count, same: count }),
});

export const dropReport = endpoint({
  method: 'DELETE',
  path: '/api/plans/:plan/reports/readings/:reading',
  access: 'build',
  changes: ['read-back'],
  params: planParams.extend({ reading: z.uuid() }),
  query: nothing,
  body: nothing,
  answer: nothing,
});

/** Takes an import back: what it replaced stands again. */
export const takeReportBack = endpoint({
  method: 'DELETE',
  path: '/api/plans/:plan/reports/:import',
  access: 'build',
  changes: ['plan'],
  params: planParams.extend({ import: idText }),
  query: nothing,
  body: nothing,
  answer: revisionAnswer,
});

/** What is looked at: a look is a URL, and can be kept by name. */
export const lookSchema = z.strictObject({
  /** By its code; null: that which was told of last. */
  account: z.string().max(600).nullable().default(null),
  by: z.enum(lookGroupings).default('campaign'),
  /** null: all that is told, up to the last 28 days. */
  range: days.nullable().default(null),
  /** What it is held against: the same number of days before, no other range, or a range. */
  against: z.union([z.literal('before'), z.literal('none'), days]).default('before'),
  names: z
    .array(z.strictObject({ by: z.enum(lookGroupings).exclude(['day', 'weekday']), is: text(500) }))
    .max(20)
    .default([]),
  figures: z
    .array(
      z.strictObject({
        figure: z.enum(resultFigures),
        is: z.enum(['over', 'under']),
        than: z.number().finite(),
      }),
    )
    .max(20)
    .default([]),
  sort: z.enum(resultFigures).default('cost'),
  down: z.boolean().default(true),
});
export type Look = z.infer<typeof lookSchema>;
export const usualLook = (): Look => lookSchema.parse({});

/** A look as it is shown and kept. By account it is of all of them side by side, under no conditions (`readAccounts`). */
export const shownLook = lookSchema.extend({
  by: z.enum([...lookGroupings, 'account']).default('campaign'),
});
export type ShownLook = z.infer<typeof shownLook>;
export const isOfOneAccount = (look: ShownLook): look is Look => look.by !== 'account';

/** Every figure of results, in the order of `resultFigures`; null where nothing tells it. */
const lookFigures = z.array(told);

/** How much of a range is told: of the campaign with the fewest days and of the one with the most. */
const toldDays = z.object({ least: count, most: count, of: count });

/** Why there is nothing to look at, or nothing to hold it against. */
export const noLook = z.discriminatedUnion('none', [
  z.object({ none: z.literal('reports') }),
  z.object({ none: z.literal('dimension'), missing: z.array(z.enum(dimensions)) }),
  z.object({ none: z.literal('days') }),
  z.object({ none: z.literal('time') }),
]);
export type NoLook = z.infer<typeof noLook>;

export const lookAnswer = z.object({
  account: reportAccount.nullable(),
  /** All days that the account was told of. */
  told: days.nullable(),
  range: days.nullable(),
  against: days.nullable(),
  /** The one grain that is read, by its code; null where nothing answers. */
  grain: z.string().nullable(),
  why: noLook.nullable(),
  days: toldDays.nullable(),
  daysBefore: toldDays.nullable(),
  /** Groups before conditions on figures. */
  all: count,
  /** Numbers of the groups that meet them, in order. */
  order: z.array(count),
  /** Of the groups that meet them. */
  totals: lookFigures,
  totalsBefore: lookFigures.nullable(),
  /** How much impressions, clicks and conversions of a group vary from day to day beyond chance; null where no days tell it. */
  dispersion: z.object({ impressions: told, clicks: told, conversions: told }).nullable(),
  /** What the campaigns' own rows have beyond these, by the counted figures; null where that is not told. */
  notBrokenDown: z.array(told).nullable(),
  /** Changes when the rows may have. */
  stamp: z.string(),
});
export type LookAnswer = z.infer<typeof lookAnswer>;

export const readLook = endpoint({
  ...askedOfResults,
  path: '/api/plans/:plan/learn/look',
  body: lookSchema,
  answer: lookAnswer,
});

export const lookRow = z.object({
  n: count,
  /** The finest name first: a keyword, its match type, its ad group, its campaign. */
  names: z.array(z.string()),
  figures: lookFigures,
  before: lookFigures.nullable(),
});
export type LookRow = z.infer<typeof lookRow>;

/** Rows of a look, by their numbers. */
export const readLookRows = endpoint({
  ...askedOfResults,
  path: '/api/plans/:plan/learn/rows',
  body: z.object({ look: lookSchema, rows: z.array(count).max(1_000) }),
  answer: z.object({ rows: z.array(lookRow) }),
});

/** So many points are drawn: those with the most cost, and then impressions. */
export const MOST_POINTS = 3_000;

/** Every group of a look by two figures and a size, the largest first. */
export const readLookPoints = endpoint({
  ...askedOfResults,
  path: '/api/plans/:plan/learn/points',
  body: z.object({
    look: lookSchema,
    x: z.enum(resultFigures),
    y: z.enum(resultFigures),
    size: z.enum(resultFigures),
  }),
  answer: z.object({
    n: z.array(count),
    x: z.array(z.number()),
    y: z.array(z.number()),
    size: z.array(z.number()),
    names: z.array(z.string()),
    /** Impressions and clicks, 0 where they are not told: what the curve of CTR is found by. */
    impressions: z.array(z.number()),
    clicks: z.array(z.number()),
    /** Groups that have both figures; more than are drawn, maybe. */
    of: count,
  }),
});

export const budgetRow = z.object({
  name: z.string(),
  /** null: no campaign of today's plan is called so. */
  key: z.string().nullable(),
  /** Its daily budget of today; null where that is not known in the account's currency. */
  budget: told,
  /** Days that are told, those on which it ran out, and the last of these. */
  told: count,
  out: count,
  last: isoDay.nullable(),
  cost: z.number(),
  /** On days on which it ran out; null where no report tells the share lost to the budget. */
  missed: z.object({ impressions: z.number(), clicks: z.number() }).nullable(),
  /** What was spent in the month of the last day that is told. */
  month: z.number(),
});
export type BudgetRow = z.infer<typeof budgetRow>;

/** Campaigns of an account against their daily budgets, day by day and over the month. */
export const readBudgets = endpoint({
  ...askedOfResults,
  path: '/api/plans/:plan/learn/budgets',
  body: z.object({ account: lookSchema.shape.account, range: lookSchema.shape.range }),
  answer: z.object({
    account: reportAccount.nullable(),
    told: days.nullable(),
    range: days.nullable(),
    grain: z.string().nullable(),
    why: noLook.nullable(),
    /** Whether the plan counts in the account's currency. */
    inCurrency: z.boolean(),
    /** The part of the month that is told, and how many days the month has. */
    month: z.object({ from: isoDay, to: isoDay, days: count }).nullable(),
    rows: z.array(budgetRow),
  }),
});

/** The figures of a look by day. */
export const readLookDays = endpoint({
  ...askedOfResults,
  path: '/api/plans/:plan/learn/days',
  reads: ['plan', 'built', 'receipts'],
  body: z.object({ look: lookSchema }),
  answer: z.object({
    days: z.array(z.object({ day: isoDay, figures: lookFigures })),
    /** Days on which the plan was changed or shipped, by the account's clock: how often, and the last few in words. */
    marks: z.array(z.object({ day: isoDay, count, labels: z.array(z.string()) })),
    /** The daily budgets of all that is looked at, and its month; null where only parts of campaigns are, or budgets are not known. */
    budget: z
      .object({ daily: z.number(), spent: z.number(), from: isoDay, to: isoDay, days: count })
      .nullable(),
    why: noLook.nullable(),
  }),
});

/** What names there are to look for: campaigns, devices, themes. */
export const readLookNames = endpoint({
  ...askedOfResults,
  path: '/api/plans/:plan/learn/names',
  body: z.object({
    account: z.string().max(600).nullable().default(null),
    by: z.enum(lookGroupings).exclude(['day', 'weekday']),
    like: text(200).default(''),
  }),
  answer: z.object({ names: z.array(z.string()) }),
});

/** What of today's plan results are asked of: a keyword in all its match types, one row of it, a theme with all below it. */
export const resultsBy = ['keyword', 'row', 'group', 'theme', 'ad'] as const;
export type ResultsBy = (typeof resultsBy)[number];

/** Of which account, days and grain results are; `why`: there are none. */
export const resultsAbout = z.object({
  account: reportAccount.nullable(),
  range: days.nullable(),
  grain: z.string().nullable(),
  why: noLook.nullable(),
});
export type ResultsAbout = z.infer<typeof resultsAbout>;

/** Figures over the last range of the account that was told of last; what is not told of is left out. */
export const readResults = endpoint({
  ...askedOfResults,
  path: '/api/plans/:plan/learn/results',
  body: z.object({
    by: z.enum(resultsBy),
    /** Keys of rows, ad groups and ads; numbers of keywords and themes. */
    keys: z.array(z.string().max(MOST_KEY)).max(2_000),
  }),
  answer: z.object({
    about: resultsAbout,
    rows: z.array(z.object({ key: z.string(), figures: lookFigures })),
  }),
});

/** One figure of every keyword of which it is told. */
export const readResultColumn = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/learn/result-column',
  access: 'read',
  reads: ['plan', 'built'],
  params: planParams,
  query: z.object({ figure: z.enum(resultFigures) }),
  body: nothing,
  answer: z.object({
    /** Of the account's amounts. */
    currency: z.string().nullable(),
    ids: z.array(z.number()),
    values: z.array(z.number()),
  }),
});

export const MOST_LOOKS = 200;
const lookName = text(100).refine((name) => name.trim() !== '', 'A look needs a name.');
export const keptLook = z.object({ id, name: z.string(), look: shownLook });
export type KeptLook = z.infer<typeof keptLook>;

/** Looks that are kept, by their names. */
export const listLooks = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/learn/looks',
  access: 'read',
  reads: ['plan'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ looks: z.array(keptLook) }),
});

/** Keeps a look by a name, in the place of one that has it. */
export const keepLook = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/learn/looks',
  access: 'write',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ name: lookName, look: shownLook }),
  answer: revisionAnswer,
});

export const removeLook = endpoint({
  method: 'DELETE',
  path: '/api/plans/:plan/learn/looks/:look',
  access: 'write',
  changes: ['plan'],
  params: planParams.extend({ look: idText }),
  query: nothing,
  body: nothing,
  answer: revisionAnswer,
});
