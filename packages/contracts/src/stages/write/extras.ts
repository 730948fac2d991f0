import { statuses } from '@sprig/core/build';
import { extraKinds, readPhone } from '@sprig/core/write';
import { z } from 'zod';
import { id, idText, nothing, planParams, revisionAnswer, text } from '../../common.ts';
import { endpoint } from '../../endpoint.ts';
import { MOST_KEY } from '../build.ts';
import { outletKey } from '../outlets.ts';

/** At how many places an extra can be shown. */
export const MOST_PLACES = 20_000;
const placed = z.array(z.string().max(MOST_KEY)).max(MOST_PLACES);
export const extraBody = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('sitelink'),
    text: text(200),
    line1: text(200),
    line2: text(200),
    address: text(2_000),
  }),
  z.strictObject({ kind: z.literal('callout'), text: text(200) }),
  z.strictObject({
    kind: z.literal('phone'),
    number: text(100).superRefine((typed, context) => {
      const read = readPhone(typed);
      if ('words' in read) context.addIssue({ code: 'custom', message: read.words });
    }),
  }),
]);
const outlets = z.array(outletKey).max(100);
const status = z.enum(statuses);
/** `at`: `plan`, and keys of campaigns and ad groups. `outlets`: the keys of those that it is for; none: all. */
export const extraSchema = z.object({ id, at: z.array(z.string()), body: extraBody, outlets, status });
export type ExtraView = z.output<typeof extraSchema>;

export const listExtras = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/extras',
  access: 'read',
  reads: ['plan'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ extras: z.array(extraSchema) }),
});

export const MOST_EXTRAS = 500;
export const makeExtra = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/extras',
  access: 'write',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    at: placed,
    body: extraBody,
    outlets: outlets.default([]),
    status: status.default('enabled'),
  }),
  answer: revisionAnswer.extend({ id }),
});

/** Shows extras at many campaigns or ad groups, and takes others away from them; elsewhere they stay as they are. */
export const placeExtras = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/extras/place',
  access: 'write',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z
    .object({
      places: placed.min(1),
      give: z.array(id).max(MOST_EXTRAS),
      take: z.array(id).max(MOST_EXTRAS),
    })
    .refine(({ give, take }) => give.length + take.length > 0, 'Choose an extra to give or to take away.'),
  answer: revisionAnswer.extend({ changed: z.number().int() }),
});

const extraParams = planParams.extend({ extra: idText });
export const changeExtra = endpoint({
  method: 'PATCH',
  path: '/api/plans/:plan/extras/:extra',
  access: 'write',
  changes: ['plan'],
  params: extraParams,
  query: nothing,
  /** `outlets` and `status` stay as they are where they are not given. */
  body: z.object({ at: placed, body: extraBody, outlets: outlets.optional(), status: status.optional() }),
  answer: revisionAnswer,
});
export const removeExtra = endpoint({
  method: 'DELETE',
  path: '/api/plans/:plan/extras/:extra',
  access: 'write',
  changes: ['plan'],
  params: extraParams,
  query: nothing,
  body: nothing,
  answer: revisionAnswer,
});
export { extraKinds };
