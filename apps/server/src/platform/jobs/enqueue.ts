import { randomUUID } from 'node:crypto';
import type { JobKind, PlanEvent } from '@sprig/contracts';
import type { Transaction } from 'sequelize';
import { execute, select } from '../../db/connect.ts';
import type { PlanCaller } from '../caller.ts';
import { CHANNEL } from './notify.ts';

/** The one task name that the queue knows; the kind is in our own table. */
export const TASK = 'sprig';

/**
 * Puts a job into the queue, within the caller's transaction: it starts if and only if that commits, and not before `restMs`
 * have passed. Jobs of one plan run one after another.
 */
export async function enqueue(
  caller: PlanCaller,
  transaction: Transaction,
  kind: JobKind,
  input: object,
  restMs = 0,
): Promise<string> {
  const { database, workspace, plan, actor } = caller;
  const id = randomUUID();
  const event: PlanEvent = { type: 'job', plan, job: id };
  await execute(
    database,
    `with made as (
       insert into jobs (id, workspace_id, plan_id, actor_id, kind, input) values ($1, $2, $3, $4, $5, $6) returning id)
     select give_job($7, json_build_object('job', id), $8, 10, now() + $9 * interval '1 ms'), pg_notify($10, $11) from made`,
    [
      id,
      workspace,
      plan,
      actor,
      kind,
      JSON.stringify(input),
      TASK,
      `plan-${plan}`,
      restMs,
      CHANNEL,
      JSON.stringify(event),
    ],
    { transaction },
  );
  return id;
}

/** Where so many edit a plan at once, its rebuilds rest for a moment: each takes in what many have changed. */
const MANY = 4;
const AT_ONCE = `interval '5 seconds'`;
/** Of so many changes it is looked at who made them. */
const CHANGES = 40;
const REST_MS = 1_500;

/** A rebuild that waits already will see this change too. */
export async function enqueueRebuild(caller: PlanCaller, transaction: Transaction): Promise<void> {
  const [now] = await select<{ waits: boolean; people: number }>(
    caller.database,
    `select exists (select from jobs where plan_id = $1 and kind = 'rebuild' and status = 'queued') as waits,
       (select count(distinct actor_id)::int from changes
        where plan_id = $1 and revision > (select revision - ${CHANGES} from plans where id = $1)
          and at > now() - ${AT_ONCE}) as people`,
    [caller.plan],
    { transaction },
  );
  if (now?.waits) return;
  await enqueue(caller, transaction, 'rebuild', {}, (now?.people ?? 0) < MANY ? 0 : REST_MS);
}
