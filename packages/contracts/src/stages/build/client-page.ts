import { matchTypes } from '@sprig/core/match';
import { adForms } from '@sprig/core/write';
import { z } from 'zod';
import { count, micros, nothing, planParams } from '../../common.ts';
import { endpoint } from '../../endpoint.ts';
import { adTextsView, status } from './keys.ts';

export const MOST_ON_CLIENT_PAGE = 200;
const howMany = z.coerce.number().int().min(1).max(MOST_ON_CLIENT_PAGE);

/** One keyword of an ad group, in whatever match types it stands there. */
const shownKeyword = z.object({
  text: z.string(),
  types: z.array(z.enum(matchTypes)),
  searches: count.nullable(),
  bidFrom: micros,
  bidTo: micros,
});
const shownGroup = z.object({
  key: z.string(),
  name: z.string(),
  searches: count.nullable(),
  /** How many there are; `shown` has the most searched of them. */
  keywords: count,
  status,
  shown: z.array(shownKeyword),
  ads: z.array(adTextsView.extend({ form: z.enum(adForms) })),
});

/** A plan as whoever pays for it reads it: what is built, the largest of it one by one. */
export const readClientPage = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/client-page',
  access: 'read',
  reads: ['plan', 'built'],
  params: planParams,
  query: z.object({ groups: howMany.default(12), keywords: howMany.default(12) }),
  body: nothing,
  answer: z.object({
    builtRevision: count,
    campaigns: z.array(
      z.object({
        key: z.string(),
        name: z.string(),
        dailyBudget: micros,
        status,
        groups: count,
        keywords: count,
        rows: count,
        searches: count,
        shown: z.array(shownGroup),
      }),
    ),
    negatives: z.array(z.string()),
    negativeCount: count,
    lists: z.array(z.object({ name: z.string(), negatives: count })),
  }),
});
export type ClientPage = z.output<(typeof readClientPage)['answer']>;
