import type { Facts } from '@sprig/contracts';
import { useFacts } from './use-facts.ts';

const names = new Intl.DateTimeFormat('en', { month: 'long', timeZone: 'UTC' });

/** 1 is January. */
export const monthName = (month: number): string => names.format(Date.UTC(2_001, month - 1, 15));

/** `a day`, or `a day in July` where forecasts are of one month. */
export const dayIn = (month: number | null): string =>
  month === null ? 'a day' : `a day in ${monthName(month)}`;
export const dayWords = (facts: Pick<Facts, 'assumptions'> | undefined): string =>
  dayIn(facts?.assumptions.season?.month ?? null);

export const useDayWords = (plan: number): string => dayWords(useFacts(plan).value);
