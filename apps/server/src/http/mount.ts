import type { Endpoint } from '@sprig/contracts';
import type { Request, RequestHandler, Router } from 'express';
import type { z } from 'zod';
import type { Caller } from '../platform/caller.ts';
import { SprigFailure } from '../platform/failure.ts';

type Input<P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType> = {
  params: z.output<P>;
  query: z.output<Q>;
  body: z.output<B>;
};

/** Who sends this request; set by the first middleware. */
export const callerOf = (request: Request): Caller => (request as Request & { caller: Caller }).caller;

/** Puts an endpoint on a router: parses what comes in by its schemas, and answers what the handler gives. */
export function mount<P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, A extends z.ZodType>(
  router: Router,
  definition: Endpoint<P, Q, B, A>,
  handle: (caller: Caller, input: Input<P, Q, B>) => Promise<z.input<A>>,
): void {
  const handler: RequestHandler = async (request, response) => {
    const input = {
      params: parse(definition.params, request.params, 'the address'),
      query: parse(definition.query, request.query, 'the address'),
      body: parse(definition.body, request.body ?? {}, 'what was sent'),
    };
    response.json(await handle(callerOf(request), input));
  };
  const method = definition.method.toLowerCase() as 'get' | 'post' | 'patch' | 'delete';
  router[method](definition.path, handler);
}

/** Parses by a schema; what does not fit is a failure that names its first place. */
export function parse<T extends z.ZodType>(schema: T, value: unknown, where: string): z.output<T> {
  const read = schema.safeParse(value);
  if (read.success) return read.data;
  const [issue] = read.error.issues;
  const at = issue?.path.join('.') || where;
  throw new SprigFailure('invalid', `${issue?.message ?? 'Not understood.'}`, { at });
}
