import { asMicros, type Micros } from '@sprig/core/money';
import { z } from 'zod';
import { issueWords } from './words/issue-words.ts';

// What a schema says of itself stays; all else is told in our words, wherever it is read.
z.config({ customError: issueWords });

export const nothing = z.object({}).strip();
/** No number of ours is larger. */
const MOST_ID = 2_147_483_647;
export const id = z.number().int().positive().max(MOST_ID, 'There is no such number.');
export const idText = z.coerce.number().int().positive().max(MOST_ID, 'There is no such number.');
export const planParams = z.object({ plan: idText });

/** At most a million units of a currency. */
export const MOST_MICROS = 1_000_000_000_000;
export const micros = z
  .number()
  .int()
  .min(0)
  .max(MOST_MICROS)
  .transform((amount): Micros => asMicros(amount));

export const count = z.number().int().min(0);

/** PostgreSQL keeps no NUL, and no half of a surrogate pair. */
export const text = (most: number) =>
  z
    .string()
    .max(most)
    .refine((value) => !value.includes('\0'), 'A NUL character can not be kept. Take it out.')
    .transform((value) =>
      value.replace(/[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g, '�'),
    );

/** One value of a document changed in place: `before` is what the user saw, so that two people never overwrite. */
export const fieldEdit = z.object({ at: z.string().max(100), before: z.unknown(), after: z.unknown() });
export type FieldEdit = z.infer<typeof fieldEdit>;
export const fieldEdits = z.object({ edits: z.array(fieldEdit).min(1).max(50) });

/** Some fields of an object: one that is missing stays missing, whatever its default, which would overwrite what is there. */
export function someOf<Shape extends z.ZodRawShape>(schema: z.ZodObject<Shape>) {
  const fields = Object.entries(schema.shape).map(([name, field]) => {
    const bare = field instanceof z.ZodDefault ? field.unwrap() : field;
    return [name, (bare as z.ZodType).optional()];
  });
  return z.strictObject(Object.fromEntries(fields)) as unknown as ReturnType<typeof schema.partial>;
}

export const revisionAnswer = z.object({ revision: count });
