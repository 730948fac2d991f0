import { reportAccount, reportChoices, reportReading } from '@sprig/contracts';
import { asDay, isoDay, reportRoles, type Time } from '@sprig/core/learn';
import { z } from 'zod';

/** The outlet stands in a column of its own, as its key may be another in another workspace. */
const accountBody = reportAccount.omit({ outlet: true });
const timeBody = z.tuple([z.number().int(), z.number().int()]);

/** What is kept of an import beside its columns. */
export const importBody = z.object({
  account: accountBody,
  grain: z.string(),
  reading: z.uuid(),
  series: z.uuid(),
  /** First and last days that it speaks for, as days since 1970, in the order by which its rows are told. */
  times: z.array(timeBody).min(1),
  /** Names in normal form; null: the whole account. */
  campaigns: z.array(z.string()).nullable(),
  rows: z.number().int().min(0),
  cost: z.number().nullable(),
  /** How such a report is read again. */
  headings: z.array(z.string()),
  roles: z.array(z.enum(reportRoles)),
  choices: reportChoices,
});
export type ImportBody = z.infer<typeof importBody>;

/** What is kept of a reading beside its columns. */
export const readingBody = z.object({
  reading: reportReading.omit({ id: true, at: true }).extend({ account: accountBody }),
  times: z.array(timeBody),
  campaigns: z.array(z.string()),
  /** Imports that it was held against, by their numbers. */
  basis: z.array(z.number().int()),
});
export type ReadingBody = z.infer<typeof readingBody>;

export const timesOf = (times: readonly (readonly [number, number])[]): Time[] =>
  times.map(([from, to]) => ({ from: asDay(from), to: asDay(to) }));

/** From the first of all days to the last; null where there is none. */
export function rangeOf(times: readonly (readonly [number, number])[]): { from: string; to: string } | null {
  if (times.length === 0) return null;
  let [from, to] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const [first, last] of times) {
    from = Math.min(from, first);
    to = Math.max(to, last);
  }
  return { from: isoDay(asDay(from)), to: isoDay(asDay(to)) };
}
