import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { failureStatus, planEvents, planParams } from '@sprig/contracts';
import { pageHtml, standInPlace } from '@sprig/market';
import compression from 'compression';
import express, { type ErrorRequestHandler, type Express, type RequestHandler } from 'express';
import helmet from 'helmet';
import { pinoHttp } from 'pino-http';
import type { Sequelize } from 'sequelize';
import { inWorkspace } from '../db/workspace.ts';
import { clientLinkRoutes, isFromHere, noteDownloads, type People, peopleRoutes } from '../people/index.ts';
import { atPlan } from '../people/standing/index.ts';
import { asFailure, notFound, SprigFailure } from '../platform/failure.ts';
import { log } from '../platform/log.ts';
import { counts, stages } from '../stages/all.ts';
import { sharedPlanOf } from '../stages/build/index.ts';
import { noteRoutes } from '../stages/notes/index.ts';
import { outsetRoutes } from '../stages/outsets/index.ts';
import { planRoutes } from '../stages/plans/index.ts';
import { WindowGone } from './backpressure.ts';
import type { EventHub } from './events.ts';
import { health } from './health.ts';
import { jobRoutes } from './jobs.ts';
import { limitRate } from './limits.ts';
import { meRoutes } from './me.ts';
import { Metrics } from './metrics.ts';
import { callerOf, mountRaw, parse, setCaller } from './mount.ts';
import { openApiRoutes } from './openapi.ts';
import { allowedHosts, onlyFromHere } from './own-host.ts';

const YEAR_S = 31_536_000;

export type AppOptions = {
  /** That sees all: for the door, and for what a server tells of itself. */
  database: Sequelize;
  /** For whatever is asked: it sees the rows of one workspace at a time. */
  walled: Sequelize;
  events: EventHub;
  /** Who comes in, and by what they are known again. */
  people: People;
  /** What one client may ask within a minute. */
  requestsPerMinute?: number;
  /** The built web application; absent while Vite serves it. */
  webFolder?: string;
};

export function createApp({
  database,
  walled,
  events,
  people,
  webFolder,
  requestsPerMinute,
}: AppOptions): Express {
  const app = express();
  app.disable('x-powered-by');
  app.set('trust proxy', people.proxies);
  app.use(
    pinoHttp({ logger: log, useLevel: 'debug', autoLogging: { ignore: ({ url }) => url === '/api/health' } }),
  );
  app.use(
    helmet({
      hsts: people.isSecure ? { maxAge: YEAR_S } : false,
      contentSecurityPolicy: { directives: contentRules },
    }),
  );
  app.use(
    compression({
      filter: (request, response) => !request.path.endsWith('/events') && filterByType(request, response),
    }),
  );
  const metrics = new Metrics(database, walled, events);
  const fromHere = onlyFromHere(allowedHosts());
  app.use(metrics.watch);
  app.get('/api/health', health(database, events));
  app.get('/metrics', fromHere, onlyThisMachine, metrics.answer);
  app.use(
    '/api',
    fromHere,
    limitRate(requestsPerMinute),
    people.readSession,
    async (request, _response, next) => {
      const caller = await people.callerFor(request);
      setCaller(request, caller && { database: walled, ...caller });
      next();
    },
  );
  app.use('/api', noteDownloads(database));
  app.use('/api/plans/:plan', ofThisWorkspace);
  app.use('/api', express.json({ limit: '12mb' }));
  const stream = express.Router();
  mountRaw(stream, planEvents, (scope, _input, _request, response) =>
    events.attach(scope.plan, scope.actor, response),
  );
  app.use(stream);
  for (const routes of [
    openApiRoutes,
    () => peopleRoutes(people.door),
    () => clientLinkRoutes(people.door, walled, sharedPlanOf),
    () => meRoutes(database),
    () => planRoutes(counts),
    outsetRoutes,
    noteRoutes,
    jobRoutes,
    ...stages.map(({ routes }) => routes),
  ])
    app.use(routes());
  app.use('/api', () => {
    throw notFound('address');
  });
  app.get('/stand-in/{*path}', standInSite);
  if (webFolder && existsSync(webFolder)) serveWeb(app, webFolder);
  app.use(answerFailure);
  return app;
}

const contentRules = {
  'default-src': ["'self'"],
  'script-src': ["'self'"],
  'style-src': ["'self'", "'unsafe-inline'"],
  'worker-src': ["'self'"],
  'img-src': ["'self'", 'data:'],
  'frame-ancestors': ["'none'"],
  'upgrade-insecure-requests': null,
};

const filterByType: compression.CompressionFilter = (request, response) =>
  response.getHeader('content-type') === 'application/x-sprig-pool' || compression.filter(request, response);

/** What a server does is told to programs beside it, not to whoever opens it through a proxy. */
const onlyThisMachine: RequestHandler = (request, _response, next) => {
  if (!isFromHere(request)) throw notFound('address');
  next();
};

/** Whatever is asked of a plan is asked by someone to whom it is shown, as what they are there: no route has to think of it. */
const ofThisWorkspace: RequestHandler = async (request, _response, next) => {
  const caller = callerOf(request);
  const { plan } = parse(planParams, request.params, 'the address');
  setCaller(request, await inWorkspace(caller.workspace, () => atPlan(caller, plan)));
  next();
};

/** The made-up sites that the stand-in market reads. */
const standInSite: RequestHandler = (request, response) => {
  const place = standInPlace(request.path);
  const html = place && pageHtml(place.site, place.path);
  if (!html) throw notFound('page');
  response.type('html').send(html);
};

function serveWeb(app: Express, folder: string) {
  app.use('/assets', express.static(join(folder, 'assets'), { immutable: true, maxAge: '1y' }));
  app.use(express.static(folder, { index: false }));
  app.get('/{*path}', (_request, response) =>
    response.set('cache-control', 'no-cache').sendFile(join(folder, 'index.html')),
  );
}

const answerFailure: ErrorRequestHandler = (error, request, response, _next) => {
  if (error instanceof WindowGone) return void response.destroy();
  const failure = toFailure(error);
  if (failure.code === 'internal')
    log.error({ error, number: failure.details.number, url: request.url }, 'a request failed');
  if (response.headersSent) return void response.destroy();
  // What is still coming in of a refused upload is not read: the connection ends with the answer.
  if (!request.complete) response.set('connection', 'close');
  response.status(failureStatus[failure.code]).json(failure.toAnswer());
};

function toFailure(error: unknown): SprigFailure {
  const type = (error as { type?: string }).type;
  if (type === 'entity.too.large')
    return new SprigFailure('too-large', 'That is more than can be sent at once.');
  if (type === 'entity.parse.failed') return new SprigFailure('invalid', 'What was sent is not sound JSON.');
  const { status } = error as { status?: unknown };
  // What the framework can't read: an address that is not escaped soundly, a charset or packing that it does not know.
  if (typeof status === 'number' && status >= 400 && status < 500)
    return new SprigFailure('invalid', 'What was sent can’t be read.');
  return asFailure(error);
}
