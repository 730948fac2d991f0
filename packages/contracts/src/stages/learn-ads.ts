import { z } from 'zod';
import { count, nothing, planParams, revisionAnswer } from '../common.ts';
import { endpoint } from '../endpoint.ts';
import { askedOfResults } from './asked-of-results.ts';
import { days, isoDay, lookSchema, noLook, reportAccount } from './learn.ts';

/** What is held against each other: the two versions of a split test, two patterns, or two labels. */
export const adsBy = ['version', 'pattern', 'label'] as const;
export type AdsBy = (typeof adsBy)[number];

const side = z.object({ tries: z.number(), hits: z.number(), clicks: z.number() });
const told = z.number().nullable();
/** What came of two sides; `tries` are impressions or clicks, `hits` clicks or conversions. */
const tested = z.object({
  verdict: z.enum(['a', 'b', 'alike', 'open', 'few']),
  a: side,
  b: side,
  /** By how much B is better than A, with an interval of 95%. */
  difference: z.object({ by: z.number(), low: z.number(), high: z.number() }).nullable(),
  /** How much of what the least difference needs has been told, and how many looks that was. */
  told: z.number(),
  looks: count,
  /** The day on which it was decided. */
  on: isoDay.nullable(),
  /** So many more tries until it is decided at last. */
  more: told,
});

export const adTestId = z.string().max(400);
export const adTest = tested.extend({
  /** Stands for it as long as its sides have their names. */
  id: adTestId,
  names: z.tuple([z.string(), z.string()]),
  /** The pattern whose versions they are. */
  pattern: z.string().nullable(),
  groups: count,
  /** The side that runs no more in today's plan. */
  paused: z.enum(['a', 'b']).nullable(),
});
export type AdTest = z.infer<typeof adTest>;

const about = z.object({ account: lookSchema.shape.account, by: z.enum(adsBy) });
export const adTestsAnswer = z.object({
  account: reportAccount.nullable(),
  range: days.nullable(),
  /** Until this day conversions count, where they decide. */
  settledTo: isoDay.nullable(),
  grain: z.string().nullable(),
  why: noLook.nullable(),
  /** Whether days are told: without, all is looked at but once. */
  byDay: z.boolean(),
  tests: z.array(adTest),
  /** Tests that are not in the list, since they have less to tell than these. */
  others: count,
});
export type AdTestsAnswer = z.infer<typeof adTestsAnswer>;

export const MOST_AD_TESTS = 100;
/** Patterns and labels are held against each other each against each: as many as these, those that most ads have. */
export const MOST_AD_SIDES = 8;
/** Two ads against each other, by what they had in ad groups that have both. */
export const readAdTests = endpoint({
  ...askedOfResults,
  path: '/api/plans/:plan/learn/ad-tests',
  body: about,
  answer: adTestsAnswer,
});

export const adTestGroup = tested.extend({ n: count, key: z.string(), name: z.string() });
export type AdTestGroup = z.infer<typeof adTestGroup>;

/** The ad groups of one test, those with the most to tell first. */
export const readAdTestGroups = endpoint({
  ...askedOfResults,
  path: '/api/plans/:plan/learn/ad-test-groups',
  body: about.extend({ test: adTestId }),
  answer: z.object({ order: z.array(count), stamp: z.string() }),
});
export const readAdTestRows = endpoint({
  ...askedOfResults,
  path: '/api/plans/:plan/learn/ad-test-rows',
  body: about.extend({ test: adTestId, rows: z.array(count).max(1_000) }),
  answer: z.object({ rows: z.array(adTestGroup) }),
});

/** Has one side run alone, as one change; `both` takes that back. `dry`: only says how many ads it would pause. */
export const keepBetterAd = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/learn/keep-better',
  access: 'build',
  reads: ['plan', 'built'],
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: about.extend({ test: adTestId, keep: z.enum(['a', 'b', 'both']), dry: z.boolean() }),
  answer: revisionAnswer.extend({ ads: count }),
});
