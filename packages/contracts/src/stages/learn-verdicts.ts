import { verdicts } from '@sprig/core/judge';
import { matchTypes } from '@sprig/core/match';
import { z } from 'zod';
import { count, micros, nothing, planParams, revisionAnswer } from '../common.ts';
import { endpoint } from '../endpoint.ts';
import { askedOfResults } from './asked-of-results.ts';
import { MOST_KEY } from './build/keys.ts';
import { days, isoDay, lookSchema, noLook, reportAccount } from './learn.ts';

/** What gets a verdict. */
export const judgedBy = ['keyword', 'group', 'ad'] as const;
export type JudgedBy = (typeof judgedBy)[number];

const told = z.number().nullable();
const evidence = z.object({
  own: told,
  against: told,
  by: z.enum(['page', 'since', 'aim', 'group', 'theme', 'campaign', 'position', 'lost-rank', 'none']),
  chance: told,
  more: z.object({ of: z.enum(['clicks', 'impressions']), count: z.number() }).nullable(),
});

/** What is done about a verdict in place: a pause, or bids raised by percent or to what reaches a position. */
export const verdictAct = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('pause') }),
  z.strictObject({ kind: z.literal('raise'), by: z.number().int().min(1).max(900) }),
  z.strictObject({ kind: z.literal('aim'), position: z.number().min(1).max(8) }),
  /** Seen to elsewhere, or left: it only rests. */
  z.strictObject({ kind: z.literal('seen') }),
]);
export type VerdictAct = z.infer<typeof verdictAct>;
const bidSet = z.strictObject({
  kind: z.literal('bid'),
  from: z.enum(['aim', 'bands']),
  before: micros,
  after: micros,
});
/** What was done: that, or a bid set to what follows from results. */
const doneAct = z.discriminatedUnion('kind', [...verdictAct.options, bidSet]);

/** What was counted when something was done: over so many days, amounts in millionths. */
const countedThen = z.object({
  days: count,
  impressions: z.number(),
  clicks: z.number(),
  cost: z.number(),
  conversions: z.number(),
});
export const verdictActBody = z.object({
  by: z.enum(judgedBy),
  key: z.string(),
  /** null: not for its verdict, but for all it brought. */
  verdict: z.enum(verdicts).nullable(),
  act: doneAct,
  /** The day on which it was done, by the account's clock, and the day on which it is looked at again. */
  on: isoDay,
  until: isoDay,
  was: countedThen,
});
export type VerdictActBody = z.infer<typeof verdictActBody>;

/** What lists of verdicts are of: one of them, or what was done about some. */
export const verdictLists = [...verdicts, 'rests', 'again'] as const;
export type VerdictList = (typeof verdictLists)[number];

const about = z.object({ account: lookSchema.shape.account, by: z.enum(judgedBy).default('keyword') });
/** What was looked at, and by what. */
export const aboutVerdicts = z.object({
  account: reportAccount.nullable(),
  range: days.nullable(),
  /** The last day whose conversions count; null where none does yet. */
  settledTo: isoDay.nullable(),
  grain: z.string().nullable(),
  why: noLook.nullable(),
  /** The plan's; so many campaigns have one of their own. */
  aim: z.object({ cost: told, return: told }),
  ownAims: count,
  /** Whether the aim counts in the account's currency; where not it is left out. */
  inCurrency: z.boolean(),
  /** Rows that no keyword, ad group or ad of today's plan answers to are not judged. */
  notMet: count,
  stamp: z.string(),
});

export const verdictsAnswer = aboutVerdicts.extend({
  lists: z.array(z.object({ list: z.enum(verdictLists), rows: count, stake: z.number() })),
  list: z.enum(verdictLists),
  /** Numbers of the rows of that list, the most at stake first. */
  order: z.array(count),
});
export type VerdictsAnswer = z.infer<typeof verdictsAnswer>;

export const readVerdicts = endpoint({
  ...askedOfResults,
  path: '/api/plans/:plan/learn/verdicts',
  /** `list` null: the first that asks for something. */
  body: about.extend({ list: z.enum(verdictLists).nullable().default(null) }),
  answer: verdictsAnswer,
});

export const verdictRow = z.object({
  n: count,
  key: z.string(),
  /** The finest name first, as for looks. */
  names: z.array(z.string()),
  type: z.enum(matchTypes).nullable(),
  group: z.string().nullable(),
  verdict: z.enum(verdicts),
  evidence,
  stake: told,
  impressions: z.number(),
  clicks: z.number(),
  cost: z.number(),
  conversions: told,
  position: told,
  /** Days until it can be told, as it went so far; null where that can't be said. */
  days: told,
  /** Of a keyword: its bid of today and whether it is on; null where it is not in the plan. */
  bid: told,
  status: z.enum(['enabled', 'paused']).nullable(),
  act: verdictActBody
    .extend({
      /** What was counted from that day on, over so many days. */
      since: countedThen,
    })
    .nullable(),
});
export type VerdictRow = z.infer<typeof verdictRow>;

export const readVerdictRows = endpoint({
  ...askedOfResults,
  path: '/api/plans/:plan/learn/verdict-rows',
  body: about.extend({ rows: z.array(count).max(1_000) }),
  answer: z.object({ rows: z.array(verdictRow) }),
});

export const MOST_ACTED = 20_000;

/** Does something about verdicts, as one change; they rest until their day. `dry`: only says what it would do. */
export const actOnVerdicts = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/learn/verdict-acts',
  access: 'build',
  reads: ['plan', 'built'],
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: about.extend({
    keys: z.array(z.string().max(MOST_KEY)).min(1).max(MOST_ACTED),
    act: verdictAct,
    until: isoDay,
    dry: z.boolean().default(false),
  }),
  answer: revisionAnswer.extend({
    /** Rows that change, of those that were named. */
    changed: count,
    /** Left as they are: too few clicks have come since their bids were changed. */
    tooSoon: count,
    /** Keywords of which no bid is known that reaches the position, within the plan's ceiling. */
    outOfReach: count,
    /** Bids before and after, of the first few. */
    samples: z.array(z.object({ text: z.string(), before: z.number(), after: z.number() })),
  }),
});
