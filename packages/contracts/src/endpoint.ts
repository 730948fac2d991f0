import type { z } from 'zod';

/**
 * One call between the web app and the server, defined once and used by both sides. `path` has its parameters as
 * `:name`; `params` and `query` are read from text, so their schemas coerce.
 */
export type Endpoint<
  Params extends z.ZodType = z.ZodType,
  Query extends z.ZodType = z.ZodType,
  Body extends z.ZodType = z.ZodType,
  Answer extends z.ZodType = z.ZodType,
> = {
  method: 'GET' | 'POST' | 'PATCH' | 'DELETE';
  path: string;
  params: Params;
  query: Query;
  body: Body;
  answer: Answer;
};

export const endpoint = <P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, A extends z.ZodType>(
  definition: Endpoint<P, Q, B, A>,
): Endpoint<P, Q, B, A> => definition;
