import { changedBid, shareBudget } from '@sprig/core/build';
import { asMicros, type Micros, minorUnit } from '@sprig/core/money';
import { readMoney } from '../../../kit/read-typed.ts';
import { type Kind as BidKind, readChange } from '../bid-change.ts';
import type { ShownCampaign } from './shown-campaigns.ts';

export type BudgetKind = BidKind | 'share';
export const shareBys = ['searches', 'cost', 'alike', 'budget'] as const;
/** By what a total is shared: searches, what they may cost, all alike, or what they have now. */
export type ShareBy = (typeof shareBys)[number];

const WEIGHTS: Record<ShareBy, (row: ShownCampaign) => number> = {
  searches: ({ searches }) => searches,
  cost: ({ cost }) => cost ?? 0,
  alike: () => 1,
  budget: ({ dailyBudget }) => dailyBudget,
};

/** The budgets of campaigns after a change, in their order; or why there are none. */
export function budgetsAfter(
  campaigns: readonly ShownCampaign[],
  { kind, first, second, by }: { kind: BudgetKind; first: string; second: string; by: ShareBy },
  currency: string,
): { after: Micros[] } | { words: string } {
  const unit = asMicros(minorUnit(currency));
  if (kind === 'share') {
    const total = readMoney(first);
    if ('words' in total) return total;
    const after = shareBudget(total.value, campaigns.map(WEIGHTS[by]), unit);
    return after ? { after } : { words: 'That is too little for each of them to get something.' };
  }
  const read = readChange(kind, first, second);
  if ('words' in read) return read;
  return { after: campaigns.map(({ dailyBudget }) => changedBid(dailyBudget, read.change, unit)) };
}
