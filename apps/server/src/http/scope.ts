import type { Transaction } from 'sequelize';
import { select } from '../db/connect.ts';
import type { PlanCaller } from '../platform/caller.ts';
import { notFound } from '../platform/failure.ts';

/** A transaction that writes no input of the plan, such as putting a job into the queue. */
export async function inChangeless<T>(
  caller: PlanCaller,
  work: (caller: PlanCaller, transaction: Transaction) => Promise<T>,
): Promise<T> {
  await assertPlan(caller);
  return caller.database.transaction((transaction) => work(caller, transaction));
}

/** Fails unless the plan is in the caller's workspace. */
export async function assertPlan(caller: PlanCaller): Promise<void> {
  const rows = await select(caller.database, 'select 1 from plans where id = $1 and workspace_id = $2', [
    caller.plan,
    caller.workspace,
  ]);
  if (rows.length === 0) throw notFound('plan');
}
