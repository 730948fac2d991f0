import { caseStyles } from '@sprig/core/text';
import {
  type AdField,
  type AdPattern,
  adFields,
  adForms,
  isAdField,
  patternOf,
  patternScopes,
  splitKinds,
} from '@sprig/core/write';
import { z } from 'zod';
import { count, fieldEdits, id, idText, nothing, planParams, revisionAnswer, text } from '../common.ts';
import { endpoint } from '../endpoint.ts';
import { lineWords } from '../words/token-words.ts';
import { groupKey } from './build/keys.ts';
import { MOST_KEY } from './build.ts';
import { outletKey } from './outlets.ts';

export * from './write/desk.ts';
export * from './write/extras.ts';

/** What is typed with tokens: refused where a token can't be read. */
const line = text(1_000).superRefine((source, context) => {
  const message = lineWords(source);
  if (message !== null) context.addIssue({ code: 'custom', message });
});
const lines = z
  .array(line.refine((source) => source.trim() !== '', 'An empty line says nothing. Take it out.'))
  .max(20, 'A field has up to 20 lines.');
const label = text(100);

const fieldSchema = z.strictObject({
  lines,
  style: z.enum(caseStyles),
  kept: z.number().int().min(0).max(15),
});

export const adPatternSchema = z.strictObject({
  name: text(200).refine((name) => name.trim() !== '', 'A pattern needs a name.'),
  form: z.enum(adForms),
  status: z.enum(['enabled', 'paused']),
  labels: z.array(label).max(50),
  groups: z.strictObject({
    to: z.enum(patternScopes),
    themes: z.array(id).max(20_000),
    groups: z.array(text(MOST_KEY)).max(100_000),
    campaigns: z.array(text(MOST_KEY)).max(10_000).default([]),
  }),
  outlets: z.array(outletKey).max(100).default([]),
  split: z.strictObject({
    by: z.enum(splitKinds),
    field: z.enum(adFields),
    lines,
    labels: z.tuple([label, label]),
    paused: z.enum(['a', 'b']).nullable().default(null),
  }),
  fields: z.strictObject(
    Object.fromEntries(adFields.map((field) => [field, fieldSchema])) as Record<AdField, typeof fieldSchema>,
  ),
});

/** A pattern as it was kept before there were several, with assembled ads and split tests; its final URL is the plan's now. */
const earlierPattern = z.object({
  name: z.string(),
  fields: z.record(z.string(), z.object({ lines: z.array(z.string()), style: z.enum(caseStyles) })),
});

/** A kept pattern; one that can't be read is an empty one. */
export function patternFrom(body: unknown): AdPattern {
  const read = adPatternSchema.safeParse(body);
  if (read.success) return read.data;
  const pattern = patternOf({});
  const earlier = earlierPattern.safeParse(body);
  if (!earlier.success) return pattern;
  for (const [name, { lines: kept, style }] of Object.entries(earlier.data.fields))
    if (isAdField(name)) pattern.fields[name] = { lines: kept, style, kept: 0 };
  return { ...pattern, name: earlier.data.name.trim() || pattern.name };
}

export const addressRuleSchema = z.strictObject({
  base: line,
  path: line,
  themes: z.array(z.strictObject({ theme: id, path: line })).max(20_000),
  parameters: line,
  mobile: line,
  keywords: line.default(''),
});

export const MOST_PATTERNS = 50;
const numberedPattern = z.object({ id, body: adPatternSchema });
export type NumberedPatternView = z.output<typeof numberedPattern>;

/** The plan's patterns in their order, and how final URLs are made. */
export const readPatterns = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/patterns',
  access: 'read',
  reads: ['plan'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ patterns: z.array(numberedPattern), address: addressRuleSchema }),
});

/** Makes a pattern behind another one, or at the end. */
export const makePattern = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/patterns',
  access: 'write',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ body: adPatternSchema, behind: id.nullable() }),
  answer: revisionAnswer.extend({ id }),
});

const patternParams = planParams.extend({ pattern: idText });
export const editPattern = endpoint({
  method: 'PATCH',
  path: '/api/plans/:plan/patterns/:pattern',
  access: 'write',
  changes: ['plan'],
  params: patternParams,
  query: nothing,
  body: fieldEdits,
  answer: revisionAnswer,
});

/** Its ads go with it; what is held of them is set aside. */
export const removePattern = endpoint({
  method: 'DELETE',
  path: '/api/plans/:plan/patterns/:pattern',
  access: 'write',
  changes: ['plan'],
  params: patternParams,
  query: nothing,
  body: nothing,
  answer: revisionAnswer,
});

export const orderPatterns = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/patterns/order',
  access: 'write',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ patterns: z.array(id).max(MOST_PATTERNS) }),
  answer: revisionAnswer,
});

export const editAddressRule = endpoint({
  method: 'PATCH',
  path: '/api/plans/:plan/address-rule',
  access: 'write',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: fieldEdits,
  answer: revisionAnswer,
});

export const reviewStates = ['ready', 'review', 'limited', 'refused'] as const;
export type ReviewState = (typeof reviewStates)[number];

export const adSorts = ['made', 'group', 'pattern', 'searches', 'relevance'] as const;
export const adOnly = ['all', 'misfit', 'held', 'problems', ...reviewStates] as const;
export const adQuery = z.object({
  filter: z.string().max(200).default(''),
  sort: z.enum(adSorts).default('made'),
  down: z.enum(['true', 'false']).default('false'),
  only: z.enum(adOnly).default('all'),
  pattern: z.coerce.number().int().min(0).default(0),
  group: z.string().max(MOST_KEY).default(''),
});
export type AdQuery = z.output<typeof adQuery>;

export const orderAds = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/ads',
  access: 'read',
  reads: ['plan', 'built'],
  params: planParams,
  query: adQuery,
  body: nothing,
  answer: z.object({ builtRevision: count, keys: z.array(z.string()) }),
});

export const adRowSchema = z.object({
  key: z.string(),
  group: z.string(),
  groupName: z.string(),
  campaignName: z.string(),
  keyword: z.string(),
  searches: count.nullable(),
  pattern: count,
  patternName: z.string(),
  form: z.enum(adForms),
  status: z.enum(['enabled', 'paused']),
  labels: z.array(z.string()),
  texts: z.record(z.string(), z.string()),
  finalUrl: z.string(),
  misfit: z.boolean(),
  /** 0 to 1. */
  relevance: z.number(),
  problems: count,
  /** The fields that are held by hand. */
  held: z.array(z.string()),
  review: z.enum(reviewStates),
  reason: z.string(),
});
export type AdRow = z.output<typeof adRowSchema>;

/** Rows in the order of `keys`. */
export const pageAds = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/ads/page',
  access: 'read',
  reads: ['built'],
  changes: [],
  params: planParams,
  query: nothing,
  body: z.object({ keys: z.array(z.string().max(MOST_KEY)).max(500) }),
  answer: z.object({ ads: z.array(adRowSchema) }),
});

/** At most so many texts are set in one change. */
export const MOST_TEXTS = 120_000;
export const adTexts = [...adFields, 'finalUrl'] as const;
export type AdText = (typeof adTexts)[number];

/** Texts of many ads set by hand, each its own; an ad and field may be named once. */
export const holdTexts = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/ads/texts',
  access: 'write',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    texts: z
      .array(z.tuple([z.string().max(MOST_KEY), z.enum(adTexts), text(2_000)]))
      .min(1)
      .max(MOST_TEXTS, 'Up to 120,000 texts go in at once. Take fewer rows at a time.'),
  }),
  answer: revisionAnswer.extend({ held: count }),
});

/** What an engine's editors said of ads. The refused texts are remembered, and warned about elsewhere at the same outlet. */
export const reviewAds = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/ads/reviews',
  access: 'write',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    keys: z.array(z.string().max(MOST_KEY)).min(1).max(MOST_TEXTS),
    state: z.enum(reviewStates),
    reason: text(500),
    /** Of refused ads: the fields whose texts were refused. */
    fields: z.array(z.enum(adFields)).max(30),
    /** The outlet by which it was said; null: by any. */
    outlet: outletKey.nullable().default(null),
  }),
  answer: revisionAnswer,
});

/** Refused texts with their reasons, the newest first. */
export const refusedTexts = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/refused-texts',
  access: 'read',
  reads: ['plan'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({
    texts: z.array(z.object({ text: z.string(), reason: z.string(), outlet: outletKey.nullable() })),
  }),
});

export const addressCheck = z.object({
  address: z.string(),
  /** How many ads lead there. */
  ads: count,
  /** Keyword rows that lead there by themselves. */
  keywords: count,
  /** null: not asked yet. */
  checkedAt: z.string().nullable(),
  /** What the server there answered; null where none did. */
  status: count.nullable(),
  title: z.string(),
  /** Where it was led on to; empty where it was not. */
  leadsTo: z.string(),
  /** Why it could not be asked, in words. */
  problem: z.string(),
});
export type AddressCheck = z.output<typeof addressCheck>;

export const MOST_ADDRESSES = 5_000;
/** The distinct addresses of all ads, those with a problem first. */
export const listAddresses = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/addresses',
  access: 'read',
  reads: ['built'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ builtRevision: count, total: count, addresses: z.array(addressCheck) }),
});

/** Asks each distinct address once, as a job. */
export const checkAddresses = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/addresses/check',
  access: 'write',
  changes: ['jobs'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ job: z.uuid() }),
});

/** A landing page's words, to write from. */
export const readLanding = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/landing',
  access: 'read',
  reads: ['built'],
  params: planParams,
  query: z.object({ address: z.string().max(2_000) }),
  body: nothing,
  answer: z.object({
    address: z.string(),
    status: count.nullable(),
    title: z.string(),
    parts: z.array(z.object({ kind: z.enum(['heading', 'text']), text: z.string() })),
    problem: z.string(),
  }),
});
export type Landing = z.output<(typeof readLanding)['answer']>;

/** What somebody noted of a rival's ad, beside an ad group, a theme with all below it, or (both null) the plan. */
export const rivalNoteBody = z.strictObject({
  theme: id.nullable(),
  group: groupKey.nullable(),
  /** Whose ad it is. */
  rival: text(120).refine((typed) => typed.trim() !== '', 'Say whose ad it is.'),
  text: text(4_000).refine((typed) => typed.trim() !== '', 'Paste the lines of the ad.'),
});
export type RivalNote = z.infer<typeof rivalNoteBody> & { id: number };
export const MOST_RIVAL_NOTES = 1_000;

export const listRivalNotes = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/rival-notes',
  access: 'read',
  reads: ['plan'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ notes: z.array(rivalNoteBody.extend({ id })) }),
});

/** `ban`: whether the rival's name is put among those that are not to be used, if it is not there. */
export const addRivalNote = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/rival-notes',
  access: 'write',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ note: rivalNoteBody, ban: z.boolean() }),
  answer: revisionAnswer.extend({ id }),
});

export const removeRivalNote = endpoint({
  method: 'DELETE',
  path: '/api/plans/:plan/rival-notes/:note',
  access: 'write',
  changes: ['plan'],
  params: planParams.extend({ note: idText }),
  query: nothing,
  body: nothing,
  answer: revisionAnswer,
});

/** Ads of others that a search would show, by the market. */
export const readRivals = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/rival-ads',
  access: 'read',
  reads: [],
  params: planParams,
  query: z.object({ search: z.string().max(400) }),
  body: nothing,
  answer: z.object({
    market: z.string(),
    ads: z.array(
      z.object({ host: z.string(), headlines: z.array(z.string()), descriptions: z.array(z.string()) }),
    ),
  }),
});
export type RivalAd = z.output<(typeof readRivals)['answer']>['ads'][number];
