import { type Runner, run } from 'graphile-worker';
import type { Sequelize } from 'sequelize';
import { connect, execute, select } from '../database/connect.ts';
import { asFailure, isConnectionLost, SprigFailure } from '../failure.ts';
import { log } from '../log.ts';
import { JobContext, Stopped, TakenOver } from './context.ts';
import { DeadRunners } from './dead-runners.ts';
import { type JobKind, TASK } from './enqueue.ts';
import { notify } from './notify.ts';
import { signOfLife } from './sign-of-life.ts';

export type JobHandler = (context: JobContext) => Promise<unknown>;
export type JobHandlers = Record<JobKind, JobHandler>;

type JobRow = {
  id: string;
  workspace_id: number;
  plan_id: number;
  actor_id: number;
  kind: JobKind;
  input: unknown;
  runs: number;
};

const SWEEP_MS = 1_000;
/** How often the queue is looked at where nothing tells of it; all that is usual is told. */
const POLL_MS = 1_000;

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
  const running = new Set<string>();
  const dead = new DeadRunners(database, sign.number, (job) => running.has(job));
  const look = () => dead.look().catch((error) => log.warn({ error }, 'could not look for dead runners'));
  await dead.look();
  const runner: Runner = await run({
    connectionString: url,
    concurrency: 2,
    pollInterval: pollMs,
    noHandleSignals: true,
    logger: quietLogger(),
    taskList: {
      [TASK]: async (payload, helpers) => {
        const { job } = payload as { job: string };
        // It is told twice where it was given up too early: it runs already, and ends by itself.
        if (running.has(job)) return;
        running.add(job);
        try {
          await runJob(database, handlers, job, sign.number, helpers.job.locked_by ?? '');
        } finally {
          running.delete(job);
        }
      },
    },
  });
  const sweep = setInterval(look, SWEEP_MS);
  return async () => {
    clearInterval(sweep);
    await runner.stop();
    await sign.end();
    await database.close();
  };
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
     returning id, workspace_id, plan_id, actor_id, kind, input, runs`,
    [id, runner, worker],
  );
  if (!job) return;
  const caller = { database, workspace: job.workspace_id, plan: job.plan_id, actor: job.actor_id };
  await notify(database, null, { type: 'job', plan: job.plan_id, job: id });
  try {
    const result = await handlers[job.kind](new JobContext(caller, id, job.input, job.runs));
    await end(database, job, 'done', result ?? {}, null);
  } catch (error) {
    if (error instanceof Stopped) return end(database, job, 'stopped', null, null);
    // Another runner does it, or has done it: how it ends is told there.
    if (error instanceof TakenOver) return;
    // It could not be said how it ended: the queue gives it out again, and it is done again.
    if (isConnectionLost(error)) throw error;
    if (!(error instanceof SprigFailure)) log.error({ error, job: id, kind: job.kind }, 'a job failed');
    await end(database, job, 'failed', null, asFailure(error).toAnswer());
  }
}

async function end(database: Sequelize, job: JobRow, status: string, result: unknown, failure: unknown) {
  await execute(
    database,
    `update jobs set status = $2, result = $3, failure = $4, ended_at = now(), done = total
     where id = $1 and runs = $5 and status in ('running', $2)`,
    [job.id, status, JSON.stringify(result), JSON.stringify(failure), job.runs],
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
