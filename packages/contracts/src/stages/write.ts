import { caseStyles, parseLine } from '@sprig/core/text';
import { type AdField, adFields } from '@sprig/core/write';
import { z } from 'zod';
import { fieldEdits, nothing, planParams, revisionAnswer, text } from '../common.ts';
import { endpoint } from '../endpoint.ts';

const line = text(1_000).superRefine((source, context) => {
  const read = parseLine(source);
  if ('problem' in read)
    context.addIssue({
      code: 'custom',
      message: `${read.problem.token} is no token. There are @keyword, @group and @site.`,
    });
});

const fieldSchema = z.strictObject({ lines: z.array(line).max(20), style: z.enum(caseStyles) });

export const adPatternSchema = z.strictObject({
  name: text(200),
  fields: z.strictObject(
    Object.fromEntries(adFields.map((field) => [field, fieldSchema])) as Record<AdField, typeof fieldSchema>,
  ),
  finalUrl: line,
});

export const readPattern = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/pattern',
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ pattern: adPatternSchema }),
});

export const editPattern = endpoint({
  method: 'PATCH',
  path: '/api/plans/:plan/pattern',
  params: planParams,
  query: nothing,
  body: fieldEdits,
  answer: revisionAnswer,
});
