import { dayIn } from '@sprig/contracts';
import type { PlanCaller } from '../platform/caller.ts';
import { planFacts } from './plan-facts.ts';

/** The day that it is, by the plan's clock. */
export const todayOf = async (caller: PlanCaller): Promise<string> =>
  dayIn((await planFacts(caller)).timeZone, new Date());
