import { bidBounds } from '@sprig/core/judge';
import { matchTypes } from '@sprig/core/match';
import { z } from 'zod';
import { count, micros, nothing, planParams } from '../common.ts';
import { endpoint } from '../endpoint.ts';
import { askedOfResults } from './asked-of-results.ts';
import { bidsAnswer } from './build/bids.ts';
import { MOST_KEY } from './build/keys.ts';
import { isoDay, lookSchema } from './learn.ts';
import { aboutVerdicts, MOST_ACTED } from './learn-verdicts.ts';

/** What bids follow from: what a click may cost by the aim, the position they reached, or the day on which they come down. */
export const bidsFrom = ['aim', 'bands', 'down'] as const;
export type BidsFrom = (typeof bidsFrom)[number];

/** Those that change, that stay as they are, of which too little was seen, that were changed just now, and whose campaign has no aim. */
export const resultBidLists = ['change', 'stay', 'few', 'soon', 'aimless'] as const;
export type ResultBidList = (typeof resultBidLists)[number];

/** Why nothing can be said of any. */
export const bidRests = [
  'no-aim',
  'currency',
  'nothing-sold',
  'no-value',
  'no-position',
  'not-high',
] as const;
export type BidRest = (typeof bidRests)[number];

const about = z.object({ account: lookSchema.shape.account, from: z.enum(bidsFrom) });

export const resultBidsAnswer = aboutVerdicts.extend({
  rest: z.enum(bidRests).nullable(),
  lists: z.array(z.object({ list: z.enum(resultBidLists), rows: count })),
  /** Numbers of the rows of the list that was asked for, those that move the most money first. */
  order: z.array(count),
  /** Rows that reports tell of and that do not bid: paused themselves, or in what is. */
  notBidding: count,
  /** Bids that start high: whether they still do today, and until when. */
  high: z.object({ on: z.boolean(), until: isoDay.nullable() }).nullable(),
  /** Campaigns with conversions enough to try the engine's own bidding, and how many they have. */
  ready: z.array(z.object({ key: z.string(), name: z.string(), conversions: z.number() })),
});
export type ResultBidsAnswer = z.infer<typeof resultBidsAnswer>;

/** Bids as they follow from results. */
export const readResultBids = endpoint({
  ...askedOfResults,
  path: '/api/plans/:plan/learn/bids',
  body: about.extend({ list: z.enum(resultBidLists).default('change') }),
  answer: resultBidsAnswer,
});

const told = z.number().nullable();
export const resultBid = z.object({
  n: count,
  key: z.string(),
  text: z.string(),
  type: z.enum(matchTypes),
  group: z.string(),
  campaign: z.string(),
  clicks: told,
  conversions: told,
  /** Conversions a click that are to be expected, after what surrounds it; only where bids follow an aim. */
  expected: told,
  impressions: told,
  position: told,
  before: micros,
  after: micros,
  bound: z.enum(bidBounds),
});
export type ResultBid = z.infer<typeof resultBid>;

export const readResultBidRows = endpoint({
  ...askedOfResults,
  path: '/api/plans/:plan/learn/bid-rows',
  body: about.extend({ rows: z.array(count).max(1_000) }),
  answer: z.object({ rows: z.array(resultBid) }),
});

/** Sets bids to what follows from results, as one change. `keys` null: all that change. `dry`: only says what it would do. */
export const takeResultBids = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/learn/take-bids',
  access: 'build',
  reads: ['plan', 'built'],
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    account: lookSchema.shape.account,
    from: z.enum(['aim', 'bands']),
    keys: z.array(z.string().max(MOST_KEY)).min(1).max(MOST_ACTED).nullable(),
    /** What they were shown with: what has changed since is refused. */
    stamp: z.string().max(100),
    /** The day on which they are looked at again. */
    until: isoDay,
    dry: z.boolean(),
  }),
  answer: bidsAnswer,
});
