import type { Micros } from '../money/index.ts';
import { daysOf, isoDay } from './day.ts';
import type { FactTable } from './fact-table.ts';
import { GroupSums, LEFT_OUT } from './group-sums.ts';

/** From this share of impressions lost to the budget on, a day counts as one on which it ran out. */
export const LEAST_LOST = 0.05;
/** Where no share is told, from this share of the daily budget on. */
export const NEARLY_SPENT = 0.95;

/**
 * A campaign's days against its budget. `told`: days that reports tell; `out`: those on which it ran out, the last of them
 * `last`. What was missed on these days: impressions by the share lost to the budget, clicks by the day's CTR; null where no
 * report tells that share. Amounts in millionths.
 */
export type BudgetDays = {
  told: number;
  out: number;
  last: string | null;
  cost: number;
  missed: { impressions: number; clicks: number } | null;
};

/** Campaigns by their numbers; those of which nothing is added are null. Only days count: a week has no budget. O(rows). */
export function budgetDays(
  table: FactTable,
  campaigns: number,
  added: Uint8Array,
  budgetOf: (campaign: number) => Micros | null,
): (BudgetDays | null)[] {
  const groupOf = new Int32Array(table.rows);
  for (let row = 0; row < table.rows; row++) {
    const cell =
      (table.time[row] as number) * table.campaigns +
      (table.campaignOf[table.place[row] as number] as number);
    groupOf[row] = added[cell] ? cell : LEFT_OUT;
  }
  const sums = new GroupSums(table, groupOf, table.times.length * table.campaigns);
  return Array.from({ length: campaigns }, (_, campaign) => {
    const found: BudgetDays = { told: 0, out: 0, last: null, cost: 0, missed: null };
    table.times.forEach((time, at) => {
      const cell = at * table.campaigns + campaign;
      if (!added[cell] || daysOf(time) !== 1) return;
      found.told++;
      if (sums.has(cell)) addDay(found, isoDay(time.from), cell, sums, budgetOf(campaign));
    });
    return found.told === 0 ? null : found;
  });
}

function addDay(found: BudgetDays, day: string, cell: number, sums: GroupSums, budget: Micros | null): void {
  const cost = sums.figure('cost', cell) ?? 0;
  const lost = sums.figure('lostBudget', cell);
  found.cost += cost;
  if (lost !== null) found.missed ??= { impressions: 0, clicks: 0 };
  const isOut =
    lost === null ? budget !== null && budget > 0 && cost >= budget * NEARLY_SPENT : lost >= LEAST_LOST;
  if (!isOut) return;
  found.out++;
  if (found.last === null || day > found.last) found.last = day;
  if (lost === null || !found.missed) return;
  const shown = sums.figure('impressions', cell) ?? 0;
  const share = sums.figure('share', cell) ?? 1 - lost;
  // Nothing was shown at all: how many there were to show can't be told.
  const impressions = share > 0 ? (shown / share) * lost : 0;
  found.missed.impressions += impressions;
  found.missed.clicks += impressions * (sums.figure('ctr', cell) ?? 0);
}
