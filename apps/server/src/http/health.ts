import { failureStatus } from '@sprig/contracts';
import type { RequestHandler } from 'express';
import type { Sequelize } from 'sequelize';
import { select } from '../db/connect.ts';
import { locks } from '../db/locks.ts';
import { log } from '../platform/log.ts';
import type { EventHub } from './events.ts';

/** A queue whose oldest job waits longer than this, with a runner there, is worth a look. */
const LONG_WAIT_S = 300;

export type Health = {
  status: 'ok' | 'degraded' | 'unavailable';
  database: 'up' | 'down';
  /** Whether a runner takes jobs, and changes are heard of; of `?full` only, as all below. */
  runners?: number;
  listener?: 'up' | 'down';
  windows?: number;
  jobs?: { waiting: number; running: number; oldestWaitsSeconds: number };
};

/** `/api/health`: whether the server can serve; with `?full` also what works beside it. */
export const health =
  (database: Sequelize, events: EventHub): RequestHandler =>
  async (request, response) => {
    try {
      if (!('full' in request.query)) {
        await select(database, 'select 1');
        return void response.json({ status: 'ok', database: 'up' } satisfies Health);
      }
      response.json(await fullHealth(database, events));
    } catch (error) {
      log.error({ error }, 'the database does not answer');
      const body: Health = { status: 'unavailable', database: 'down' };
      response.status(failureStatus.unavailable).json(body);
    }
  };

async function fullHealth(database: Sequelize, events: EventHub): Promise<Health> {
  const [now] = await select<{ runners: number; waiting: number; running: number; oldest: number }>(
    database,
    `select (select count(*)::int from pg_locks where locktype = 'advisory' and classid = $1 and granted
         and database = (select oid from pg_database where datname = current_database())) as runners,
       count(*) filter (where status = 'queued')::int as waiting,
       count(*) filter (where status = 'running')::int as running,
       coalesce(extract(epoch from now() - min(created_at) filter (where status = 'queued')), 0)::int as oldest
     from jobs where status in ('queued', 'running')`,
    [locks.runner],
  );
  const { runners = 0, waiting = 0, running = 0, oldest = 0 } = now ?? {};
  const { listens, windows } = events.state;
  return {
    status: runners > 0 && listens && oldest < LONG_WAIT_S ? 'ok' : 'degraded',
    database: 'up',
    runners,
    listener: listens ? 'up' : 'down',
    windows,
    jobs: { waiting, running, oldestWaitsSeconds: oldest },
  };
}
