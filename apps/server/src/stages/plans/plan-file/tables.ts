import {
  addressRuleSchema,
  adPatternSchema,
  assetBody,
  briefSchema,
  layoutSchema,
  outletShape,
  planOutletBody,
  recipeSchema,
  themeBody,
} from '@sprig/contracts';
import { normalise } from '@sprig/core/text';
import { z } from 'zod';
import type { Column } from '../../../db/copy.ts';
import { type CollectionName, collectionOf } from '../../../plan/change/collections.ts';

/** A table of a plan file: one csv file with a heading for each column. */
export type FileTable = {
  /** Of the table and, in its folder, of the csv file. */
  name: string;
  folder: 'tables' | 'shared' | 'receipts';
  columns: readonly FileColumn[];
  /** The columns by which its rows stand in order. */
  order: string;
  /** What a row has to be beside what its columns are. */
  check?: z.ZodType;
};
/** `bytes` are written in base64. */
export type FileColumn = { name: string; type: Column['type'] | 'bytes' };

/** Of every document only that it is one: what reads it takes what is sound of it. */
const document = z.record(z.string(), z.unknown());
const body = (schema: z.ZodType) => z.looseObject({ body: schema });

/** What is kept of a plan, in the order in which rows refer to one another. Columns left out are made anew. */
const PLAN: readonly [CollectionName, { without?: readonly string[]; check?: z.ZodType }?][] = [
  ['briefs', { check: z.looseObject(briefSchema.shape) }],
  ['facts', { check: body(document) }],
  ['layouts', { check: body(layoutSchema) }],
  ['ad_patterns', { check: body(adPatternSchema.or(document)) }],
  ['address_rules', { check: body(addressRuleSchema.or(document)) }],
  ['assets', { check: body(assetBody) }],
  ['ad_reviews'],
  ['plan_outlets', { check: body(planOutletBody) }],
  ['accepted_findings'],
  ['sources', { without: ['actor_id', 'job_id'] }],
  [
    'keywords',
    {
      without: ['blocked_by'],
      check: z
        .looseObject({ text: z.string().max(400), norm: z.string().min(1) })
        .refine(
          ({ text, norm }) => normalise(text) === norm,
          'Its text and its normal form are not the same.',
        ),
    },
  ],
  ['mentions'],
  ['dismissed_ideas'],
  ['line_problems'],
  ['negatives'],
  ['word_verdicts'],
  ['recipes', { check: body(recipeSchema) }],
  ['recipe_cuts'],
  ['attached_lists'],
  ['themes', { check: body(themeBody) }],
  ['placed_by_hand'],
  ['sort_settings', { check: body(document) }],
  ['placed_negatives'],
  ['setting_sets', { check: body(document) }],
  ['copies', { check: body(document) }],
  ['holds'],
];

const ofCollection = (name: CollectionName, without: readonly string[] = []): readonly FileColumn[] =>
  collectionOf(name).columns.filter((column) => !without.includes(column.name));

export const planTables: readonly FileTable[] = PLAN.map(([name, { without, check } = {}]) => ({
  name,
  folder: 'tables',
  columns: ofCollection(name, without),
  order: collectionOf(name).key.join(', '),
  ...(check ? { check } : {}),
}));

/** What the plan uses of that which its workspace shares. Numbers are the file's own, by name, from 1. */
export const sharedTables: readonly FileTable[] = [
  { name: 'shared_lists', folder: 'shared', columns: ofCollection('shared_lists'), order: 'id' },
  {
    name: 'shared_negatives',
    folder: 'shared',
    columns: ofCollection('shared_negatives', ['id']),
    order: 'list_id, match_type, norm',
  },
  { name: 'word_lists', folder: 'shared', columns: ofCollection('word_lists'), order: 'id' },
  {
    name: 'outlets',
    folder: 'shared',
    columns: ofCollection('outlets', ['id']),
    order: 'key',
    check: body(outletShape),
  },
];

const int = (name: string): FileColumn => ({ name, type: 'int4' });
const text = (name: string): FileColumn => ({ name, type: 'text' });
const json = (name: string): FileColumn => ({ name, type: 'jsonb' });
const bytes = (name: string): FileColumn => ({ name, type: 'bytes' });

/** What was shipped: `set` counts the sets from 1. The sheets themselves are not kept. */
export const receiptTables: readonly FileTable[] = [
  {
    name: 'sheet_sets',
    folder: 'receipts',
    columns: [
      int('set'),
      text('outlet'),
      int('n'),
      int('revision'),
      { name: 'created_at', type: 'timestamptz' },
      text('what'),
      text('format'),
      text('note'),
      text('state'),
      text('hash'),
      json('profile'),
      json('counts'),
      json('files'),
      int('budget_changes'),
      json('answer'),
    ],
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
    columns: [int('set'), int('n'), bytes('data')],
    order: 'set, n',
  },
  {
    name: 'refused_rows',
    folder: 'receipts',
    columns: [int('set'), int('n'), text('row_key'), text('file'), int('line'), text('reason')],
    order: 'set, n',
  },
  {
    name: 'shipped_names',
    folder: 'receipts',
    columns: [text('outlet'), text('campaign'), text('name'), text('key')],
    order: 'outlet, campaign, name',
  },
  {
    name: 'stand_in_accounts',
    folder: 'receipts',
    columns: [text('outlet'), bytes('data')],
    order: 'outlet',
  },
];

export const fileTables: readonly FileTable[] = [...sharedTables, ...planTables, ...receiptTables];
export const pathOf = ({ folder, name }: FileTable): string => `${folder}/${name}.csv`;

export const FORMAT = 'green-sprig-plan';
export const VERSION = 2;

/** Columns that files of an older version lack: nothing was known of them. */
export const LATER_COLUMNS: Readonly<Record<string, readonly string[]>> = {
  sources: ['figures_on'],
  keywords: ['hand', 'told_of', 'taken_cpc', 'made_searches', 'made_cpc', 'made_competition'],
  mentions: ['told_of'],
};
export const headSchema = z.object({
  format: z.literal(FORMAT),
  version: z.number().int().min(1),
  /** The next number that the plan gives to what is new in it. */
  nextId: z.number().int().min(1).max(2_000_000_000),
  /** How many rows each table has. */
  rows: z.record(z.string(), z.number().int().min(0)),
});
export type Head = z.infer<typeof headSchema>;
