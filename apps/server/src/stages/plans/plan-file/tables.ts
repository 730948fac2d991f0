import {
  addressRuleSchema,
  adPatternSchema,
  briefSchema,
  extraBody,
  layoutSchema,
  outletShape,
  planOutletBody,
  recipeSchema,
  rivalNoteBody,
  themeBody,
} from '@sprig/contracts';
import { normalise } from '@sprig/core/text';
import { z } from 'zod';
import {
  type Column,
  columnsOf,
  type InputName,
  inputNames,
  type TableName,
  tableOf,
} from '../../../db/tables/index.ts';

/** A table of a plan file: one csv file with a heading for each column. */
export type FileTable = {
  /** Of the table and, in its folder, of the csv file. */
  name: string;
  folder: 'tables' | 'shared' | 'receipts';
  /** Bytes are written in base64. */
  columns: readonly Column[];
  /** The columns by which its rows stand in order. */
  order: string;
  /** What a row has to be beside what its columns are. */
  check?: z.ZodType;
};

/** Of every document only that it is one: what reads it takes what is sound of it. */
const document = z.record(z.string(), z.unknown());
const body = (schema: z.ZodType) => z.looseObject({ body: schema });

/** What rows of a plan's inputs have to be beside what their columns are. */
const CHECKS: { [Name in InputName]?: z.ZodType } = {
  briefs: z.looseObject(briefSchema.shape),
  facts: body(document),
  layouts: body(layoutSchema),
  ad_patterns: body(adPatternSchema.or(document)),
  address_rules: body(addressRuleSchema.or(document)),
  extras: body(extraBody),
  rival_notes: body(rivalNoteBody),
  plan_outlets: body(planOutletBody),
  keywords: z
    .looseObject({ text: z.string().max(400), norm: z.string().min(1) })
    .refine(({ text, norm }) => normalise(text) === norm, 'Its text and its normal form are not the same.'),
  recipes: body(recipeSchema),
  themes: body(themeBody),
  sort_settings: body(document),
  setting_sets: body(document),
  copies: body(document),
  looks: body(document),
  outlets: body(outletShape),
};

const columnsIn = (name: TableName, without: readonly string[] = []): readonly Column[] =>
  columnsOf(tableOf(name), (spec, column) => !spec.isAside && !spec.isNotInFile && !without.includes(column));

const withCheck = (name: InputName) => {
  const check = CHECKS[name];
  return check ? { check } : {};
};

/** What is kept of a plan, in the order in which rows refer to one another. Columns left out are made anew. */
export const planTables: readonly FileTable[] = inputNames
  .filter((name) => tableOf(name).scope === 'plan')
  .map((name) => ({
    name,
    folder: 'tables',
    columns: columnsIn(name),
    order: tableOf(name).key.join(', '),
    ...withCheck(name),
  }));

const shared = (name: InputName, order: string, without: readonly string[] = []): FileTable => ({
  name,
  folder: 'shared',
  columns: columnsIn(name, without),
  order,
  ...withCheck(name),
});

/** What the plan uses of that which its workspace shares. Numbers are the file's own, by name, from 1. */
export const sharedTables: readonly FileTable[] = [
  shared('shared_lists', 'id'),
  shared('shared_negatives', 'list_id, match_type, norm', ['id']),
  shared('word_lists', 'id'),
  shared('outlets', 'key', ['id']),
];

const SET: Column = { name: 'set', type: 'int4' };

/** What was shipped: `set` counts the sets from 1. The sheets themselves are not kept. */
export const receiptTables: readonly FileTable[] = [
  {
    name: 'sheet_sets',
    folder: 'receipts',
    columns: [SET, ...columnsIn('sheet_sets')],
    order: 'set',
    check: z.looseObject({
      profile: outletShape,
      counts: document,
      files: z.array(z.looseObject({ name: z.string(), rows: z.number() })),
      answer: document.nullable(),
    }),
  },
  {
    name: 'outlet_states',
    folder: 'receipts',
    columns: [SET, ...columnsIn('outlet_states')],
    order: 'set, n',
  },
  {
    name: 'refused_rows',
    folder: 'receipts',
    columns: [SET, ...columnsIn('refused_rows')],
    order: 'set, n',
  },
  {
    name: 'shipped_names',
    folder: 'receipts',
    columns: columnsIn('shipped_names'),
    order: 'outlet, campaign, name',
  },
  {
    name: 'shipped_ads',
    folder: 'receipts',
    columns: columnsIn('shipped_ads'),
    order: 'outlet, group_key, name',
  },
  {
    name: 'stand_in_accounts',
    folder: 'receipts',
    columns: columnsIn('stand_in_accounts'),
    order: 'outlet',
  },
  ...(['stand_in_days', 'report_readings', 'report_parts', 'report_places'] as const).map(
    (name): FileTable => ({
      name,
      folder: 'receipts',
      columns: columnsIn(name),
      order: tableOf(name).key.join(', '),
    }),
  ),
];

export const fileTables: readonly FileTable[] = [...sharedTables, ...planTables, ...receiptTables];
export const pathOf = ({ folder, name }: FileTable): string => `${folder}/${name}.csv`;

export const FORMAT = 'green-sprig-plan';
export const VERSION = 6;

/** What a table is called in files of an older version. */
export const formerName = (name: string): string => tableOf(name as TableName).former ?? name;

/** Columns that files of an older version lack: nothing was known of them. */
export const laterColumns = (name: string): readonly string[] =>
  columnsOf(tableOf(name as TableName), ({ isLaterInFile }) => isLaterInFile).map((column) => column.name);

export const headSchema = z.object({
  format: z.literal(FORMAT),
  version: z.number().int().min(1),
  /** The next number that the plan gives to what is new in it. */
  nextId: z.number().int().min(1).max(2_000_000_000),
  /** How many rows each table has. */
  rows: z.record(z.string(), z.number().int().min(0)),
});
export type Head = z.infer<typeof headSchema>;
