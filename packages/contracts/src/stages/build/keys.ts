import { campaignKeyPattern, groupKeyPattern, kindOfKey, statuses } from '@sprig/core/build';
import { z } from 'zod';

export const MOST_KEY = 120;

/** An ad as it reads: the texts of the fields that it has, by their names. */
export const adTextsView = z.object({ texts: z.record(z.string(), z.string()), finalUrl: z.string() });
export const anyKey = z
  .string()
  .max(MOST_KEY)
  .refine((key) => kindOfKey(key) !== null, 'There is no such row.');
export const campaignKey = z.string().max(MOST_KEY).regex(campaignKeyPattern);
export const groupKey = z.string().max(MOST_KEY).regex(groupKeyPattern);
export const covered = z.record(z.string(), z.union([z.string(), z.number(), z.null()])).nullable();
export const status = z.enum(statuses);
