import { type Endpoint, may, type RawEndpoint } from '@sprig/contracts';
import type { Request, RequestHandler, Response, Router } from 'express';
import type { z } from 'zod';
import { inWorkspace } from '../db/workspace.ts';
import type { PlanSender, Sender } from '../platform/caller.ts';
import { SprigFailure } from '../platform/failure.ts';

/** A caller at the plan that the address names, where it names one. */
type ScopeOf<P extends z.ZodType> = z.output<P> extends { plan: number } ? PlanSender : Sender;

type Input<P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType> = {
  params: z.output<P>;
  query: z.output<Q>;
  body: z.output<B>;
};

type Known = Request & { caller?: Sender | null };

/** Says who sends a request; null: nobody who is signed in. */
export const setCaller = (request: Request, caller: Sender | null): void => {
  (request as Known).caller = caller;
};

/** Who sends this request; null: nobody who is signed in. */
export const senderOf = (request: Request): Sender | null => (request as Known).caller ?? null;

/** The same. Fails where nobody is signed in. */
export function callerOf(request: Request): Sender {
  const caller = senderOf(request);
  if (!caller)
    throw new SprigFailure(
      'signed-out',
      'You are signed out. What you typed is still here: sign in, and go on.',
    );
  return caller;
}

const methodOf = ({ method }: Pick<Endpoint, 'method'>) =>
  method.toLowerCase() as 'get' | 'post' | 'patch' | 'delete';

/**
 * Who asks, at the plan that the address names (which the application has found to be of the workspace), and what the
 * address says. A failure where what is asked for is more than they may, whatever else is wrong with it.
 */
function scopeOf<P extends z.ZodType, Q extends z.ZodType>(
  request: Request,
  { access, params: inPath, query: inQuery }: Pick<Endpoint<P, Q>, 'access' | 'params' | 'query'>,
) {
  const caller = callerOf(request);
  if (!may(caller, access)) throw new SprigFailure('forbidden', REFUSED[access]);
  const params = parse(inPath, request.params, 'the address');
  const { plan } = (params ?? {}) as { plan?: number };
  const scope: Sender | PlanSender = plan === undefined ? caller : { ...caller, plan };
  return { scope: scope as ScopeOf<P>, params, query: parse(inQuery, request.query, 'the address') };
}

export const REFUSED: Record<Endpoint['access'], string> = {
  open: 'That may not be asked.',
  self: 'Only somebody of this workspace may do that.',
  read: 'Only somebody of this workspace may see that.',
  write: 'You may read this plan, not change it. Ask an owner of the workspace.',
  build: 'You may not change this part of the plan. Ask an owner of the workspace.',
  ship: 'You may not ship this plan. Ask an owner of the workspace.',
  approve: 'You may not accept or send back. Ask an owner of the workspace.',
  people: 'Only owners of the workspace say who is in it.',
};

/** Puts an endpoint on a router: parses what comes in by its schemas, and answers what the handler gives. */
export function mount<P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, A extends z.ZodType>(
  router: Router,
  definition: Endpoint<P, Q, B, A>,
  handle: (scope: ScopeOf<P>, input: Input<P, Q, B>, request: Request) => Promise<z.input<A>>,
): void {
  if (definition.access === 'open') throw new Error(`${definition.path} asks nobody who they are.`);
  const handler: RequestHandler = async (request, response) => {
    const { scope, params, query } = scopeOf(request, definition);
    const body = parse(definition.body, request.body ?? {}, 'what was sent');
    response.json(await inWorkspace(scope.workspace, () => handle(scope, { params, query, body }, request)));
  };
  router[methodOf(definition)](definition.path, handler);
}

/** Puts a call on a router that asks for nothing, not even to be signed in. */
export function mountOpen<P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, A extends z.ZodType>(
  router: Router,
  definition: Endpoint<P, Q, B, A>,
  handle: (input: Input<P, Q, B>, request: Request) => Promise<z.input<A>>,
): void {
  if (definition.access !== 'open') throw new Error(`${definition.path} asks who it is that calls.`);
  const handler: RequestHandler = async (request, response) => {
    const params = parse(definition.params, request.params, 'the address');
    const query = parse(definition.query, request.query, 'the address');
    const body = parse(definition.body, request.body ?? {}, 'what was sent');
    response.set('cache-control', 'no-store').json(await handle({ params, query, body }, request));
  };
  router[methodOf(definition)](definition.path, handler);
}

/** Mounts a call that takes or answers bytes: the handler reads the request and writes the response itself. */
export function mountRaw<P extends z.ZodType, Q extends z.ZodType>(
  router: Router,
  definition: RawEndpoint<P, Q>,
  handle: (
    scope: ScopeOf<P>,
    input: { params: z.output<P>; query: z.output<Q> },
    request: Request,
    response: Response,
  ) => Promise<unknown>,
): void {
  router[methodOf(definition)](definition.path, async (request, response) => {
    const { scope, ...input } = scopeOf(request, definition);
    await inWorkspace(scope.workspace, () => handle(scope, input, request, response));
  });
}

/** Parses by a schema; what does not fit is a failure that names its first place. */
export function parse<T extends z.ZodType>(schema: T, value: unknown, where: string): z.output<T> {
  const read = schema.safeParse(value);
  if (read.success) return read.data;
  const [issue] = read.error.issues;
  const at = issue?.path.join('.') || where;
  throw new SprigFailure('invalid', `${issue?.message ?? 'Not understood.'}`, { at });
}
