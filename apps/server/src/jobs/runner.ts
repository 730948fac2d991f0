import { type Runner, run } from 'graphile-worker';
import pg from 'pg';
import type { Sequelize } from 'sequelize';
import { connect, execute, select } from '../database/connect.ts';
import { asFailure, SprigFailure } from '../failure.ts';
import { log } from '../log.ts';
import { JobContext, Stopped } from './context.ts';
import { type JobKind, TASK } from './enqueue.ts';
import { notify } from './notify.ts';

export type JobHandler = (context: JobContext) => Promise<unknown>;
export type JobHandlers = Record<JobKind, JobHandler>;

type JobRow = {
  id: string;
  workspace_id: number;
  plan_id: number;
  actor_id: number;
  kind: JobKind;
  input: unknown;
};

const SWEEP_MS = 3_000;
/** How often the queue is looked at where nothing tells of it; all that is usual is told. */
const POLL_MS = 1_000;
/** The first half of the advisory locks by which a runner shows that it lives. */
const RUNNER_LOCKS = 460_002;

/**
 * Takes jobs from the queue until stopped. A runner holds a lock of its own as long as it lives; when its process
 * dies the database frees the lock, and any other runner puts its jobs back into the queue at once.
 */
export async function startRunner(
  url: string,
  handlers: JobHandlers,
  { pollMs = POLL_MS }: { pollMs?: number } = {},
): Promise<() => Promise<void>> {
  const database = connect(url, { connections: 8 });
  const sign = await signOfLife(url);
  await freeDeadRunners(database);
  const runner: Runner = await run({
    connectionString: url,
    concurrency: 2,
    pollInterval: pollMs,
    noHandleSignals: true,
    logger: quietLogger(),
    taskList: {
      [TASK]: async (payload, helpers) => {
        await runJob(
          database,
          handlers,
          (payload as { job: string }).job,
          sign.number,
          helpers.job.locked_by ?? '',
        );
      },
    },
  });
  const sweep = setInterval(() => {
    freeDeadRunners(database).catch((error) => log.warn({ error }, 'could not look for dead runners'));
  }, SWEEP_MS);
  return async () => {
    clearInterval(sweep);
    await runner.stop();
    await sign.end();
    await database.close();
  };
}

async function signOfLife(url: string): Promise<{ number: number; end: () => Promise<void> }> {
  const client = new pg.Client({ connectionString: url });
  client.on('error', (error) => log.error({ error }, 'lost the database'));
  await client.connect();
  const { rows } = await client.query<{ number: number }>(
    `select pid as number, pg_advisory_lock($1, pid) from pg_stat_activity where pid = pg_backend_pid()`,
    [RUNNER_LOCKS],
  );
  return { number: rows[0]?.number ?? 0, end: () => client.end() };
}

/** Puts the jobs of runners that no longer hold their lock back into the queue. */
async function freeDeadRunners(database: Sequelize): Promise<void> {
  const dead = await select<{ id: string; worker: string }>(
    database,
    `update jobs set status = 'queued', phase = '', done = 0, total = 0
     where status = 'running' and not exists (
       select from pg_locks l where l.locktype = 'advisory' and l.classid = $1 and l.objid = jobs.runner
         and l.database = (select oid from pg_database where datname = current_database()))
     returning id, worker`,
    [RUNNER_LOCKS],
  );
  // One that died between taking a job and marking it as running, or marked it as done and did not give it back.
  const lost = await select<{ worker: string }>(
    database,
    `select distinct locked_by as worker from graphile_worker.jobs q where q.locked_at < now() - interval '15 seconds'
       and not exists (select from jobs j where j.status = 'running' and j.worker = q.locked_by)`,
  );
  const workers = [...dead, ...lost].map(({ worker }) => worker);
  if (workers.length === 0) return;
  if (dead.length > 0) log.warn({ jobs: dead.map(({ id }) => id) }, 'a runner died; its jobs start again');
  await execute(database, 'select graphile_worker.force_unlock_workers($1::text[])', [workers]);
}

async function runJob(
  database: Sequelize,
  handlers: JobHandlers,
  id: string,
  runner: number,
  worker: string,
) {
  // One of this runner's own that comes again could not say how it ended: it is done again, as after a crash.
  const [job] = await select<JobRow>(
    database,
    `update jobs set status = 'running', runner = $2, worker = $3, runs = runs + 1
     where id = $1 and (status = 'queued' or status = 'running' and runner = $2)
     returning id, workspace_id, plan_id, actor_id, kind, input`,
    [id, runner, worker],
  );
  if (!job) return;
  const caller = { database, workspace: job.workspace_id, plan: job.plan_id, actor: job.actor_id };
  await notify(database, null, { type: 'job', plan: job.plan_id, job: id });
  try {
    const result = await handlers[job.kind](new JobContext(caller, id, job.input));
    await end(database, job, 'done', result ?? {}, null);
  } catch (error) {
    if (error instanceof Stopped) return end(database, job, 'stopped', null, null);
    if (!(error instanceof SprigFailure)) log.error({ error, job: id, kind: job.kind }, 'a job failed');
    await end(database, job, 'failed', null, asFailure(error).toAnswer());
  }
}

async function end(database: Sequelize, job: JobRow, status: string, result: unknown, failure: unknown) {
  await execute(
    database,
    `update jobs set status = $2, result = $3, failure = $4, ended_at = now(), done = total where id = $1`,
    [job.id, status, JSON.stringify(result), JSON.stringify(failure)],
  );
  await notify(database, null, { type: 'job', plan: job.plan_id, job: job.id });
}

/** The queue's own messages are of interest only when something is wrong. */
function quietLogger() {
  return new (class {
    scope() {
      return this;
    }
    error(message: string) {
      log.error(message);
    }
    warn(message: string) {
      log.warn(message);
    }
    info() {}
    debug() {}
  })() as never;
}
