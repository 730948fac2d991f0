import { z } from 'zod';
import type { ColumnType } from '../../../db/tables/index.ts';
import type { FileTable } from './tables.ts';

/** The value of a cell, as JSON and the database know it. */
export type Value = unknown;

/** A row of csv by RFC 4180. Nothing at all is a cell without quotes; an empty text has them. */
export const csvLine = (values: readonly Value[]): string => `${values.map(csvCell).join(',')}\r\n`;

function csvCell(value: Value): string {
  if (value === null || value === undefined) return '';
  if (typeof value === 'number' || typeof value === 'boolean') return String(value);
  const text = typeof value === 'string' ? value : JSON.stringify(value);
  return `"${text.replaceAll('"', '""')}"`;
}

const MOST_TEXT = 5_000_000;
const whole = (most: number) =>
  z
    .string()
    .regex(/^-?\d{1,16}$/, 'It has to be a whole number.')
    .transform(Number)
    .refine((number) => Math.abs(number) <= most, 'The number is too large.');
const text = z
  .string()
  .max(MOST_TEXT)
  .refine((value) => !value.includes('\0'), 'It holds a NUL character.');
const json = <T extends z.ZodType>(schema: T) =>
  text
    .transform((value, context): unknown => {
      try {
        return JSON.parse(value);
      } catch {
        context.addIssue({ code: 'custom', message: 'It is no sound JSON.' });
        return z.NEVER;
      }
    })
    .pipe(schema);

const TYPES: Record<ColumnType, z.ZodType> = {
  int2: whole(32_767),
  int4: whole(2_147_483_647),
  int8: whole(Number.MAX_SAFE_INTEGER),
  text,
  bool: z.enum(['true', 'false']).transform((value) => value === 'true'),
  jsonb: json(z.json()),
  'int2[]': json(z.array(z.number().int().min(0).max(32_767)).max(10_000)),
  'int4[]': json(z.array(z.number().int()).max(10_000)),
  'text[]': json(z.array(z.string().max(100_000)).max(10_000)),
  date: z.iso.date(),
  uuid: z.uuid(),
  timestamptz: z.iso.datetime({ offset: true }),
  bytea: z.base64().max(100_000_000),
};

/** What a row's cells have to be; without a value is what the database allows to be so. */
export const rowSchema = ({ columns, check }: FileTable): z.ZodType<Record<string, unknown>> => {
  const shape = z.object(
    Object.fromEntries(columns.map(({ name, type }) => [name, (TYPES[type] as z.ZodType).nullable()])),
  );
  return (check ? shape.pipe(check as typeof shape) : shape) as z.ZodType<Record<string, unknown>>;
};
