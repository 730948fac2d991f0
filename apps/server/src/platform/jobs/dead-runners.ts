import type { Sequelize } from 'sequelize';
import { execute, select } from '../../db/connect.ts';
import { locks } from '../../db/locks.ts';
import { log } from '../log.ts';

type Running = { id: string; worker: string; runner: number; runs: number; lives: boolean };

/**
 * Finds jobs that nobody runs any more and puts them back into the queue: those of runners that did not hold their lock at
 * two looks one after another (one that lost its connection for a moment has it again by then), and those of this runner
 * that it does not know of.
 */
export class DeadRunners {
  private suspected: ReadonlySet<string> = new Set();

  constructor(
    private readonly database: Sequelize,
    private readonly own: number,
    private readonly isRunning: (job: string) => boolean,
  ) {}

  async look(): Promise<void> {
    const { database } = this;
    const running = await select<Running>(
      database,
      `select id, worker, runner, runs, exists (
         select from pg_locks l where l.locktype = 'advisory' and l.classid = $1 and l.objid = jobs.runner
           and l.database = (select oid from pg_database where datname = current_database())) as lives
       from jobs where status = 'running'`,
      [locks.runner],
    );
    const looksDead = running.filter(({ id, runner, lives }) =>
      runner === this.own ? !this.isRunning(id) : !lives,
    );
    const name = ({ id, runner, runs }: Running) => `${id} ${runner} ${runs}`;
    const dead = looksDead.filter((job) => this.suspected.has(name(job)));
    this.suspected = new Set(looksDead.map(name));
    const freed = await select<{ id: string; worker: string }>(
      database,
      `update jobs j set status = 'queued', phase = '', done = 0, total = 0
       from unnest($1::uuid[], $2::int[], $3::int[]) as d(id, runner, runs)
       where j.id = d.id and j.status = 'running' and j.runner = d.runner and j.runs = d.runs returning j.id, j.worker`,
      [dead.map(({ id }) => id), dead.map(({ runner }) => runner), dead.map(({ runs }) => runs)],
    );
    if (freed.length > 0) log.warn({ jobs: freed.map(({ id }) => id) }, 'jobs that nobody ran start again');
    // One that died between taking a job and marking it as running, or marked it as done and did not give it back.
    const lost = await select<{ worker: string }>(
      database,
      `select distinct locked_by as worker from graphile_worker.jobs q where q.locked_at < now() - interval '15 seconds'
         and not exists (select from jobs j where j.status = 'running' and j.worker = q.locked_by)`,
    );
    const workers = [...freed, ...lost].map(({ worker }) => worker);
    if (workers.length > 0)
      await execute(database, 'select graphile_worker.force_unlock_workers($1::text[])', [workers]);
  }
}
