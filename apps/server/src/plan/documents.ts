import { isDeepStrictEqual } from 'node:util';
import type { FieldEdit } from '@sprig/contracts';
import type { z } from 'zod';
import { parse } from '../http/mount.ts';
import { changedMeanwhile, SprigFailure } from '../platform/failure.ts';

/**
 * A document with edits made, checked whole by its schema. An edit whose `before` is not what stands there is a
 * conflict that tells what does: nobody writes over what they have not seen.
 */
export function applyEdits<T>(document: T | undefined, edits: readonly FieldEdit[], schema: z.ZodType<T>): T {
  const next = structuredClone(document) as unknown;
  for (const { at, before, after } of edits) {
    const steps = at.split('.');
    const last = steps.pop() ?? '';
    const holder = steps.reduce<unknown>((value, step) => own(value, step, at), next);
    const current = own(holder, last, at);
    if (!isDeepStrictEqual(current, before)) throw changedMeanwhile(at, current);
    (holder as Record<string, unknown>)[last] = after;
  }
  return parse(schema, next, 'the edit');
}

function own(value: unknown, step: string, at: string): unknown {
  const isField = typeof value === 'object' && value !== null && Object.hasOwn(value, step);
  // A list has places, and no other fields that one may set.
  if (!isField || (Array.isArray(value) && !/^\d+$/.test(step)))
    throw new SprigFailure('invalid', 'There is no such field.', { at });
  return (value as Record<string, unknown>)[step];
}
