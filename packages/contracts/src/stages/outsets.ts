import type { Layout } from '@sprig/core/build';
import { negativeTypes } from '@sprig/core/match';
import { currencies } from '@sprig/core/money';
import { z } from 'zod';
import { count, id, idText, nothing, planParams, revisionAnswer, text } from '../common.ts';
import { endpoint } from '../endpoint.ts';
import { type Facts, factsOf } from './brief.ts';
import { settingSetSchema } from './build/sets.ts';
import { layoutSchema } from './layout.ts';
import { outletKey } from './outlets.ts';
import { planOutletBody } from './ship.ts';
import { sortSettingsSchema, themeRow } from './sort.ts';
import { extraBody } from './write/extras.ts';
import { addressRuleSchema, patternFrom } from './write.ts';

type PartFields = { facts: readonly (keyof Facts)[]; layout: readonly (keyof Layout)[] };
const fields = (facts: PartFields['facts'], layout: PartFields['layout']): PartFields => ({ facts, layout });

/**
 * What an outset has parts of, with the fields of the brief and of the layout that go with each. A field that is in none of
 * them is the client's own, and is never taken along.
 */
export const outsetFields = {
  campaigns: fields(
    [
      'timeZone',
      'goal',
      'category',
      'adults',
      'networks',
      'locations',
      'locationsOut',
      'presence',
      'languages',
      'schedule',
      'devices',
      'delivery',
      'strategy',
      'targetCost',
      'targetReturn',
      'conversions',
      'rotation',
      'sitesOut',
    ],
    ['dailyBudget'],
  ),
  sets: fields([], []),
  words: fields(['places', 'casing', 'functionWords', 'synonyms'], []),
  names: fields(
    [],
    [
      'campaignBy',
      'campaignName',
      'grouping',
      'unplaced',
      'groupName',
      'themeName',
      'keywordsPerGroup',
      'asAsked',
    ],
  ),
  lanes: fields([], ['spread', 'lanes', 'marks']),
  ladder: fields([], ['ladder']),
  fences: fields([], ['fences']),
  themes: fields([], []),
  stages: fields([], []),
  ads: fields([], []),
  addresses: fields([], []),
  extras: fields([], []),
  negatives: fields([], []),
  kept: fields([], []),
  lists: fields([], []),
  outlets: fields([], []),
  limits: fields(['verdicts', 'bids', 'adTests'], []),
  forecasts: fields(['market', 'learnFrom', 'assumptions'], []),
} as const satisfies Record<string, PartFields>;

export type OutsetPart = keyof typeof outsetFields;
export const outsetParts = Object.keys(outsetFields) as [OutsetPart, ...OutsetPart[]];
const partsSchema = z
  .array(z.enum(outsetParts))
  .min(1, 'Choose a part at least.')
  .transform((chosen) => outsetParts.filter((part) => chosen.includes(part)));

/** The rules of a plan: what an outset is kept of, and what it is taken into. */
export const rulesOfPlan = z.object({
  /** What the plan is called, and what its amounts are in. */
  name: z.string(),
  currency: z.string().refine((code) => code in currencies, 'Not a currency we know.'),
  facts: z.unknown().transform(factsOf),
  layout: layoutSchema,
  sets: z.array(settingSetSchema),
  /** In the order in which their rules are tried: those above before those in them. */
  themes: z.array(themeRow),
  sort: sortSettingsSchema,
  patterns: z.array(z.object({ id, body: z.unknown().transform(patternFrom) })),
  address: addressRuleSchema,
  /** Those of the whole plan. */
  extras: z.array(extraBody),
  negatives: z.array(
    z.object({ text: z.string(), type: z.enum(negativeTypes), reason: z.enum(['hand', 'block']) }),
  ),
  /** Words that were judged to belong. */
  kept: z.array(z.string()),
  lists: z.array(z.object({ id, name: z.string() })),
  outlets: z.array(z.object({ key: outletKey, name: z.string(), body: planOutletBody })),
});
export type RulesOfPlan = z.output<typeof rulesOfPlan>;

const outsetName = text(120).refine((typed) => typed.trim() !== '', 'An outset needs a name.');

export const outsetView = z.object({
  id,
  name: z.string(),
  /** The plan that it was kept of, as it was called then. */
  of: z.string(),
  currency: z.string(),
  /** What a new plan begins with if nothing else is said. */
  isDefault: z.boolean(),
  parts: z.array(z.enum(outsetParts)),
  keptAt: z.string(),
});
export type OutsetView = z.infer<typeof outsetView>;

export const listOutsets = endpoint({
  method: 'GET',
  path: '/api/outsets',
  access: 'read',
  reads: ['plans'],
  params: nothing,
  query: nothing,
  body: nothing,
  answer: z.object({ outsets: z.array(outsetView) }),
});

export const MOST_OUTSETS = 100;
/** Keeps a plan's rules as an outset; `instead` of one that is there. */
export const keepOutset = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/outsets',
  access: 'build',
  changes: ['plans'],
  params: planParams,
  query: nothing,
  body: z.object({ name: outsetName, parts: partsSchema, instead: id.nullable() }),
  answer: z.object({ id }),
});

/** Renames an outset, makes it the one that new plans begin with (or no more), takes it away or puts it back. */
export const editOutset = endpoint({
  method: 'PATCH',
  path: '/api/outsets/:outset',
  access: 'build',
  changes: ['plans'],
  params: z.object({ outset: idText }),
  query: nothing,
  body: z.object({ name: outsetName, isDefault: z.boolean(), isRemoved: z.boolean() }).partial(),
  answer: nothing,
});

/**
 * What taking an outset in does: a field that is set (`at` is its path), or named things of a kind that are added or brought
 * in line.
 */
const outsetLine = z.object({
  part: z.enum(outsetParts),
  at: z.string(),
  kind: z.enum(['set', 'added', 'changed']),
  names: z.array(z.string()),
  count,
  before: z.unknown(),
  after: z.unknown(),
});
export type OutsetLine = z.infer<typeof outsetLine>;

/** Why something of an outset is not taken in as it stands there. */
export const outsetLosses = ['currency', 'gone-list', 'gone-outlet', 'no-theme', 'groups', 'source'] as const;
const outsetLoss = z.object({
  part: z.enum(outsetParts),
  why: z.enum(outsetLosses),
  names: z.array(z.string()),
  count,
});
export type OutsetLoss = z.infer<typeof outsetLoss>;

const taken = planParams.extend({ outset: idText });
/** Shows what taking parts of an outset into a plan would do. */
export const tryOutset = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/outsets/:outset/try',
  access: 'build',
  reads: ['plan', 'plans'],
  changes: [],
  params: taken,
  query: nothing,
  body: z.object({ parts: partsSchema }),
  /** `seen` is of all that is told. */
  answer: z.object({ lines: z.array(outsetLine), losses: z.array(outsetLoss), seen: z.string() }),
});

/** Takes parts of an outset into a plan, if it still does what was shown. It adds and sets, and takes nothing away. */
export const takeOutset = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/outsets/:outset/take',
  access: 'build',
  changes: ['plan'],
  params: taken,
  query: nothing,
  body: z.object({ parts: partsSchema, seen: z.string().max(200) }),
  answer: revisionAnswer,
});
