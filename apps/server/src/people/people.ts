import type { Request, RequestHandler } from 'express';
import session from 'express-session';
import type { Sequelize } from 'sequelize';
import { execute } from '../db/connect.ts';
import type { Sender } from '../platform/caller.ts';
import { config } from '../platform/config.ts';
import { clearOldLinks } from './client-links.ts';
import type { Doorway } from './doorway.ts';
import { Guesses } from './guesses.ts';
import { makeMailer } from './mailer.ts';
import { Cipher } from './secrets.ts';
import { LONGEST_MS, SessionStore } from './session-store.ts';
import { Tokens } from './tokens.ts';

/** What the application needs to know who asks. */
export type People = {
  /** Takes away what has ended: sessions, counted tries, links, mails of the stand-in mailbox. */
  tidy: () => Promise<void>;
  /** Whether people open it by https. */
  isSecure: boolean;
  /** How many proxies before it say from where a request came. */
  proxies: number;
  door: Doorway;
  sessions: SessionStore;
  /** Reads the session of a request. */
  readSession: RequestHandler;
  /** Who sends a request; null: nobody who is signed in. */
  callerFor: (request: Request) => Promise<Omit<Sender, 'database'> | null>;
};

/**
 * Reads a request's session. Where people open the server by https, all of it counts as such, whatever the proxy before it says:
 * else the cookie would silently not be set. Browsers send it back over https alone.
 */
function readSession(isSecure: boolean, options: session.SessionOptions): RequestHandler {
  const read = session(options);
  return (request, response, next) => {
    if (isSecure) Object.defineProperty(request, 'secure', { value: true });
    read(request, response, next);
  };
}

type Options = { hasDemo?: boolean; settings?: ReturnType<typeof config> };

/** Links and mails are of no use so long after. */
const OLD = `interval '30 days'`;

async function tidy(database: Sequelize, sessions: SessionStore): Promise<void> {
  await sessions.clearEnded();
  await execute(database, 'delete from attempts where expire < extract(epoch from now()) * 1000');
  await execute(database, `delete from links where coalesce(used_at, ends_at) < now() - ${OLD}`);
  await clearOldLinks(database);
  await execute(database, `delete from mails where sent_at < now() - ${OLD}`);
}

/** The door of a server: what comes in by it is told by sessions in the database. */
export function makePeople(
  database: Sequelize,
  secret: string,
  { hasDemo = false, settings = config() }: Options = {},
): People {
  const publicUrl = (settings.PUBLIC_URL ?? `http://127.0.0.1:${settings.PORT}`).replace(/\/+$/, '');
  const isSecure = publicUrl.startsWith('https:');
  const sessions = new SessionStore(database);
  const tokens = new Tokens(database);
  return {
    tidy: () => tidy(database, sessions),
    isSecure,
    proxies: settings.TRUST_PROXY,
    door: {
      database,
      guesses: new Guesses(database),
      mailer: makeMailer(database, settings),
      cipher: new Cipher(secret),
      publicUrl,
      hasDemo,
    },
    sessions,
    readSession: readSession(isSecure, {
      store: sessions,
      secret,
      // The prefix has browsers take it over https alone, of this very host.
      name: isSecure ? '__Host-sprig' : 'sprig',
      resave: false,
      saveUninitialized: false,
      unset: 'destroy',
      cookie: { httpOnly: true, sameSite: 'strict', secure: isSecure, maxAge: LONGEST_MS },
    }),
    callerFor: async ({ headers, session: own }) =>
      headers.authorization === undefined ? (own.member ?? null) : tokens.callerOf(headers.authorization),
  };
}
