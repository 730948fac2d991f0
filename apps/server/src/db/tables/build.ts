import type { Layout } from '@sprig/core/build';
import {
  amount,
  aside,
  documents,
  flag,
  given,
  holding,
  int,
  ints,
  json,
  optional,
  places,
  small,
  table,
  text,
  texts,
} from './define.ts';

export const layouts = documents('layouts', holding<Layout>(json));

export const placedNegatives = table('placed_negatives', 'input', {
  key: ['id'],
  columns: {
    id: int,
    place: text,
    text: text,
    norm: text,
    match_type: text,
  },
});

export const fencesOut = table('fences_out', 'input', {
  key: ['id'],
  columns: {
    id: int,
    place: text,
    norm: text,
    match_type: text,
    reason: text,
  },
});

/** Campaign settings that belong to the workspace; plans that have them keep a copy, which follows. */
export const sharedSettings = table('shared_settings', 'input', {
  scope: 'workspace',
  key: ['id'],
  columns: {
    id: int,
    body: json,
  },
});

export const settingSets = documents('setting_sets');

export const copies = table('copies', 'input', {
  key: ['id'],
  columns: {
    id: int,
    of: text,
    body: json,
  },
});

export const holds = table('holds', 'input', {
  key: ['id'],
  columns: {
    id: int,
    row_key: text,
    field: text,
    outlet: optional(text),
    value: json,
    rule_value: optional(json),
  },
});

export const campaigns = table('campaigns', 'derived', {
  key: ['key'],
  columns: {
    key: text,
    hash: aside(amount),
    position: int,
    name: text,
    daily_budget: amount,
    status: text,
    labels: texts,
    settings_id: optional(int),
    lane: optional(int),
    place: optional(text),
    covered: optional(json),
  },
});

export const adGroups = table('ad_groups', 'derived', {
  key: ['key'],
  columns: {
    key: text,
    hash: aside(amount),
    campaign_key: text,
    kind: text,
    theme_id: int,
    position: int,
    keyword_id: int,
    keyword: text,
    name: text,
    keywords: int,
    rows: int,
    searches: optional(int),
    base: amount,
    base_from: text,
    step: int,
    status: text,
    labels: texts,
    lane: optional(int),
    place: optional(text),
    stage: optional(text),
    covered: optional(json),
    findings: optional(json),
    takes_ads: given(flag),
    made_of: amount,
  },
});

export const keywordRows = table('keyword_rows', 'derived', {
  key: ['key'],
  columns: {
    key: text,
    hash: aside(amount),
    group_key: text,
    position: int,
    keyword_id: int,
    text: text,
    type: small,
    marks: places,
    base: amount,
    steps: ints,
    held_bid: optional(amount),
    held_url: optional(text),
    rule_url: optional(text),
    bid: amount,
    status: text,
    labels: texts,
  },
});

export const fences = table('fences', 'derived', {
  key: ['key'],
  columns: {
    key: text,
    hash: aside(amount),
    texts: texts,
    phrases: places,
    keepers: texts,
  },
});

export const buildStates = table('build_states', 'derived', {
  key: [],
  columns: {
    fenced_for: amount,
    fences: optional(json),
    summary: optional(json),
  },
});
