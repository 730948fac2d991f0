import {
  baseSources,
  campaignBys,
  fenceKinds,
  groupingKinds,
  type Layout,
  laneSpreads,
  markings,
  strangeToken,
} from '@sprig/core/build';
import { eachType, matchRules } from '@sprig/core/match';
import { caseStyles, funnelStages, parseLine } from '@sprig/core/text';
import { z } from 'zod';
import { count, fieldEdits, id, micros, nothing, planParams, revisionAnswer, text } from '../common.ts';
import { endpoint } from '../endpoint.ts';

/** 0 to 1000%. */
export const basisPoints = z.number().int().min(0).max(100_000, 'A step is at most 1000%.');
export const MOST_LANES = 8;

const pattern = text(500).refine((typed) => {
  const read = parseLine(typed);
  return typed.trim() !== '' && 'line' in read && strangeToken(read.line) === undefined;
}, 'A name needs something in it, and may hold @keyword, @theme, @branch, @place, @stage and @source.');
const nameRule = z.strictObject({ pattern, style: z.enum(caseStyles) });
const figure = count.max(1_000_000_000).nullable();

const grouping = z.strictObject({
  kind: z.enum(groupingKinds),
  searchesFrom: figure,
  first: z.number().int().min(1).max(100_000).nullable(),
  cpcFrom: micros.nullable(),
});

const lane = z.strictObject({
  id,
  name: text(60),
  types: z.number().int().min(1, 'At least one match type is needed.').max(15),
  step: basisPoints,
  takes: z.strictObject({
    searchesFrom: figure,
    sources: z.array(id).max(1_000),
    stages: z.array(z.enum(funnelStages)).max(3),
  }),
});

const day = z
  .string()
  .regex(/^\d{4}-\d\d-\d\d$/, 'Not a day. Write it like 2027-03-31.')
  .refine((value) => !Number.isNaN(Date.parse(value)), 'There is no such day.');

const stepsOf = <K extends string>(names: readonly [K, ...K[]]) =>
  z.strictObject(
    Object.fromEntries(names.map((name) => [name, basisPoints])) as Record<K, typeof basisPoints>,
  );

export const layoutSchema = z
  .strictObject({
    campaignBy: z.enum(campaignBys),
    campaignName: pattern,
    dailyBudget: micros,
    grouping,
    branches: z
      .array(
        z.strictObject({
          theme: id,
          grouping: grouping.nullable(),
          step: basisPoints,
          types: z.number().int().min(0).max(15).optional(),
        }),
      )
      .max(100_000),
    unplaced: z.enum(['single', 'together', 'out']),
    groupName: nameRule,
    themeName: nameRule,
    keywordsPerGroup: z
      .number()
      .int()
      .min(1, 'An ad group holds one keyword at least.')
      .max(10_000)
      .nullable(),
    asAsked: z.boolean(),
    spread: z.enum(laneSpreads),
    lanes: z.array(lane).min(1, 'At least one lane is needed.').max(MOST_LANES),
    marks: z.strictObject({ which: z.enum(markings), words: z.array(text(80)).max(2_000) }),
    fences: z.enum(fenceKinds),
    ladder: z.strictObject({
      baseBy: z.enum(baseSources),
      defaultBase: micros,
      // A layout that was kept before there was a type has its usual step.
      steps: z.strictObject(eachType((type) => basisPoints.default(matchRules[type].usualStep))),
      stages: stepsOf(['early', 'comparing', 'ready', 'none']),
      floor: micros,
      ceiling: micros,
    }),
    startHigh: z.strictObject({
      on: z.boolean(),
      narrow: basisPoints,
      wide: basisPoints,
      until: day.nullable(),
    }),
  })
  .refine(({ ladder }) => ladder.floor <= ladder.ceiling, {
    message: 'The least bid is above the greatest. Lower the one or raise the other.',
    path: ['ladder', 'floor'],
  })
  .refine(({ lanes }) => new Set(lanes.map((one) => one.id)).size === lanes.length, {
    message: 'Two lanes have the same number.',
    path: ['lanes'],
  })
  .refine(
    ({ lanes, spread }) =>
      spread === 'together' ||
      new Set(lanes.map((one) => one.name.trim().toLowerCase())).size === lanes.length,
    { message: 'Two lanes have the same name. Call one of them something else.', path: ['lanes'] },
  ) satisfies z.ZodType<Layout>;

export const readLayout = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/layout',
  access: 'read',
  reads: ['plan'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ layout: layoutSchema }),
});

export const editLayout = endpoint({
  method: 'PATCH',
  path: '/api/plans/:plan/layout',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: fieldEdits,
  answer: revisionAnswer,
});
