import { type BidChange, mostPercent } from '@sprig/core/build';
import { matchTypes } from '@sprig/core/match';
import { networkNames } from '@sprig/core/outlets';
import { z } from 'zod';
import { count, micros, nothing, planParams } from '../../common.ts';
import { endpoint } from '../../endpoint.ts';
import { MOST_HELD } from './holds.ts';
import { campaignKey, groupKey, MOST_KEY } from './keys.ts';

/** Which keyword rows: these, or all of a campaign, of groups, or of the plan; never those that are paused. */
export const bidScope = z.union([
  z.strictObject({ rows: z.array(z.string().max(MOST_KEY)).min(1).max(MOST_HELD) }),
  z.strictObject({ groups: z.array(groupKey).min(1).max(20_000) }),
  z.strictObject({ campaign: campaignKey }),
  z.strictObject({ all: z.literal(true) }),
]);
export type BidScope = z.infer<typeof bidScope>;

const percent = z.number().int().min(-mostPercent).max(mostPercent);
const positive = micros.refine((amount) => amount > 0, 'It has to be more than nothing.');
export const bidChange = z
  .discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('set'), to: positive }),
    z.strictObject({ kind: z.literal('percent'), by: percent }),
    z.strictObject({ kind: z.literal('amount'), by: z.number().int().min(-1e12).max(1e12) }),
    z.strictObject({ kind: z.literal('round'), to: positive }),
    z.strictObject({ kind: z.literal('between'), from: micros, to: positive }),
  ])
  .refine((change) => change.kind !== 'between' || change.from <= change.to, {
    message: 'The least is above the greatest. Lower the one or raise the other.',
    path: ['from'],
  }) satisfies z.ZodType<BidChange>;

export const aimSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('position'), at: z.number().min(1).max(100) }),
  z.strictObject({ kind: z.literal('share'), at: z.number().int().min(1).max(10_000) }),
]);

/** A day's clicks and cost, as they are forecast. */
export const dayForecast = z.object({ clicks: z.number().min(0), cost: micros });
export type DayForecast = z.infer<typeof dayForecast>;

export const bidsAnswer = z.object({
  rows: count,
  changed: count,
  samples: z.array(
    z.object({ key: z.string(), text: z.string(), type: z.enum(matchTypes), before: micros, after: micros }),
  ),
  /** The forecast speaks of search: bids on other networks change nothing in it. */
  before: dayForecast,
  after: dayForecast,
  unreachable: z.object({ 'no-estimate': count, 'out-of-reach': count, 'above-ceiling': count }),
  revision: count,
});
export type BidsAnswer = z.infer<typeof bidsAnswer>;

/** Of which network the bids are; those of search are the bids of the plan. */
const network = z.enum(networkNames).default('search');

/** Changes many bids, or says what it would do. They are held from then on. */
export const changeBids = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/bids',
  access: 'build',
  reads: ['built'],
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ scope: bidScope, change: bidChange, network, dry: z.boolean() }),
  answer: bidsAnswer,
});

/** Sets bids to what reaches a position or a share of impressions, or says what it would do. */
export const aimBids = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/bids/aim',
  access: 'build',
  reads: ['built'],
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    scope: bidScope,
    aim: aimSchema,
    /** Beyond the least bid: so much of itself, or of the way to the next better place; basis points. */
    headroom: z.union([
      z.number().int().min(0).max(100_000),
      z.strictObject({ next: z.number().int().min(0).max(10_000) }),
    ]),
    /** No bid is aimed above it; null: the layout's greatest bid. */
    ceiling: positive.nullable().default(null),
    network,
    dry: z.boolean(),
  }),
  answer: bidsAnswer,
});

/** A point of the curve of cost against clicks: all bids aimed at a position. */
export const curvePoint = dayForecast.extend({ position: z.number(), unreachable: count });
export const viewForecast = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/forecast',
  access: 'read',
  reads: ['built'],
  changes: [],
  params: planParams,
  query: nothing,
  body: z.object({ scope: bidScope }),
  answer: z.object({
    rows: count,
    keywords: count,
    now: dayForecast,
    /** What comes of it within the daily budgets, and the share of the demand that they reach. */
    held: dayForecast.extend({ reached: count }),
    budget: micros,
    /** Eight in ten lie between. */
    low: dayForecast,
    high: dayForecast,
    /** Searches of which nothing can be forecast: their searches or their CPC are not known. */
    missing: count,
    /** What share of the clicks rests on estimates, and on made-up figures; basis points. */
    estimated: count,
    madeUp: count,
    position: z.number().nullable(),
    medianBid: micros.nullable(),
    curve: z.array(curvePoint),
    /** Of each campaign, and of the ad groups that cost most, for the picture. */
    parts: z.array(dayForecast.extend({ key: z.string() })),
  }),
});
export type ForecastView = z.output<(typeof viewForecast)['answer']>;
