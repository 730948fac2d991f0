import { type Facts, factsOf } from '@sprig/contracts';
import type { Transaction } from 'sequelize';
import { findOne } from '../db/rows.ts';
import type { PlanCaller } from '../platform/caller.ts';

/** The facts of a plan; those that all plans begin with where none were told. */
export async function planFacts(caller: PlanCaller, transaction: Transaction | null = null): Promise<Facts> {
  const stored = await findOne(caller, 'facts', { columns: ['body'] }, transaction);
  return factsOf(stored?.body);
}
