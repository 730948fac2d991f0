import { z } from 'zod';
import { nothing } from '../common.ts';
import { endpoint } from '../endpoint.ts';

export const preferencesSchema = z.object({
  theme: z.enum(['system', 'sprig', 'sprig-night']).default('system'),
  helps: z.boolean().default(true),
  /** Columns hidden, by table. */
  hiddenColumns: z.record(z.string().max(40), z.array(z.string().max(40)).max(50)).default({}),
});
export type Preferences = z.infer<typeof preferencesSchema>;

const me = z.object({ name: z.string(), workspace: z.string(), preferences: preferencesSchema });

export const readMe = endpoint({
  method: 'GET',
  path: '/api/me',
  params: nothing,
  query: nothing,
  body: nothing,
  answer: me,
});

export const editPreferences = endpoint({
  method: 'PATCH',
  path: '/api/me/preferences',
  params: nothing,
  query: nothing,
  body: preferencesSchema.partial(),
  answer: me,
});
