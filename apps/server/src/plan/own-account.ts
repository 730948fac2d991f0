import { factsOf, type ReportAccount } from '@sprig/contracts';
import type { Outlet } from '@sprig/core/outlets';
import type { Transaction } from 'sequelize';
import { findOne } from '../db/rows.ts';
import type { PlanCaller } from '../platform/caller.ts';
import { currencyOf } from './currency-of.ts';

/** An account at an outlet, or at none that is known, in the plan's own currency and time zone. */
export async function ownAccount(
  caller: PlanCaller,
  outlet: Pick<Outlet, 'key' | 'name'> | null,
  transaction: Transaction | null = null,
): Promise<ReportAccount> {
  const facts = await findOne(caller, 'facts', { columns: ['body'] }, transaction);
  return {
    outlet: outlet?.key ?? null,
    name: outlet?.name ?? 'Account',
    currency: await currencyOf(caller, transaction),
    timeZone: factsOf(facts?.body).timeZone,
  };
}
