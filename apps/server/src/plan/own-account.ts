import type { ReportAccount } from '@sprig/contracts';
import type { Outlet } from '@sprig/core/outlets';
import type { Transaction } from 'sequelize';
import type { PlanCaller } from '../platform/caller.ts';
import { currencyOf } from './currency-of.ts';
import { planFacts } from './plan-facts.ts';

/** An account at an outlet, or at none that is known, in the plan's own currency, by the outlet's clock or else the plan's. */
export async function ownAccount(
  caller: PlanCaller,
  outlet: Pick<Outlet, 'key' | 'name' | 'timeZone'> | null,
  transaction: Transaction | null = null,
): Promise<ReportAccount> {
  return {
    outlet: outlet?.key ?? null,
    name: outlet?.name ?? 'Account',
    currency: await currencyOf(caller, transaction),
    timeZone: outlet?.timeZone ?? (await planFacts(caller, transaction)).timeZone,
  };
}
