import { matchTypes } from '@sprig/core/match';
import { z } from 'zod';
import { count, id, nothing, planParams } from '../../common.ts';
import { endpoint } from '../../endpoint.ts';
import { bidScope } from './bids.ts';

const types = z.number().int().min(1, 'At least one match type is needed.').max(15);

/** What becomes of the match types of keywords; `as-asked`: what was set by hand is given back. */
export const typesChange = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('set'), types }),
  z.strictObject({ kind: z.literal('add'), types }),
  z.strictObject({ kind: z.literal('take'), types }),
  z.strictObject({ kind: z.literal('as-asked') }),
]);
export type TypesChange = z.infer<typeof typesChange>;

/** Of which keywords: these, or those of what is built, paused or not. */
export const typesScope = z.union([
  z.strictObject({ keywords: z.array(id).min(1).max(1_000_000) }),
  bidScope,
]);
export type TypesScope = z.infer<typeof typesScope>;

const byType = z.record(z.enum(matchTypes), count);

/**
 * Sets by hand in which match types keywords are built, or says what it would do: that holds whatever the rules and the
 * sources say, until it is given back.
 */
export const changeTypes = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/match-types',
  access: 'build',
  reads: ['built', 'plan'],
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ scope: typesScope, change: typesChange, dry: z.boolean() }),
  answer: z.object({
    revision: count,
    keywords: count,
    changed: count,
    /** Keywords that would be left with no match type: they stay as they are. */
    bare: count,
    /** How many of the keywords stand in each match type. */
    before: byType,
    after: byType,
    samples: z.array(z.object({ id, text: z.string(), before: count, after: count })),
  }),
});
export type TypesAnswer = z.output<(typeof changeTypes)['answer']>;
