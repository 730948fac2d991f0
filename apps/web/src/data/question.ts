import type { Question, ReadKind, Sent, Told } from '@sprig/contracts';
import { queryOptions } from '@tanstack/react-query';
import type { z } from 'zod';
import { call } from './call.ts';
import { planKey, planOf, questionsOf } from './query-key.ts';

/**
 * What TanStack Query has to know to ask an endpoint and keep its answer: the key follows from what is sent, and after which
 * changes it is asked again from what the endpoint `reads`.
 */
export function question<P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, A extends z.ZodType>(
  endpoint: Question<P, Q, B, A>,
  ...told: Told<Sent<P, Q, B>>
) {
  return queryOptions({
    queryKey: [...questionsOf(endpoint, planOf(told[0])), told[0] ?? {}],
    queryFn: ({ signal }): Promise<z.output<A>> => call(endpoint, ...([{ ...told[0], signal }] as never)),
    meta: { reads: endpoint.reads },
  });
}

/**
 * The same for what is worked out here of a plan, by its worker or of several answers.
 * @param what its name, and all that it is worked out of
 * @param reads after which changes it is worked out again though `what` is the same
 */
export const computed = <T>(
  plan: number,
  what: readonly [name: string, ...from: unknown[]],
  work: (signal: AbortSignal) => Promise<T>,
  reads: readonly ReadKind[] = [],
) =>
  queryOptions({
    queryKey: [...planKey(plan), ...what],
    queryFn: ({ signal }): Promise<T> => work(signal),
    meta: { reads },
  });
