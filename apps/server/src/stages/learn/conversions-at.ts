import { accountCode, usualLook } from '@sprig/contracts';
import { asDay, resultFigures } from '@sprig/core/learn';
import type { PlanCaller } from '../../platform/caller.ts';
import { accountsOf, daysIn } from './account.ts';
import { lookAt, lookRows } from './looks.ts';

const DAYS = 30;
/** Conversions are told in millionths. */
const MILLION = 1_000_000;
const CONVERSIONS = resultFigures.indexOf('conversions');

/** The conversions of the last thirty days that reports of an outlet tell, by its campaigns' names there; none where none are told. */
export async function conversionsAt(
  caller: PlanCaller,
  outlet: string,
): Promise<ReadonlyMap<string, number>> {
  const told = new Map<string, number>();
  for (const { account, told: span } of await accountsOf(caller)) {
    if (account.outlet !== outlet) continue;
    const range = daysIn({ from: asDay(Math.max(span.from, span.to - DAYS + 1)), to: span.to });
    const asked = { ...usualLook(), account: accountCode(account), by: 'campaign' as const, range };
    const { order } = await lookAt(caller, asked);
    for (const { names, figures } of await lookRows(caller, asked, order)) {
      const [name] = names;
      const conversions = figures[CONVERSIONS];
      if (name !== undefined && typeof conversions === 'number')
        told.set(name, (told.get(name) ?? 0) + conversions / MILLION);
    }
  }
  return told;
}
