import type { Request } from 'express';
import type { Sequelize } from 'sequelize';
import { isLoopbackHost } from '../http/own-host.ts';
import type { Caller } from '../platform/caller.ts';
import type { Guesses } from './guesses.ts';
import type { Mailer } from './mailer.ts';
import type { Cipher } from './secrets.ts';

/** What those need who come in. */
export type Doorway = {
  database: Sequelize;
  guesses: Guesses;
  mailer: Mailer;
  cipher: Cipher;
  /** Where the application is opened, without a slash at its end: links of mails begin with it. */
  publicUrl: string;
  /** Whether people of the demo come in by one click, from this machine. */
  hasDemo: boolean;
};

export const addressOf = (request: Request): string => request.ip ?? '';

/** Who asks, as the audit trail knows them. */
export type Asker = { person: number | null; address: string };

/** A caller with the door's connections, which see what their own do not. */
export const askerOf = <C extends Caller>({ database }: Doorway, caller: C, request: Request): C & Asker => ({
  ...caller,
  database,
  person: request.session?.person ?? null,
  address: addressOf(request),
});

const LOOPBACK = /^(?:::1|(?:::ffff:)?127(?:\.\d{1,3}){3})$/;

/** Whether a request comes from the machine that the server runs on, and was passed on by nobody. */
export const isFromHere = (request: Request): boolean =>
  LOOPBACK.test(request.socket.remoteAddress ?? '') &&
  request.headers['x-forwarded-for'] === undefined &&
  request.headers.forwarded === undefined &&
  isLoopbackHost(request.headers.host ?? '');

/** Begins another session in the place of the one that the browser has: what it had before tells nobody anything. */
const newSession = (request: Request): Promise<void> =>
  new Promise((done, fail) =>
    request.session.regenerate((error: unknown) => {
      if (error) return fail(error);
      request.session.from = { agent: request.headers['user-agent'] ?? '', address: addressOf(request) };
      done();
    }),
  );

const kept = (request: Request): Promise<void> =>
  new Promise((done, fail) => request.session.save((error: unknown) => (error ? fail(error) : done())));

/** Signs somebody in. */
export async function letIn(
  request: Request,
  person: number,
  workspace: number | null = null,
): Promise<void> {
  await newSession(request);
  request.session.person = person;
  if (workspace !== null) request.session.workspace = workspace;
  await kept(request);
}

/** How long a second factor is waited for. */
const PENDING_MS = 10 * 60_000;

/** Has somebody wait for a second factor: nothing else may be asked by that session. */
export async function letWait(request: Request, person: number): Promise<void> {
  await newSession(request);
  request.session.pending = { person, until: Date.now() + PENDING_MS };
  await kept(request);
}

/** Who waits for a second factor; null: nobody, or for too long. */
export function whoWaits({ session }: Request): number | null {
  const { pending } = session;
  return pending && pending.until > Date.now() ? pending.person : null;
}

/** Ends the session that the browser has. */
export const endSession = (request: Request): Promise<void> =>
  new Promise((done, fail) => request.session.destroy((error: unknown) => (error ? fail(error) : done())));
