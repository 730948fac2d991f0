import type { PlanCaller } from '../../platform/caller.ts';
import { scopedRows } from '../build/index.ts';
import type { MetSums } from './met-sums.ts';

/** The keyword rows that bid today and that reports tell of, with the group of each among what they tell. */
export async function metBidding(caller: PlanCaller, { numbers: told, keys }: MetSums) {
  const { rows, rules, budgets } = await scopedRows(caller, { all: true });
  const numberOf = new Map(told.map((group) => [keys[group] as string, group]));
  const own = rows.filter(({ key }) => numberOf.has(key));
  return { rules, budgets, own, numberOf, numbers: own.map(({ key }) => numberOf.get(key) as number) };
}
