import type { Transaction } from 'sequelize';
import { findOne } from '../db/rows.ts';
import type { PlanCaller } from '../platform/caller.ts';

/** The currency that a plan counts in. */
export const currencyOf = async (
  caller: PlanCaller,
  transaction: Transaction | null = null,
): Promise<string> =>
  (await findOne(caller, 'briefs', { columns: ['currency'] }, transaction))?.currency ?? 'GBP';
