import { matchTypes, negativeTypes } from '@sprig/core/match';
import { funnelStages } from '@sprig/core/text';
import { adForms } from '@sprig/core/write';
import { z } from 'zod';
import { count, id, micros, nothing, planParams } from '../../common.ts';
import { endpoint } from '../../endpoint.ts';
import { adTextsView, covered, groupKey, MOST_KEY, status } from './keys.ts';
import { buildSummary, fenceFigures } from './summary.ts';

export const campaignRow = z.object({
  key: z.string(),
  name: z.string(),
  dailyBudget: micros,
  /** What its ad groups bid where there is no estimate. */
  defaultBid: micros,
  status,
  labels: z.array(z.string()),
  /** The named settings that it has; null: the brief's. */
  settings: id.nullable(),
  lane: id.nullable(),
  place: z.string().nullable(),
  covered,
  groups: count,
  keywords: count,
  rows: count,
  searches: count,
  negatives: count,
  fences: count,
  largest: z.array(z.object({ key: z.string(), name: z.string(), searches: count, keywords: count })),
});
export type CampaignRow = z.infer<typeof campaignRow>;

/** So many of a campaign's largest groups are told with it. */
export const MOST_DRAWN = 60;

export const viewBuild = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/build',
  access: 'read',
  reads: ['built'],
  params: planParams,
  query: z.object({ by: z.enum(['searches', 'keywords']).default('searches') }),
  body: nothing,
  answer: z.object({
    builtRevision: count,
    campaigns: z.array(campaignRow),
    fences: fenceFigures.nullable(),
    summary: buildSummary.nullable(),
    labels: z.array(z.string()),
  }),
});

/** Every ad group by its size, in columns, with the themes that they were made of. */
export const readGroupSizes = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/group-sizes',
  access: 'read',
  reads: ['built'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({
    builtRevision: count,
    keys: z.array(z.string()),
    names: z.array(z.string()),
    /** By their places in `campaignKeys`. */
    campaigns: z.array(count),
    campaignKeys: z.array(z.string()),
    /** 0: of none. */
    themes: z.array(z.number()),
    searches: z.array(count),
    keywords: z.array(count),
    themeNames: z.array(z.object({ id: count, parent: count.nullable(), name: z.string() })),
  }),
});
export type GroupSizes = z.output<(typeof readGroupSizes)['answer']>;

export const groupSorts = ['made', 'name', 'searches', 'keywords', 'bid'] as const;
export const groupQuery = z.object({
  filter: z.string().max(200).default(''),
  sort: z.enum(groupSorts).default('made'),
  down: z.enum(['true', 'false']).default('false'),
  only: z.enum(['all', 'held', 'no-estimate', 'paused']).default('all'),
  campaign: z.string().max(MOST_KEY).default(''),
  label: z.string().max(200).default(''),
});

/** Ordered keys first, then pages by key: the scroll bar can jump anywhere. */
export const orderGroups = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/groups',
  access: 'read',
  reads: ['built'],
  params: planParams,
  query: groupQuery,
  body: nothing,
  answer: z.object({ builtRevision: count, keys: z.array(z.string()) }),
});

/** What ads are filled from, of every ad group that has one, in columns. */
export const readHeads = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/group-heads',
  access: 'read',
  reads: ['built'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({
    builtRevision: count,
    keys: z.array(z.string()),
    names: z.array(z.string()),
    keywords: z.array(z.string()),
    searches: z.array(z.number().nullable()),
    themes: z.array(z.number()),
    places: z.array(z.string().nullable()),
    stages: z.array(z.string().nullable()),
    /** By their places in `campaignNames`. */
    campaigns: z.array(count),
    campaignNames: z.array(z.string()),
    campaignKeys: z.array(z.string()),
    themeNames: z.array(
      z.object({ id: count, parent: count.nullable(), name: z.string(), branch: z.string() }),
    ),
  }),
});
export type GroupHeads = z.output<(typeof readHeads)['answer']>;

export const builtRow = z.object({
  key: z.string(),
  keyword: id,
  text: z.string(),
  type: z.enum(matchTypes),
  marks: z.array(count),
  bid: micros,
  held: z.boolean(),
  ruleBid: micros,
  /** Where it leads by hand, and by the rule; null: where its ads do. */
  heldUrl: z.string().nullable(),
  ruleUrl: z.string().nullable(),
  status,
  labels: z.array(z.string()),
});
export type BuiltRowView = z.infer<typeof builtRow>;

export const groupRow = z.object({
  key: z.string(),
  campaign: z.string(),
  kind: z.enum(['single', 'theme']),
  theme: count,
  keyword: z.string(),
  name: z.string(),
  searches: count.nullable(),
  keywords: count,
  base: micros,
  baseFrom: z.enum(['held', 'estimate', 'theme', 'taken', 'default']),
  step: count,
  status,
  labels: z.array(z.string()),
  lane: id.nullable(),
  /** How its keywords match, and how its ads take turns, where it differs from its campaign by hand; empty: as its campaign. */
  matching: z.enum(['', 'close', 'wide']),
  rotation: z.enum(['', 'best', 'even']),
  /** The rule's values under what is held. */
  covered,
  /** Of the lead keyword: one to a match type. */
  rows: z.array(builtRow),
});
export type GroupRow = z.infer<typeof groupRow>;

export const pageGroups = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/groups/page',
  access: 'read',
  reads: ['built'],
  changes: [],
  params: planParams,
  query: nothing,
  body: z.object({ keys: z.array(z.string().max(MOST_KEY)).max(500) }),
  answer: z.object({ groups: z.array(groupRow) }),
});

export const keywordFigures = { searches: count.nullable(), cpc: micros.nullable() };

export const placedNegative = z.object({ id, text: z.string(), type: z.enum(negativeTypes) });
export type PlacedNegativeRow = z.infer<typeof placedNegative>;

/** At most so many keyword rows, and so many fences, stand on a group's page. */
export const MOST_ON_PAGE = 2_000;

export const readGroup = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/groups/:group',
  access: 'read',
  reads: ['built'],
  params: planParams.extend({ group: groupKey }),
  query: nothing,
  body: nothing,
  answer: z.object({
    builtRevision: count,
    group: groupRow.extend({ place: z.string().nullable(), stage: z.string().nullable() }),
    campaignName: z.string(),
    rows: z.array(builtRow.extend(keywordFigures)),
    rowCount: count,
    negatives: z.array(placedNegative),
    campaignNegatives: z.array(placedNegative),
    /** Those of the plan and of attached lists. */
    above: count,
    fences: z.array(
      z.object({ text: z.string(), phrase: z.boolean(), keeper: z.string(), keeperName: z.string() }),
    ),
    fenceCount: count,
    /** How many of its own keywords other groups are fenced for. */
    keeps: count,
    ads: z.array(
      adTextsView.extend({
        key: z.string(),
        name: z.string(),
        form: z.enum(adForms),
        status,
        labels: z.array(z.string()),
        misfit: z.boolean(),
      }),
    ),
  }),
});
export type GroupPage = z.output<(typeof readGroup)['answer']>;

const amount = z.union([z.literal(''), z.coerce.number().int().min(0).max(1e12)]).default('');

const position = z.union([z.literal(''), z.coerce.number().min(1).max(100)]).default('');

export const rowSorts = ['made', 'text', 'type', 'bid', 'searches', 'group'] as const;
export const rowQuery = z.object({
  filter: z.string().max(200).default(''),
  sort: z.enum(rowSorts).default('searches'),
  down: z.enum(['true', 'false']).default('true'),
  campaign: z.string().max(MOST_KEY).default(''),
  group: z.string().max(MOST_KEY).default(''),
  types: z.coerce.number().int().min(0).max(15).default(15),
  /** `unreached`: those whose bid reaches no position, by the forecast. */
  only: z.enum(['all', 'held', 'paused', 'twice', 'unreached']).default('all'),
  /** Amounts in micros; empty: whatever it is. */
  bidFrom: amount,
  bidTo: amount,
  searchesFrom: amount,
  searchesTo: amount,
  /** Positions that bids reach by the forecast, 1 = top; empty: any, or none at all. */
  positionFrom: position,
  positionTo: position,
  label: z.string().max(200).default(''),
  /** A theme with all that is below it; 0: the unplaced. */
  theme: amount,
  stage: z.enum(['', ...funnelStages]).default(''),
});
export type RowQuery = z.infer<typeof rowQuery>;

export const orderRows = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/rows',
  access: 'read',
  reads: ['built'],
  params: planParams,
  query: rowQuery,
  body: nothing,
  answer: z.object({ builtRevision: count, keys: z.array(z.string()) }),
});

export const longRow = builtRow.extend(keywordFigures).extend({
  group: z.string(),
  groupName: z.string(),
  /** The position that its bid reaches by the forecast, 1 = top; null: none, or none is known. */
  position: z.number().nullable(),
  /** What is bid at partners and on pages by hand; null: its share of the bid, as each outlet has it. */
  bidPartners: micros.nullable(),
  bidDisplay: micros.nullable(),
});
export type LongRow = z.infer<typeof longRow>;

export const pageRows = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/rows/page',
  access: 'read',
  reads: ['built'],
  changes: [],
  params: planParams,
  query: nothing,
  body: z.object({ keys: z.array(z.string().max(MOST_KEY)).max(500) }),
  answer: z.object({ rows: z.array(longRow) }),
});
