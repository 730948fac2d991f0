import { randomUUID } from 'node:crypto';
import { type Failure, type JobKind, jobNeeds } from '@sprig/contracts';
import type { Sequelize } from 'sequelize';
import { connect, execute, select } from '../../db/connect.ts';
import { inWorkspace } from '../../db/workspace.ts';
import { assertMayStill } from '../../people/standing/index.ts';
import { asFailure, isCanceled, isConnectionLost, SprigFailure } from '../failure.ts';
import { log } from '../log.ts';
import { JobContext, Stopped, TakenOver } from './context.ts';

export type JobHandler = (context: JobContext) => Promise<unknown>;
export type JobHandlers = Record<JobKind, JobHandler>;

/** A job as a runner hands it on: plain data, so that it can go to a thread. */
export type TakenJob = {
  id: string;
  workspace_id: number;
  plan_id: number;
  actor_id: number;
  kind: JobKind;
  input: unknown;
  /** The how-manieth run of the job it is. */
  runs: number;
};

/** How a run ended. `lost`: it is not known what came of it, so it is done again; `taken-over`: another runner has it. */
export type Outcome =
  | { how: 'done'; result: unknown }
  | { how: 'failed'; failure: Failure }
  | { how: 'stopped' | 'taken-over' | 'lost' };

/** Where jobs run. */
export type Executor = {
  /** How many at once. */
  slots: number;
  run: (job: TakenJob) => Promise<Outcome>;
  /** Its user has stopped it: ends it within a second, whatever it is at. */
  stop: (job: string) => void;
  /** Lets jobs end for a moment; what goes on after that is given up, and done again elsewhere. */
  end: () => Promise<void>;
};

/** Runs a job where it stands, and answers how it ended. */
export const outcomeOf = (database: Sequelize, handlers: JobHandlers, job: TakenJob): Promise<Outcome> =>
  inWorkspace(job.workspace_id, () => ran(database, handlers, job));

async function ran(database: Sequelize, handlers: JobHandlers, job: TakenJob): Promise<Outcome> {
  const { workspace_id: workspace, plan_id: plan, actor_id: actor } = job;
  const needs = jobNeeds[job.kind];
  const caller = { database, workspace, plan, actor, isJob: true, ...(needs ? { needs } : {}) };
  try {
    await assertMayStill(caller);
    const result = await handlers[job.kind](new JobContext(caller, job.id, job.input, job.runs));
    return { how: 'done', result: result ?? {} };
  } catch (error) {
    if (error instanceof Stopped) return { how: 'stopped' };
    if (error instanceof TakenOver) return { how: 'taken-over' };
    if (isConnectionLost(error)) return { how: 'lost' };
    if (isCanceled(error) && (await isStopped(database, job.id))) return { how: 'stopped' };
    const failure = asFailure(error);
    if (!(error instanceof SprigFailure))
      log.error({ error, number: failure.details.number, job: job.id, kind: job.kind }, 'a job failed');
    return { how: 'failed', failure: failure.toAnswer() };
  }
}

async function isStopped(database: Sequelize, id: string): Promise<boolean> {
  const [job] = await select<{ status: string }>(database, 'select status from jobs where id = $1', [id]);
  return job?.status === 'stopped';
}

/** Connections of one place where jobs run, one at a time, under a name by which they can be found. */
export const newName = (): string => `sprig-job-${randomUUID()}`;
export const connectAs = (url: string, name: string): Sequelize =>
  connect(url, { connections: 6, name, isWalled: true });

/** Ends what the connections of this name are at: the statement, or the connection with all that it has not committed. */
export const cancel = (database: Sequelize, name: string, how: 'statement' | 'connection'): Promise<void> =>
  execute(
    database,
    how === 'statement'
      ? `select pg_cancel_backend(pid) from pg_stat_activity where application_name = $1 and state = 'active'`
      : 'select pg_terminate_backend(pid) from pg_stat_activity where application_name = $1',
    [name],
  );

/** How often statements of a stopped job are cancelled until it has ended. */
const CANCEL_EVERY_MS = 100;

/** Cancels statements of a stopped job again and again: behind one there may be another. Answers when it has ended, or after `ms`. */
export async function cancelUntil(
  database: Sequelize,
  name: string,
  hasEnded: () => boolean,
  ms: number,
): Promise<void> {
  for (const since = performance.now(); !hasEnded() && performance.now() - since < ms; ) {
    await cancel(database, name, 'statement').catch((error) =>
      log.warn({ error }, 'could not cancel what a stopped job is at'),
    );
    await new Promise((go) => setTimeout(go, CANCEL_EVERY_MS));
  }
}
