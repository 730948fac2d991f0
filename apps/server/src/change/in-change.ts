import type { Transaction } from 'sequelize';
import type { Caller, PlanCaller } from '../caller.ts';
import { execute, select } from '../database/connect.ts';
import { notFound } from '../failure.ts';
import { enqueueRebuild } from '../jobs/enqueue.ts';
import { notify } from '../jobs/notify.ts';
import { Change } from './change.ts';
import { isEmpty, packDiff } from './diff.ts';

export type ChangeKind = 'edit' | 'undo' | 'redo';

type Options = {
  kind?: ChangeKind;
  undoable?: boolean;
  /** A new revision also where no input of this plan changed: something shared did. */
  always?: boolean;
};

export type Changed<T> = { revision: number; result: T };

/**
 * The way of every write: one transaction, one line in the plan's history, the plan's revision + 1, and a rebuild
 * of what hangs on it. The label says what was done, as one would read it after *Undo*; it may be known only at the
 * end. A change that changes nothing leaves no trace and no new revision.
 */
export async function inChange<T>(
  caller: PlanCaller,
  label: string | ((result: T) => string),
  work: (change: Change) => Promise<T>,
  options: Options = {},
): Promise<Changed<T>> {
  return caller.database.transaction(async (transaction) => {
    const plan = await lockPlan(caller, transaction);
    const change = new Change(caller, transaction, plan.revision + 1, plan.next_id);
    const result = await work(change);
    if (isEmpty(change.diff) && !options.always) return { revision: plan.revision, result };
    await close(change, typeof label === 'string' ? label : label(result), options);
    return { revision: change.revision, result };
  });
}

/** Makes a plan, and in the same transaction its first change, which can't be undone: a plan is archived instead. */
export async function inNewPlan(
  caller: Caller,
  label: string,
  work: (change: Change) => Promise<void>,
): Promise<number> {
  return caller.database.transaction(async (transaction) => {
    const [plan] = await select<{ id: number }>(
      caller.database,
      'insert into plans (workspace_id, created_by) values ($1, $2) returning id',
      [caller.workspace, caller.actor],
      { transaction },
    );
    const planCaller = { ...caller, plan: plan?.id ?? 0 };
    const change = new Change(planCaller, transaction, 1, 1);
    await work(change);
    await close(change, label, { undoable: false });
    return planCaller.plan;
  });
}

async function lockPlan(caller: PlanCaller, transaction: Transaction) {
  const [plan] = await select<{ revision: number; next_id: number }>(
    caller.database,
    'select revision, next_id from plans where id = $1 and workspace_id = $2 for update',
    [caller.plan, caller.workspace],
    { transaction },
  );
  if (!plan) throw notFound('plan');
  return plan;
}

async function close(change: Change, label: string, { kind = 'edit', undoable = true }: Options) {
  const { caller, transaction, revision, database } = change;
  // What was undone before something else was done is left behind: a redo is not to come back to it.
  if (kind === 'edit' && undoable)
    await execute(
      database,
      `update changes set undoable = false where plan_id = $1 and actor_id = $2 and kind = 'edit' and undone and undoable`,
      [caller.plan, caller.actor],
      { transaction },
    );
  await execute(
    database,
    `insert into changes (plan_id, revision, workspace_id, actor_id, label, kind, undoable, diff)
     values ($1, $2, $3, $4, $5, $6, $7, $8)`,
    [caller.plan, revision, caller.workspace, caller.actor, label, kind, undoable, packDiff(change.diff)],
    { transaction },
  );
  await execute(
    database,
    'update plans set revision = $2, next_id = greatest(next_id, $3), changed_at = now() where id = $1',
    [caller.plan, revision, change.idsTaken],
    { transaction },
  );
  await enqueueRebuild(caller, transaction);
  await notify(database, transaction, { type: 'revision', plan: caller.plan, revision });
}
