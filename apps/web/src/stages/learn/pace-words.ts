import { figureText } from '../../plan/results/result-words.ts';

export type Pace = {
  /** Daily budgets in all, and what was spent in the month so far, in millionths. */
  daily: number;
  spent: number;
  /** The part of the month that is told, and how many days the month has. */
  from: string;
  to: string;
  days: number;
};

const monthName = new Intl.DateTimeFormat('en-GB', { month: 'long', timeZone: 'UTC' });
const dayOf = (iso: string) => Number(iso.slice(8));

/** How much of what the budgets allow until then was spent: 1 is just as fast. null where nothing may be spent. */
export function paceOf({ daily, spent, from, to }: Pace): number | null {
  const allowed = daily * (dayOf(to) - dayOf(from) + 1);
  return allowed > 0 ? spent / allowed : null;
}

/** `November: £120.00 of £300.00 after 17 of 30 days, 71% of its pace`. */
export function paceWords(pace: Pace, currency: string): string {
  const share = paceOf(pace);
  const told = dayOf(pace.to) - dayOf(pace.from) + 1;
  const since = dayOf(pace.from) > 1 ? ` (told from its ${dayOf(pace.from)}. day on)` : '';
  return `${monthName.format(new Date(pace.to))}: ${figureText('cost', pace.spent, currency)} of ${figureText('cost', pace.daily * pace.days, currency)} after ${told} of ${pace.days} days${since}${share === null ? '' : `, ${Math.round(share * 100)}% of its pace`}`;
}
