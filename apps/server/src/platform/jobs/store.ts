import type { Job } from '@sprig/contracts';
import { execute, select } from '../../db/connect.ts';
import type { PlanCaller } from '../caller.ts';
import { notFound } from '../failure.ts';
import { notify } from './notify.ts';

const COLUMNS = 'id, plan_id as plan, kind, status, phase, done, total, result, failure';

export async function jobById(caller: PlanCaller, id: string): Promise<Job> {
  const [job] = await select<Job>(
    caller.database,
    `select ${COLUMNS} from jobs where id = $1 and plan_id = $2 and workspace_id = $3`,
    [id, caller.plan, caller.workspace],
  );
  if (!job) throw notFound('job');
  return job;
}

export const openJobsOf = (caller: PlanCaller): Promise<Job[]> =>
  select<Job>(
    caller.database,
    `select ${COLUMNS} from jobs where plan_id = $1 and workspace_id = $2 and status in ('queued', 'running') order by created_at`,
    [caller.plan, caller.workspace],
  );

/** Stops a job that waits or runs; one that has ended stays as it is. */
export async function stopJobOf(caller: PlanCaller, id: string): Promise<Job> {
  await execute(
    caller.database,
    `update jobs set status = 'stopped', ended_at = now()
     where id = $1 and plan_id = $2 and workspace_id = $3 and status in ('queued', 'running')`,
    [id, caller.plan, caller.workspace],
  );
  await notify(caller.database, null, { type: 'job', plan: caller.plan, job: id });
  return jobById(caller, id);
}
