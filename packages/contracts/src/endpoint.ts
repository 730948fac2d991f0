import type { z } from 'zod';
import type { Access } from './access.ts';

/**
 * What a call changes, of that which windows show:
 * - `plan`: its inputs; the plan takes a new revision
 * - `jobs`: a job is begun or stopped; its events tell the rest
 * - `receipts`: what was shipped, and what became of it
 * - `read-back`: sheets that wait to be taken in
 * - `plans`: the list of plans
 * - `own`: what only the one who calls has
 * - `work`: notes, what was given to whom, and which ads were accepted
 * - `people`: who is in the workspace, or at the plan, and may do what
 */
export const changeKinds = [
  'plan',
  'jobs',
  'receipts',
  'read-back',
  'plans',
  'own',
  'people',
  'work',
] as const;
export type ChangeKind = (typeof changeKinds)[number];

/** After which changes an answer has to be read again: those of `ChangeKind`, and `built`, the end of a rebuild. */
export type ReadKind = ChangeKind | 'built';

/**
 * A question says after which changes it has to be asked again, and what is no GET says what it changes. What is a question
 * though it is no GET, since it sends much, or looks at what it would change, says both.
 */
type Effect =
  | { method: 'GET'; reads: readonly ReadKind[]; changes?: never }
  | { method: 'POST' | 'PATCH' | 'DELETE'; reads?: readonly ReadKind[]; changes: readonly ChangeKind[] };

/** Bytes are not kept by the browser's side, so that nothing of them has to be read again. */
type RawEffect =
  | { method: 'GET'; changes?: never }
  | { method: 'POST' | 'PATCH' | 'DELETE'; changes: readonly ChangeKind[] };

type Parts<Params extends z.ZodType, Query extends z.ZodType> = {
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
> = Effect & Parts<Params, Query> & { body: Body; answer: Answer };

/** A call whose answer is kept until something that it hangs on has changed. */
export type Question<
  P extends z.ZodType = z.ZodType,
  Q extends z.ZodType = z.ZodType,
  B extends z.ZodType = z.ZodType,
  A extends z.ZodType = z.ZodType,
> = Endpoint<P, Q, B, A> & { reads: readonly ReadKind[] };

export function endpoint<P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, A extends z.ZodType>(
  definition: Question<P, Q, B, A>,
): Question<P, Q, B, A>;
export function endpoint<P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, A extends z.ZodType>(
  definition: Endpoint<P, Q, B, A>,
): Endpoint<P, Q, B, A>;
export function endpoint(definition: Endpoint): Endpoint {
  return definition;
}

/** A call that takes or answers bytes: what they are, by their content types; null for what is JSON or nothing. */
export type RawEndpoint<
  Params extends z.ZodType = z.ZodType,
  Query extends z.ZodType = z.ZodType,
> = RawEffect & Parts<Params, Query> & { takes: string | null; answers: string };

export const rawEndpoint = <P extends z.ZodType, Q extends z.ZodType>(
  definition: RawEndpoint<P, Q>,
): RawEndpoint<P, Q> => definition;

/** A part of a call may be left out only where nothing of it has to be said. */
type Part<Name extends string, T> = Record<never, never> extends T ? { [K in Name]?: T } : { [K in Name]: T };
/** What has to be said of a call's address. */
export type Addressed<P extends z.ZodType, Q extends z.ZodType> = Part<'params', z.input<P>> &
  Part<'query', z.input<Q>>;
/** What has to be sent with a call. */
export type Sent<P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType> = Addressed<P, Q> &
  Part<'body', z.input<B>>;
/** What is said of a call, as arguments: none where nothing has to be said. */
export type Told<T> = Record<never, never> extends T ? [told?: T] : [told: T];

/** The address of a call, with its parameters filled in. */
export function urlOf<P extends z.ZodType, Q extends z.ZodType>(
  { path }: Parts<P, Q>,
  ...[told]: Told<Addressed<P, Q>>
): string {
  const { params = {}, query = {} } = (told ?? {}) as Record<'params' | 'query', Record<string, unknown>>;
  const filled = path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(String(params[name])));
  const asked = Object.entries(query).flatMap(([name, value]) =>
    value === undefined ? [] : [`${encodeURIComponent(name)}=${encodeURIComponent(String(value))}`],
  );
  return asked.length > 0 ? `${filled}?${asked.join('&')}` : filled;
}
