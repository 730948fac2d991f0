import type { Facts } from '@sprig/contracts';
import { useFacts } from './use-facts.ts';

const names = new Intl.DateTimeFormat('en', { month: 'long', timeZone: 'UTC' });

/** 1 is January. */
export const monthName = (month: number): string => names.format(Date.UTC(2_001, month - 1, 15));

/** `a day`, or `a day in July` where forecasts are of one month. */
export function dayWords(facts: Pick<Facts, 'assumptions'> | undefined): string {
  const season = facts?.assumptions.season;
  return season ? `a day in ${monthName(season.month)}` : 'a day';
}

export const useDayWords = (plan: number): string => dayWords(useFacts(plan).value);
