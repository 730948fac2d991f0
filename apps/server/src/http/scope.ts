import type { Transaction } from 'sequelize';
import type { PlanCaller } from '../caller.ts';
import { assertPlan } from '../stages/plans/index.ts';

/** A transaction that writes no input of the plan, such as putting a job into the queue. */
export async function inChangeless<T>(
  caller: PlanCaller,
  work: (caller: PlanCaller, transaction: Transaction) => Promise<T>,
): Promise<T> {
  await assertPlan(caller);
  return caller.database.transaction((transaction) => work(caller, transaction));
}
