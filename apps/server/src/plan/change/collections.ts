import type { Column } from '../../db/copy.ts';

/**
 * The inputs of a plan: every table that people's decisions are kept in. A change logs what it does to these and
 * to nothing else. Listed so that what is referred to comes before what refers to it.
 */
type Collection = {
  key: readonly string[];
  columns: readonly Column[];
  /** Shared rows belong to the workspace: the plan in which they are changed keeps the change. */
  scope?: 'workspace';
};

const flag = (name: string): Column => ({ name, type: 'bool' });
const int = (name: string): Column => ({ name, type: 'int4' });
const words = (name: string): Column => ({ name, type: 'text' });
const amount = (name: string): Column => ({ name, type: 'int8' });
const json = (name: string): Column => ({ name, type: 'jsonb' });
const places = (name: string): Column => ({ name, type: 'int2[]' });

const figures = [
  int('searches'),
  flag('searches_about'),
  amount('cpc'),
  flag('cpc_about'),
  int('competition'),
];

export const collections = {
  briefs: {
    key: ['id'],
    columns: [
      int('id'),
      words('name'),
      words('currency'),
      words('language'),
      words('site'),
      flag('archived'),
    ],
  },
  facts: { key: ['id'], columns: [int('id'), json('body')] },
  layouts: { key: ['id'], columns: [int('id'), json('body')] },
  ad_patterns: { key: ['id'], columns: [int('id'), int('position'), json('body')] },
  address_rules: { key: ['id'], columns: [int('id'), json('body')] },
  assets: { key: ['id'], columns: [int('id'), { name: 'at', type: 'text[]' }, json('body')] },
  ad_reviews: {
    key: ['id'],
    columns: [int('id'), words('ad_key'), words('state'), words('reason'), { name: 'texts', type: 'text[]' }],
  },
  outlets: {
    key: ['id'],
    columns: [int('id'), words('key'), json('body')],
    scope: 'workspace',
  },
  plan_outlets: {
    key: ['id'],
    columns: [int('id'), int('position'), words('outlet'), json('body')],
  },
  accepted_findings: {
    key: ['id'],
    columns: [int('id'), words('rule'), words('field'), words('outlet'), amount('facts'), words('reason')],
  },
  sources: {
    key: ['id'],
    columns: [
      int('id'),
      words('kind'),
      words('name'),
      { name: 'made_at', type: 'timestamptz' },
      int('actor_id'),
      int('lines'),
      int('repeated'),
      words('job_id'),
      words('figures_on'),
    ],
  },
  keywords: {
    key: ['id'],
    columns: [
      int('id'),
      words('text'),
      words('norm'),
      int('asked'),
      places('marks'),
      flag('cut'),
      ...figures,
      int('figures_from'),
      int('hand'),
      words('told_of'),
      amount('taken_cpc'),
      int('made_searches'),
      amount('made_cpc'),
      int('made_competition'),
      int('folded_into'),
      int('blocked_by'),
      flag('apart'),
    ],
  },
  mentions: {
    key: ['source_id', 'keyword_id'],
    columns: [
      int('source_id'),
      int('keyword_id'),
      int('line'),
      int('asked'),
      places('marks'),
      ...figures,
      json('extra'),
      words('told_of'),
    ],
  },
  dismissed_ideas: { key: ['id'], columns: [int('id'), words('norm')] },
  line_problems: {
    key: ['id'],
    columns: [
      int('id'),
      int('source_id'),
      int('line'),
      words('raw'),
      words('code'),
      int('at'),
      words('character'),
      flag('kept'),
    ],
  },
  negatives: {
    key: ['id'],
    columns: [
      int('id'),
      words('text'),
      words('norm'),
      words('match_type'),
      int('source_id'),
      words('level'),
      words('reason'),
    ],
  },
  word_verdicts: { key: ['id'], columns: [int('id'), words('text')] },
  shared_lists: {
    key: ['id'],
    columns: [int('id'), words('name'), words('about')],
    scope: 'workspace',
  },
  shared_negatives: {
    key: ['id'],
    columns: [int('id'), int('list_id'), words('text'), words('norm'), words('match_type')],
    scope: 'workspace',
  },
  recipes: {
    key: ['id'],
    columns: [int('id'), int('position'), int('source_id'), json('body')],
  },
  recipe_cuts: { key: ['id'], columns: [int('id'), int('recipe_id'), words('norm')] },
  word_lists: {
    key: ['id'],
    columns: [int('id'), words('name'), words('text'), { name: 'takes', type: 'int4[]' }],
    scope: 'workspace',
  },
  attached_lists: {
    key: ['id'],
    columns: [int('id'), int('list_id'), { name: 'campaigns', type: 'text[]' }],
  },
  themes: {
    key: ['id'],
    columns: [int('id'), int('parent_id'), int('position'), json('body')],
  },
  placed_by_hand: {
    key: ['keyword_id'],
    columns: [int('keyword_id'), int('theme_id'), words('stage')],
  },
  sort_settings: { key: ['id'], columns: [int('id'), json('body')] },
  placed_negatives: {
    key: ['id'],
    columns: [int('id'), words('place'), words('text'), words('norm'), words('match_type')],
  },
  setting_sets: { key: ['id'], columns: [int('id'), json('body')] },
  copies: { key: ['id'], columns: [int('id'), words('of'), json('body')] },
  holds: {
    key: ['id'],
    columns: [
      int('id'),
      words('row_key'),
      words('field'),
      words('outlet'),
      json('value'),
      json('rule_value'),
    ],
  },
} as const satisfies Record<string, Collection>;

export type CollectionName = keyof typeof collections;
export const collectionNames = Object.keys(collections) as CollectionName[];
export const collectionOf = (name: CollectionName): Collection => collections[name];

/** SQL's name of a column's type; `job_id` is a uuid that crosses as text. */
export const sqlType = ({ name, type }: Column): string => (name === 'job_id' ? 'uuid' : type);

/** The column that scopes a collection's rows. */
export const scopeOf = (name: CollectionName): 'plan_id' | 'workspace_id' =>
  collectionOf(name).scope === 'workspace' ? 'workspace_id' : 'plan_id';
