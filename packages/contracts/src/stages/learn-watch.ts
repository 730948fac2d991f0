import { adjustedDevices } from '@sprig/core/judge';
import { z } from 'zod';
import { count } from '../common.ts';
import { endpoint } from '../endpoint.ts';
import { askedOfResults } from './asked-of-results.ts';
import { measuredSchema } from './brief.ts';
import { days, isoDay, lookSchema, noLook, reportAccount } from './learn.ts';

const about = z.object({ account: lookSchema.shape.account });
const told = {
  account: reportAccount.nullable(),
  range: days.nullable(),
  grain: z.string().nullable(),
  why: noLook.nullable(),
};

export const unlikeFigures = ['impressions', 'clicks', 'conversions'] as const;
export type UnlikeFigure = (typeof unlikeFigures)[number];

export const unlikeDay = z.object({
  day: isoDay,
  /** null: all campaigns together. */
  campaign: z.string().nullable(),
  figure: z.enum(unlikeFigures),
  seen: z.number(),
  expected: z.number(),
  /** What chance alone has it between. */
  low: z.number(),
  high: z.number(),
  /** What was changed or shipped on that day, the last few. */
  labels: z.array(z.string()),
});
export type UnlikeDayRow = z.infer<typeof unlikeDay>;

/** Days of the last four weeks that are unlike the same weekdays before. */
export const readUnlikeDays = endpoint({
  ...askedOfResults,
  path: '/api/plans/:plan/learn/unlike-days',
  reads: ['plan', 'built', 'receipts'],
  body: about,
  answer: z.object({
    ...told,
    days: z.array(unlikeDay),
    /** Campaigns with too few weeks before to be judged. */
    silent: count,
  }),
});

/** What rows may be told apart by to see what sells. */
export const sellersBy = [
  'source',
  'theme',
  'stage',
  'match',
  'brand',
  'device',
  'network',
  'place',
  'hour',
] as const;
export type SellersBy = (typeof sellersBy)[number];

export const seller = z.object({
  name: z.string(),
  clicks: z.number(),
  cost: z.number(),
  conversions: z.number(),
  value: z.number(),
  /** Whether it sells better or worse than all others together, by more than chance; null where too little is told. */
  than: z.enum(['better', 'worse', 'alike']).nullable(),
  /** Of a device that sells otherwise: its bid adjustment of today, and what it would be; basis points. */
  adjust: z.object({ device: z.enum(adjustedDevices), now: z.number(), after: z.number() }).nullable(),
});
export type Seller = z.infer<typeof seller>;

/** Which sources, themes, match types, devices and the like sell, on days whose conversions count. */
export const readSellers = endpoint({
  ...askedOfResults,
  path: '/api/plans/:plan/learn/sellers',
  body: about.extend({ by: z.enum(sellersBy) }),
  answer: z.object({ ...told, settledTo: isoDay.nullable(), rows: z.array(seller) }),
});

const clicksAndCost = z.object({ clicks: z.number(), cost: z.number() });
/** A day of a campaign as it is forecast at today's bids within its daily budget, and as it came on the average. */
export const forecastPart = z.object({
  key: z.string(),
  name: z.string(),
  forecast: clicksAndCost,
  came: clicksAndCost,
});
export type ForecastPart = z.infer<typeof forecastPart>;

/** What was forecast against what came, and what positions were measured to bring and to cost. */
export const readForecastAgainst = endpoint({
  ...askedOfResults,
  path: '/api/plans/:plan/learn/forecast',
  body: about,
  answer: z.object({
    ...told,
    inCurrency: z.boolean(),
    rows: z.array(forecastPart),
    /** By position from the top; null where too little is told of it. */
    measured: measuredSchema.nullable(),
    assumed: z.object({ ctr: z.array(z.number()), price: z.array(z.number()) }),
    /** Whether any position is told. */
    hasPositions: z.boolean(),
  }),
});

const figuresTold = z.array(z.number().nullable());
const daysTold = z.object({ least: count, most: count, of: count });
export const accountRow = z.object({
  account: reportAccount,
  /** Every figure of results in their order, over the range and over what it is held against; null where it tells none. */
  figures: figuresTold.nullable(),
  before: figuresTold.nullable(),
  /** How many days of the range are told: of its campaigns the least and the most. */
  days: daysTold.nullable(),
  daysBefore: daysTold.nullable(),
});
export type AccountRow = z.infer<typeof accountRow>;

/** Accounts side by side over the same days, and those that count in one currency together. */
export const readAccounts = endpoint({
  ...askedOfResults,
  path: '/api/plans/:plan/learn/accounts',
  body: lookSchema.pick({ range: true, against: true }),
  answer: z.object({
    /** All days that any account was told of. */
    told: days.nullable(),
    range: days.nullable(),
    against: days.nullable(),
    rows: z.array(accountRow),
    /** Of two accounts and more: what they had together. Positions and shares of two accounts are not added. */
    together: z.array(z.object({ currency: z.string(), accounts: count, figures: figuresTold })),
  }),
});
