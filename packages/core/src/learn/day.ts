declare const day: unique symbol;

/** A calendar day as the days since 1 January 1970, in the time zone of the account that it is of. */
export type Day = number & { readonly [day]: true };

const MS_A_DAY = 86_400_000;

export const asDay = (days: number): Day => days as Day;

/** The day of a year, a month from 1 and a date from 1; undefined where there is no such day. */
export function dayOf(year: number, month: number, date: number): Day | undefined {
  if (year < 1990 || year > 2200) return undefined;
  const time = Date.UTC(year, month - 1, date);
  const back = new Date(time);
  return back.getUTCMonth() === month - 1 && back.getUTCDate() === date ? asDay(time / MS_A_DAY) : undefined;
}

/** `2026-11-28`. */
export const isoDay = (one: Day): string => new Date(one * MS_A_DAY).toISOString().slice(0, 10);

/** The day of `2026-11-28`, which has to be one. */
export const readIsoDay = (text: string): Day => asDay(Date.parse(text) / MS_A_DAY);

/** So many days on from `2026-11-28`, or back, written alike. */
export const daysOn = (text: string, days: number): string => isoDay(asDay(readIsoDay(text) + days));

/** Conversions of so many days may still come. */
export const LATE_DAYS = 7;

/** 1 is Monday, 7 Sunday. */
export const weekdayOf = (one: Day): number => ((((one + 3) % 7) + 7) % 7) + 1;

/** From a first day to a last, both in it. */
export type Time = { from: Day; to: Day };

export const daysOf = ({ from, to }: Time): number => to - from + 1;

/** Told apart by their first and their last day alone. */
export const timeKey = ({ from, to }: Time): string => `${from}:${to}`;

/** Every day of a time. */
export const eachDay = ({ from, to }: Time): Time[] =>
  Array.from({ length: to - from + 1 }, (_, at) => {
    const day = asDay(from + at);
    return { from: day, to: day };
  });
