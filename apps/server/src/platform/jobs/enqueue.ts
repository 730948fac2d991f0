import type { JobKind } from '@sprig/contracts';
import type { Transaction } from 'sequelize';
import { execute, select } from '../../db/connect.ts';
import type { PlanCaller } from '../caller.ts';
import { notify } from './notify.ts';

/** The one task name that the queue knows; the kind is in our own table. */
export const TASK = 'sprig';

/**
 * Puts a job into the queue, within the caller's transaction: it starts if and only if that commits. Jobs of one
 * plan run one after another.
 */
export async function enqueue(
  caller: PlanCaller,
  transaction: Transaction,
  kind: JobKind,
  input: object,
): Promise<string> {
  const { database, workspace, plan, actor } = caller;
  const [job] = await select<{ id: string }>(
    database,
    `insert into jobs (workspace_id, plan_id, actor_id, kind, input) values ($1, $2, $3, $4, $5) returning id`,
    [workspace, plan, actor, kind, JSON.stringify(input)],
    { transaction },
  );
  const id = job?.id ?? '';
  await execute(
    database,
    'select give_job($1, $2::json, $3, 10)',
    [TASK, JSON.stringify({ job: id }), `plan-${plan}`],
    { transaction },
  );
  await notify(database, transaction, { type: 'job', plan, job: id });
  return id;
}

/** A rebuild that waits already will see this change too. */
export async function enqueueRebuild(caller: PlanCaller, transaction: Transaction): Promise<void> {
  const waiting = await select(
    caller.database,
    `select 1 from jobs where plan_id = $1 and kind = 'rebuild' and status = 'queued' limit 1`,
    [caller.plan],
    { transaction },
  );
  if (waiting.length === 0) await enqueue(caller, transaction, 'rebuild', {});
}
