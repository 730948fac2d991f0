import {
  type BidChange,
  campaignKeyPattern,
  fenceKinds,
  groupKeyPattern,
  kindOfKey,
  mostPercent,
  statuses,
} from '@sprig/core/build';
import { matchTypes, negativeTypes, standings } from '@sprig/core/match';
import { adFields, adForms } from '@sprig/core/write';
import { z } from 'zod';
import {
  count,
  fieldEdits,
  id,
  idText,
  micros,
  nothing,
  planParams,
  revisionAnswer,
  text,
} from '../common.ts';
import { endpoint } from '../endpoint.ts';
import { factsSchema } from './brief.ts';

export const MOST_KEY = 120;

/** An ad as it reads: the texts of the fields that it has, by their names. */
export const adTextsView = z.object({ texts: z.record(z.string(), z.string()), finalUrl: z.string() });
const anyKey = z
  .string()
  .max(MOST_KEY)
  .refine((key) => kindOfKey(key) !== null, 'There is no such row.');
const campaignKey = z.string().max(MOST_KEY).regex(campaignKeyPattern);
const groupKey = z.string().max(MOST_KEY).regex(groupKeyPattern);
const covered = z.record(z.string(), z.union([z.string(), z.number(), z.null()])).nullable();
const status = z.enum(statuses);

/** How many keywords were tried as a search, and how many of them stay in their own ad group. */
export const auditFigures = z.object({ tried: count, kept: count });

export const fenceFigures = z.object({
  kind: z.enum(fenceKinds),
  exact: count,
  phrase: count,
  /** Not made, since their group may not hold more negatives. */
  left: count,
  groups: count,
  audit: auditFigures,
});
export type FenceFigures = z.infer<typeof fenceFigures>;

/** What the last rebuild that changed something did. */
export const buildSummary = z.object({
  newGroups: count,
  goneGroups: count,
  bids: count,
  held: count,
});
export type BuildSummary = z.infer<typeof buildSummary>;

export const campaignRow = z.object({
  key: z.string(),
  name: z.string(),
  dailyBudget: micros,
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

/** The largest groups of a campaign that the icicle draws one by one. */
export const MOST_DRAWN = 60;

export const viewBuild = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/build',
  access: 'read',
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
    themeNames: z.array(
      z.object({ id: count, parent: count.nullable(), name: z.string(), branch: z.string() }),
    ),
  }),
});
export type GroupHeads = z.output<(typeof readHeads)['answer']>;

const builtRow = z.object({
  key: z.string(),
  keyword: id,
  text: z.string(),
  type: z.enum(matchTypes),
  marks: z.array(count),
  bid: micros,
  held: z.boolean(),
  ruleBid: micros,
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
  changes: [],
  params: planParams,
  query: nothing,
  body: z.object({ keys: z.array(z.string().max(MOST_KEY)).max(500) }),
  answer: z.object({ groups: z.array(groupRow) }),
});

const keywordFigures = { searches: count.nullable(), cpc: micros.nullable() };

export const placedNegative = z.object({ id, text: z.string(), type: z.enum(negativeTypes) });
export type PlacedNegativeRow = z.infer<typeof placedNegative>;

/** At most so many keyword rows, and so many fences, stand on a group's page. */
export const MOST_ON_PAGE = 2_000;

export const readGroup = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/groups/:group',
  access: 'read',
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

export const rowSorts = ['made', 'text', 'type', 'bid', 'searches', 'group'] as const;
export const rowQuery = z.object({
  filter: z.string().max(200).default(''),
  sort: z.enum(rowSorts).default('searches'),
  down: z.enum(['true', 'false']).default('true'),
  campaign: z.string().max(MOST_KEY).default(''),
  group: z.string().max(MOST_KEY).default(''),
  types: z.coerce.number().int().min(0).max(15).default(15),
  only: z.enum(['all', 'held', 'paused', 'twice']).default('all'),
});
export type RowQuery = z.infer<typeof rowQuery>;

export const orderRows = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/rows',
  access: 'read',
  params: planParams,
  query: rowQuery,
  body: nothing,
  answer: z.object({ builtRevision: count, keys: z.array(z.string()) }),
});

export const longRow = builtRow.extend(keywordFigures).extend({ group: z.string(), groupName: z.string() });
export type LongRow = z.infer<typeof longRow>;

export const pageRows = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/rows/page',
  access: 'read',
  changes: [],
  params: planParams,
  query: nothing,
  body: z.object({ keys: z.array(z.string().max(MOST_KEY)).max(500) }),
  answer: z.object({ rows: z.array(longRow) }),
});

export const holdFields = [
  'name',
  'bid',
  'step',
  'status',
  'labels',
  'lead',
  'budget',
  'settings',
  ...adFields,
  'finalUrl',
] as const;
export type HoldField = (typeof holdFields)[number];
const heldInput = z.union([text(2_000), micros]);

/** A value set by hand on a derived row. */
export const holdValue = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/holds',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    rowKey: anyKey,
    field: z.enum(holdFields),
    value: heldInput,
    /** What was held before, null if nothing was. */
    before: z.union([z.string(), z.number()]).nullable(),
  }),
  answer: revisionAnswer,
});

/** At most so many values are set, or bids changed, in one change. */
export const MOST_HELD = 300_000;

/** The same value for a field of many rows: a status, a step. */
export const holdMany = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/holds/many',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    rowKeys: z.array(anyKey).min(1).max(MOST_HELD),
    field: z.enum(['status', 'step', 'budget', 'settings']),
    value: heldInput,
  }),
  answer: revisionAnswer.extend({ held: count }),
});

const labelList = z.array(text(200)).max(50);

/** Gives labels to many campaigns, ad groups or keyword rows and takes others away; what they have besides stays. */
export const labelMany = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/holds/labels',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z
    .object({ rowKeys: z.array(anyKey).min(1).max(MOST_HELD), add: labelList, remove: labelList })
    .refine(({ add, remove }) => add.length + remove.length > 0, 'Name a label to give or to take away.'),
  answer: revisionAnswer.extend({ held: count }),
});

export const letGo = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/holds/let-go',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    places: z
      .array(z.object({ rowKey: z.string().max(MOST_KEY), field: z.string().max(40) }))
      .min(1)
      .max(MOST_HELD),
  }),
  answer: revisionAnswer,
});

export const heldValue = z.object({
  id,
  rowKey: z.string(),
  field: z.string(),
  outlet: z.string().nullable(),
  value: z.union([z.string(), z.number()]),
  /** True: the row it stood on is no longer made. */
  orphan: z.boolean(),
  /** The keyword or the theme it is about, where there is one still, and whether it is cut. */
  keyword: z.string().nullable(),
  keywordId: count,
  cut: z.boolean(),
});
export type HeldValue = z.infer<typeof heldValue>;

export const listHolds = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/holds',
  access: 'read',
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ holds: z.array(heldValue) }),
});

/** Which keyword rows: these, or all of a campaign, of groups, or of the plan; never those that are paused. */
export const bidScope = z.union([
  z.strictObject({ rows: z.array(z.string().max(MOST_KEY)).min(1).max(MOST_HELD) }),
  z.strictObject({ groups: z.array(groupKey).min(1).max(20_000) }),
  z.strictObject({ campaign: campaignKey }),
  z.strictObject({ all: z.literal(true) }),
]);
export type BidScope = z.infer<typeof bidScope>;

const percent = z.number().int().min(-mostPercent).max(mostPercent);
const positive = micros.refine((amount) => amount > 0, 'It has to be more than nothing.');
export const bidChange = z
  .discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('set'), to: positive }),
    z.strictObject({ kind: z.literal('percent'), by: percent }),
    z.strictObject({ kind: z.literal('amount'), by: z.number().int().min(-1e12).max(1e12) }),
    z.strictObject({ kind: z.literal('round'), to: positive }),
    z.strictObject({ kind: z.literal('between'), from: micros, to: positive }),
  ])
  .refine((change) => change.kind !== 'between' || change.from <= change.to, {
    message: 'The least is above the greatest. Lower the one or raise the other.',
    path: ['from'],
  }) satisfies z.ZodType<BidChange>;

export const aimSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('position'), at: z.number().min(1).max(100) }),
  z.strictObject({ kind: z.literal('share'), at: z.number().int().min(1).max(10_000) }),
]);

/** A day's clicks and cost, as they are forecast. */
export const dayForecast = z.object({ clicks: z.number().min(0), cost: micros });
export type DayForecast = z.infer<typeof dayForecast>;

const bidsAnswer = z.object({
  rows: count,
  changed: count,
  samples: z.array(
    z.object({ key: z.string(), text: z.string(), type: z.enum(matchTypes), before: micros, after: micros }),
  ),
  before: dayForecast,
  after: dayForecast,
  unreachable: z.object({ 'no-estimate': count, 'out-of-reach': count, 'above-ceiling': count }),
  revision: count,
});
export type BidsAnswer = z.infer<typeof bidsAnswer>;

/** Changes many bids, or says what it would do. They are held from then on. */
export const changeBids = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/bids',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ scope: bidScope, change: bidChange, dry: z.boolean() }),
  answer: bidsAnswer,
});

/** Sets bids to what reaches a position or a share of impressions, or says what it would do. */
export const aimBids = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/bids/aim',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    scope: bidScope,
    aim: aimSchema,
    headroom: z.number().int().min(0).max(100_000),
    dry: z.boolean(),
  }),
  answer: bidsAnswer,
});

/** A point of the curve of cost against clicks: all bids aimed at a position. */
export const curvePoint = dayForecast.extend({ position: z.number(), unreachable: count });
export const viewForecast = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/forecast',
  access: 'read',
  changes: [],
  params: planParams,
  query: nothing,
  body: z.object({ scope: bidScope }),
  answer: z.object({
    rows: count,
    keywords: count,
    now: dayForecast,
    /** The same within the daily budgets, and the share of the demand that they reach. */
    held: dayForecast.extend({ reached: count }),
    budget: micros,
    /** Eight in ten lie between. */
    low: dayForecast,
    high: dayForecast,
    /** Searches of which nothing can be forecast: their searches or their CPC are not known. */
    missing: count,
    /** What share of the clicks rests on estimates, and on made-up figures; basis points. */
    estimated: count,
    madeUp: count,
    position: z.number().nullable(),
    medianBid: micros.nullable(),
    curve: z.array(curvePoint),
    /** Of each campaign, and of the ad groups that cost most, for the picture. */
    parts: z.array(dayForecast.extend({ key: z.string() })),
  }),
});
export type ForecastView = z.output<(typeof viewForecast)['answer']>;

const addedNegative = z.object({ text: text(400), type: z.enum(negativeTypes) });

/** Adds negatives to campaigns or ad groups by hand. */
export const placeNegatives = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/placed-negatives',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    places: z.array(z.string().max(MOST_KEY)).min(1).max(20_000),
    negatives: z.array(addedNegative).min(1).max(10_000),
  }),
  answer: revisionAnswer.extend({ added: count }),
});

export const listPlaced = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/placed-negatives',
  access: 'read',
  params: planParams,
  query: z.object({ place: z.string().max(MOST_KEY) }),
  body: nothing,
  answer: z.object({ negatives: z.array(placedNegative) }),
});

export const removePlacedNegatives = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/placed-negatives/remove',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ ids: z.array(id).min(1).max(100_000) }),
  answer: revisionAnswer,
});

/** Which campaigns an attached list is for; null: all. */
export const attachToCampaigns = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/attached-lists/:list/campaigns',
  access: 'build',
  changes: ['plan'],
  params: planParams.extend({ list: idText }),
  query: nothing,
  body: z.object({ campaigns: z.array(campaignKey).max(1_000).nullable() }),
  answer: revisionAnswer,
});

export const listAttached = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/attached-lists',
  access: 'read',
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({
    lists: z.array(
      z.object({ id, name: z.string(), negatives: count, campaigns: z.array(z.string()).nullable() }),
    ),
  }),
});

/** A campaign's settings under a name, to be given to others. */
export const settingSetSchema = factsSchema
  .pick({
    networks: true,
    locations: true,
    locationsOut: true,
    presence: true,
    languages: true,
    schedule: true,
    devices: true,
    delivery: true,
    strategy: true,
    starts: true,
    ends: true,
    rotation: true,
    sitesOut: true,
  })
  .extend({ id, name: text(120).refine((name) => name.trim() !== '', 'These settings need a name.') });
export type SettingSet = z.infer<typeof settingSetSchema>;

export const listSettingSets = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/setting-sets',
  access: 'read',
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ sets: z.array(settingSetSchema) }),
});

/** Makes a set, of the brief's settings or of another set's, and gives it to campaigns. */
/** What was copied, and where keywords of split themes stand: what a build besides its rules keeps in its place. */
export const readStanding = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/standing',
  access: 'read',
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({
    copies: z.array(z.object({ id, of: z.string(), name: z.string(), ads: z.boolean() })),
    parts: z.array(z.object({ unit: z.string(), part: count, keywords: z.array(id) })),
  }),
});
export type BuiltStanding = z.infer<typeof readStanding.answer>;

export const makeSettingSet = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/setting-sets',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ name: text(120), from: id.nullable(), campaigns: z.array(campaignKey).max(1_000) }),
  answer: revisionAnswer.extend({ id }),
});

export const editSettingSet = endpoint({
  method: 'PATCH',
  path: '/api/plans/:plan/setting-sets/:set',
  access: 'build',
  changes: ['plan'],
  params: planParams.extend({ set: idText }),
  query: nothing,
  body: fieldEdits,
  answer: revisionAnswer,
});

export const removeSettingSet = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/setting-sets/:set/remove',
  access: 'build',
  changes: ['plan'],
  params: planParams.extend({ set: idText }),
  query: nothing,
  body: nothing,
  answer: revisionAnswer,
});

/** Makes a campaign or an ad group once more, following the first; a lane is copied in the layout. */
export const copyBuilt = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/copies',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ of: z.union([campaignKey, groupKey]), name: text(500), ads: z.boolean() }),
  answer: revisionAnswer.extend({ key: z.string() }),
});

export const removeCopy = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/copies/remove',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ key: z.string().max(MOST_KEY) }),
  answer: revisionAnswer,
});

/** How many fences there would be, before they are made. */
export const countFences = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/fences/count',
  access: 'read',
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ exact: count, tight: count, keywords: count, mostInGroup: count, limit: count }),
});

/** Who would have stolen from whom: pairs of ad groups, the most searched first. */
export const viewFences = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/fences',
  access: 'read',
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({
    pairs: z.array(
      z.object({
        from: z.string(),
        fromName: z.string(),
        keeper: z.string(),
        keeperName: z.string(),
        fences: count,
        searches: count,
        samples: z.array(z.string()),
      }),
    ),
    pairCount: count,
    fullest: z.array(z.object({ key: z.string(), name: z.string(), fences: count })),
    limit: count,
  }),
});
export type FencesView = z.output<(typeof viewFences)['answer']>;

export const viewAudit = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/audit',
  access: 'read',
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({
    tried: count,
    kept: count,
    failed: count,
    failures: z.array(
      z.object({
        key: z.string(),
        text: z.string(),
        group: z.string(),
        groupName: z.string(),
        /** What blocks it in its own group; null: nothing does. */
        blockedBy: z.string().nullable(),
        others: z.array(z.object({ key: z.string(), name: z.string(), has: z.boolean() })),
      }),
    ),
  }),
});
export type AuditView = z.output<(typeof viewAudit)['answer']>;

export const blockLevels = ['plan', 'list', 'campaign', 'group', 'fence'] as const;
const block = z.object({ text: z.string(), type: z.enum(negativeTypes), level: z.enum(blockLevels) });
const candidate = z.object({
  key: z.string(),
  text: z.string(),
  type: z.enum(matchTypes),
  marks: z.array(count),
  group: z.string(),
  groupName: z.string(),
  campaignName: z.string(),
  bid: micros,
  /** The share of the stems of keyword and search that both have, and bid × that. */
  relevance: z.object({ shared: count, all: count }),
  weight: micros,
  standing: z.enum(standings),
  blockedBy: block.nullable(),
});
export type TriedCandidate = z.infer<typeof candidate>;

/** Most searches of one paste. */
export const MOST_TRIED = 100_000;

export const trySearch = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/try',
  access: 'read',
  changes: [],
  params: planParams,
  query: nothing,
  body: z.object({ search: text(400) }),
  answer: z.object({
    builtRevision: count,
    search: z.string(),
    candidates: z.array(candidate),
    candidateCount: count,
    wonBy: z.enum(['alone', 'standing', 'bid', 'narrower', 'text', 'group']).nullable(),
    ad: adTextsView.nullable(),
  }),
});
export type TriedView = z.output<(typeof trySearch)['answer']>;

export const trySearches = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/try/many',
  access: 'read',
  changes: [],
  params: planParams,
  query: nothing,
  body: z.object({ text: text(8_000_000) }),
  answer: z.object({
    searches: count,
    answered: count,
    blocked: count,
    groups: z.array(
      z.object({ key: z.string(), name: z.string(), searches: count, samples: z.array(z.string()) }),
    ),
    groupCount: count,
    unanswered: z.array(z.string()),
    blockedSamples: z.array(z.string()),
  }),
});
export type TriedMany = z.output<(typeof trySearches)['answer']>;
