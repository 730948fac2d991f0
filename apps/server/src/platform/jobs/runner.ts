import { type Runner, run } from 'graphile-worker';
import type { Sequelize } from 'sequelize';
import { connect, execute, select } from '../../db/connect.ts';
import { log } from '../log.ts';
import { DeadRunners } from './dead-runners.ts';
import { TASK } from './enqueue.ts';
import type { Executor, TakenJob } from './execution.ts';
import { jobSeconds } from './job-seconds.ts';
import { notify } from './notify.ts';
import { signOfLife } from './sign-of-life.ts';

const SWEEP_MS = 1_000;
/** How often the queue is looked at where nothing tells of it; all that is usual is told. */
const POLL_MS = 1_000;
/** How soon a runner knows that a job of its own was stopped. */
const STOPPED_MS = 200;

/**
 * Takes jobs from the queue until stopped. A runner holds a lock of its own as long as it lives; when its process
 * dies the database frees the lock, and any other runner puts its jobs back into the queue at once.
 */
export async function startRunner(
  url: string,
  executor: Executor,
  { pollMs = POLL_MS }: { pollMs?: number } = {},
): Promise<() => Promise<void>> {
  const database = connect(url, { connections: 4 });
  const sign = await signOfLife(url);
  const running = new Set<string>();
  const dead = new DeadRunners(database, sign.number, (job) => running.has(job));
  const look = () => dead.look().catch((error) => log.warn({ error }, 'could not look for dead runners'));
  await dead.look();
  const runner: Runner = await run({
    connectionString: url,
    concurrency: executor.slots,
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
          await runJob(database, executor, job, sign.number, helpers.job.locked_by ?? '');
        } finally {
          running.delete(job);
        }
      },
    },
  });
  const sweep = setInterval(look, SWEEP_MS);
  const stops = setInterval(() => stopThoseStopped(database, executor, running), STOPPED_MS);
  return async () => {
    clearInterval(sweep);
    const taken = runner.stop();
    await executor.end();
    await taken;
    clearInterval(stops);
    await sign.end();
    await database.close();
  };
}

async function stopThoseStopped(database: Sequelize, executor: Executor, running: ReadonlySet<string>) {
  if (running.size === 0) return;
  const stopped = await select<{ id: string }>(
    database,
    `select id from jobs where id = any($1::uuid[]) and status = 'stopped'`,
    [[...running]],
  ).catch((error) => {
    log.warn({ error }, 'could not look for stopped jobs');
    return [];
  });
  for (const { id } of stopped) executor.stop(id);
}

async function runJob(database: Sequelize, executor: Executor, id: string, runner: number, worker: string) {
  // One of this runner's own that comes again could not say how it ended: it is done again, as after a crash.
  const [job] = await select<TakenJob>(
    database,
    `update jobs set status = 'running', runner = $2, worker = $3, runs = runs + 1
     where id = $1 and (status = 'queued' or status = 'running' and runner = $2)
     returning id, workspace_id, plan_id, actor_id, kind, input, runs`,
    [id, runner, worker],
  );
  if (!job) return;
  await notify(database, null, { type: 'job', plan: job.plan_id, job: id });
  const since = performance.now();
  const outcome = await executor.run(job);
  jobSeconds.observe({ kind: job.kind, how: outcome.how }, (performance.now() - since) / 1_000);
  if (outcome.how === 'done') return end(database, job, 'done', outcome.result, null);
  if (outcome.how === 'failed') return end(database, job, 'failed', null, outcome.failure);
  if (outcome.how === 'stopped') return end(database, job, 'stopped', null, null);
  // Where another runner has it, how it ends is told there; else the queue gives it out again.
  if (outcome.how === 'lost') throw new Error('it is not known how this run ended');
}

async function end(database: Sequelize, job: TakenJob, status: string, result: unknown, failure: unknown) {
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
