import type { z } from 'zod';
import type { Access } from './access.ts';

type Parts<Params extends z.ZodType, Query extends z.ZodType> = {
  method: 'GET' | 'POST' | 'PATCH' | 'DELETE';
  path: string;
  /** What who asks must be allowed to do. */
  access: Access;
  params: Params;
  query: Query;
};

/**
 * One call between the web app and the server, defined once and used by both sides. `path` has its parameters as
 * `:name`; `params` and `query` are read from text, so their schemas coerce.
 */
export type Endpoint<
  Params extends z.ZodType = z.ZodType,
  Query extends z.ZodType = z.ZodType,
  Body extends z.ZodType = z.ZodType,
  Answer extends z.ZodType = z.ZodType,
> = Parts<Params, Query> & { body: Body; answer: Answer };

export const endpoint = <P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, A extends z.ZodType>(
  definition: Endpoint<P, Q, B, A>,
): Endpoint<P, Q, B, A> => definition;

/** A call that takes or answers bytes: what they are, by their content types; null for what is JSON or nothing. */
export type RawEndpoint<Params extends z.ZodType = z.ZodType, Query extends z.ZodType = z.ZodType> = Parts<
  Params,
  Query
> & { takes: string | null; answers: string };

export const rawEndpoint = <P extends z.ZodType, Q extends z.ZodType>(
  definition: RawEndpoint<P, Q>,
): RawEndpoint<P, Q> => definition;
