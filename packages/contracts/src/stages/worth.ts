import { worthCodes } from '@sprig/core/next';
import { z } from 'zod';
import { count, id, nothing, planParams, revisionAnswer } from '../common.ts';
import { endpoint } from '../endpoint.ts';
import { isoDay } from './learn.ts';

const code = z.enum(worthCodes);
const account = z.string().max(400);
export const worthItem = z.object({
  code,
  count,
  /** In millionths of `currency`; null where no money can be told. */
  stake: z.number().nullable(),
  currency: z.string().nullable(),
  account,
});
export type WorthItem = z.infer<typeof worthItem>;

/** `until` null: done, as long as it is about no more than `count`. */
export const worthMark = z.object({ code, account, until: isoDay.nullable(), count });

/** All that is worth doing in a plan now, what has the most at stake first. */
export const readWorth = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/worth',
  access: 'read',
  reads: ['plan', 'built', 'receipts'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({
    open: z.array(worthItem),
    away: z.array(z.object({ worth: worthItem, mark: worthMark })),
    /** The day that it is, by the plan's clock. */
    today: isoDay,
  }),
});

/** Puts a thing off until a day, says that it is done, or takes that back (`mark` null). */
export const markWorth = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/worth/marks',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    code,
    account,
    mark: z.object({ until: isoDay.nullable(), count }).nullable(),
  }),
  answer: revisionAnswer,
});

/** What is worth doing in all plans that are not archived, as it was when each was looked through last. */
export const listWorth = endpoint({
  method: 'GET',
  path: '/api/worth',
  access: 'self',
  reads: ['plans', 'people'],
  params: nothing,
  query: nothing,
  body: nothing,
  answer: z.object({
    plans: z.array(
      z.object({
        plan: id,
        name: z.string(),
        /** null: it was not looked through yet. */
        open: z.array(worthItem).nullable(),
        /** Something has changed since it was looked through. */
        isOld: z.boolean(),
      }),
    ),
  }),
});
export type PlanWorth = z.output<(typeof listWorth)['answer']>['plans'][number];
