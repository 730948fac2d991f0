import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Endpoint, Failure, Job, Standing } from '@sprig/contracts';
import * as api from '@sprig/contracts';
import type { Sequelize } from 'sequelize';
import type { z } from 'zod';
import { connect, connectForRequests, select } from '../db/connect.ts';
import { createApp } from '../http/app.ts';
import { EventHub } from '../http/events.ts';
import { HereSockets } from '../http/here-socket.ts';
import { HereTogether, makePeople, type People } from '../people/index.ts';
import type { Sender } from '../platform/caller.ts';
import { readConfig } from '../platform/config.ts';
import { inProcess } from '../platform/jobs/in-process.ts';
import { startRunner } from '../platform/jobs/runner.ts';
import { handlers } from '../stages/all.ts';
import { heedTransactions } from './inside-transactions.ts';
import { addressOf, asAdmin, TEMPLATE } from './template.ts';

heedTransactions();

/** The real application on a database of its own, with a runner in this process. */
export type TestServer = {
  url: string;
  /** Method and path of everything that the server answers. */
  routes: readonly { method: string; path: string }[];
  databaseUrl: string;
  database: Sequelize;
  people: People;
  caller: Sender;
  as: (actor: number) => TestServer['call'];
  call: <P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, A extends z.ZodType>(
    endpoint: Endpoint<P, Q, B, A>,
    sent?: { params?: z.input<P>; query?: z.input<Q>; body?: z.input<B> },
  ) => Promise<z.output<A>>;
  stop: () => Promise<void>;
};

/** A refusal as a test reads it. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly failure: Failure,
  ) {
    super(`${status} ${failure.message}`);
  }
}

/** A database of its own, up to date, with nothing in it. */
export async function makeDatabase(): Promise<string> {
  const name = `test_${randomUUID().replaceAll('-', '')}`;
  await asAdmin(`create database ${name} template ${TEMPLATE}`);
  return addressOf(name);
}

type Starting = {
  /** The address of the database, instead of one that is up to date and empty. */
  databaseUrl: string;
  runner: boolean;
  requestsPerMinute: number;
  /** What whoever asks may do. */
  standing: () => Standing;
  /** Whoever asks has to come in by the door, and is told by a cookie. */
  door: boolean;
  hasDemo: boolean;
  /** Of the environment. */
  settings: Record<string, string>;
};

/** Of tests, by which cookies are signed. */
export const SECRET = 'a secret of tests that is long enough';

/** The first actor of the first workspace, as its owner. */
export async function firstActor(database: Sequelize): Promise<Omit<Sender, 'database'>> {
  const [user] = await select<{ workspace: number; actor: number }>(
    database,
    'select workspace_id as workspace, id as actor from actors order by id limit 1',
  );
  if (!user) throw new Error('The database has no actor: its migrations did not run to their end.');
  return { ...user, role: 'owner', permissions: ['ship', 'approve'] };
}

export async function startTestServer({
  databaseUrl: given,
  runner = true,
  requestsPerMinute = 1_000_000,
  standing,
  door = false,
  hasDemo = false,
  settings = {},
}: Partial<Starting> = {}): Promise<TestServer> {
  const databaseUrl = given ?? (await makeDatabase());
  const database = connect(databaseUrl, { connections: 12, acquireMs: 4_000 });
  const walled = connectForRequests(databaseUrl);
  const user = await firstActor(database);
  const people = makePeople(database, SECRET, { hasDemo, settings: readConfig(settings) });
  const events = new EventHub(databaseUrl);
  await events.open();
  const stopRunner = runner
    ? await startRunner(databaseUrl, inProcess(databaseUrl, handlers))
    : async () => {};
  const asTold: People['callerFor'] = async (request) =>
    request.headers.authorization === undefined
      ? {
          ...user,
          ...standing?.(),
          actor: Number(request.headers['x-test-actor'] ?? user.actor),
        }
      : people.callerFor(request);
  const app = createApp({
    database,
    walled,
    events,
    requestsPerMinute,
    people: door ? people : { ...people, callerFor: asTold },
  });
  // A test may compute for longer than a connection is kept: one that closes just then would fail its next call.
  const server = createServer({ keepAliveTimeout: 600_000 }, app).listen(0, '127.0.0.1');
  await once(server, 'listening');
  const together = new HereTogether(database);
  const sockets = new HereSockets(events, (here) => together.add(here));
  sockets.attach(server);
  const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const as = (actor: number) => callAs(url, actor);
  return {
    url,
    routes: routesOf(app),
    databaseUrl,
    database,
    people,
    caller: { database, ...user },
    as,
    call: as(user.actor),
    stop: async () => {
      server.close();
      server.closeAllConnections();
      sockets.close();
      await events.close();
      await stopRunner();
      await walled.close();
      await database.close();
    },
  };
}

type Layer = { route?: { path: string; methods: Record<string, boolean> }; handle?: { stack?: Layer[] } };

/** All routes of an application, those of its routers among them. */
function routesOf(app: ReturnType<typeof createApp>): TestServer['routes'] {
  const within = ({ route, handle }: Layer): { method: string; path: string }[] =>
    route
      ? Object.keys(route.methods).map((method) => ({ method: method.toUpperCase(), path: route.path }))
      : (handle?.stack ?? []).flatMap(within);
  return (app.router as unknown as { stack: Layer[] }).stack.flatMap(within);
}

const callAs =
  (url: string, actor: number): TestServer['call'] =>
  async (endpoint, { params = {}, query = {}, body } = {} as never) => {
    const path = endpoint.path.replace(/:(\w+)/g, (_, name: string) =>
      String((params as Record<string, unknown>)[name]),
    );
    const search = new URLSearchParams(query as Record<string, string>);
    const answer = await fetch(`${url}${path}?${search}`, {
      method: endpoint.method,
      headers: { 'content-type': 'application/json', 'x-test-actor': String(actor) },
      ...(endpoint.method === 'GET' ? {} : { body: JSON.stringify(body ?? {}) }),
    });
    const told = await answer.json();
    if (!answer.ok) throw new Refused(answer.status, told as Failure);
    return endpoint.answer.parse(told);
  };

export async function addActor({ database, caller }: TestServer, name: string): Promise<number> {
  const [actor] = await select<{ id: number }>(
    database,
    `insert into actors (workspace_id, name, role, permissions) values ($1, $2, 'owner', '{ship,approve}') returning id`,
    [caller.workspace, name],
  );
  return actor?.id ?? 0;
}

export const planOf = async (server: TestServer, name = 'Kayaks', currency = 'GBP'): Promise<number> =>
  (
    await server.call(api.makePlan, {
      body: { name, currency, language: 'en', site: 'saltmarshpaddle.example' },
    })
  ).id;

export async function upload(
  server: TestServer,
  plan: number,
  content: string | Uint8Array,
): Promise<string> {
  const answer = await fetch(`${server.url}/api/plans/${plan}/uploads`, {
    method: 'POST',
    body: content as string,
  });
  const told = (await answer.json()) as { upload: string } & Failure;
  if (!answer.ok) throw new Refused(answer.status, told);
  return told.upload;
}

/** Waits for a job by its events' own means: asking until it has ended. */
export async function finished(server: TestServer, plan: number, job: string): Promise<Job> {
  for (let times = 0; ; times++) {
    const now = await server.call(api.readJob, { params: { plan, job } });
    if (now.status !== 'queued' && now.status !== 'running') return now;
    if (times === 600) throw new Error(`the job did not end: ${JSON.stringify(now)}`);
    await new Promise((done) => setTimeout(done, 50));
  }
}

/** The same of a job that is to be done: throws its failure where it is not. */
export async function succeeded(server: TestServer, plan: number, job: string): Promise<Job> {
  const done = await finished(server, plan, job);
  if (done.status !== 'done')
    throw Object.assign(new Error(done.failure?.message ?? done.status), done.failure);
  return done;
}

/** Brings a list in and answers how its job ended. */
export async function takeIn(
  server: TestServer,
  plan: number,
  content: string | Uint8Array,
  options = {},
): Promise<Job> {
  const { job } = await server.call(api.startImport, {
    params: { plan },
    body: { upload: await upload(server, plan, content), kind: 'paste', name: 'List', options },
  });
  return finished(server, plan, job);
}

/** Has the plan ask the stand-in market for what nobody told. */
export const askStandIn = (server: TestServer, plan: number) =>
  server.call(api.editFacts, {
    params: { plan },
    body: { edits: [{ at: 'market', before: 'none', after: 'stand-in' }] },
  });

/** Waits until what is derived is of the newest revision. */
export async function built(server: TestServer, plan: number): Promise<api.PlanState> {
  for (let times = 0; times < 600; times++) {
    const state = await server.call(api.openPlan, { params: { plan } });
    if (state.builtRevision === state.revision) return state;
    await new Promise((done) => setTimeout(done, 50));
  }
  throw new Error('the plan was not built');
}

/** Waits until every plan has followed what was changed in another one of what they share. */
export async function followed(server: TestServer): Promise<void> {
  for (let times = 0; times < 600; times++) {
    const waiting = await select(
      server.database,
      `select 1 from jobs where kind = 'follow' and status in ('queued', 'running')`,
    );
    if (waiting.length === 0) return;
    await new Promise((done) => setTimeout(done, 20));
  }
  throw new Error('a plan did not follow');
}

export const poolOf = async (server: TestServer, plan: number, since = 0): Promise<api.PoolColumns> => {
  const answer = await fetch(`${server.url}/api/plans/${plan}/pool?since=${since}`);
  const codec = {
    encode: (text: string) => new TextEncoder().encode(text),
    decode: (bytes: Uint8Array) => new TextDecoder().decode(bytes),
  };
  const frames = api.framesOf(new Uint8Array(await answer.arrayBuffer()));
  return api.joinPools(frames.map((frame) => api.unpackPool(frame, codec)));
};
