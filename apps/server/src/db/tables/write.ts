import type { RivalNote } from '@sprig/contracts';
import type { Status } from '@sprig/core/build';
import type { ExtraBody } from '@sprig/core/write';
import {
  amount,
  aside,
  documents,
  flag,
  holding,
  int,
  json,
  laterInFile,
  moment,
  optional,
  table,
  text,
  texts,
} from './define.ts';

export const adPatterns = table('ad_patterns', 'input', {
  key: ['id'],
  columns: {
    id: int,
    position: optional(int),
    body: json,
  },
});

export const addressRules = documents('address_rules');

export const extras = table('extras', 'input', {
  former: 'assets',
  key: ['id'],
  columns: {
    id: int,
    at: texts,
    body: holding<ExtraBody>(json),
    // The keys of the outlets that it is for; nothing: all.
    outlets: laterInFile(optional(texts)),
    // Nothing: it runs.
    status: laterInFile(optional(holding<Status>(text))),
  },
});

/** Ads of rivals that somebody noted. */
export const rivalNotes = table('rival_notes', 'input', {
  key: ['id'],
  columns: {
    id: int,
    body: holding<Omit<RivalNote, 'id'>>(json),
  },
});

export const adReviews = table('ad_reviews', 'input', {
  key: ['id'],
  columns: {
    id: int,
    ad_key: text,
    state: text,
    reason: text,
    texts: texts,
    // By which one it was said; nothing: by any.
    outlet: laterInFile(optional(text)),
  },
});

export const ads = table('ads', 'derived', {
  key: ['outlet', 'key'],
  columns: {
    key: text,
    outlet: text,
    hash: aside(amount),
    group_key: text,
    position: int,
    pattern_id: int,
    form: text,
    status: text,
    labels: texts,
    texts: texts,
    notation: optional(json),
    kept: optional(json),
    final_url: text,
    mobile_url: text,
    misfit: flag,
    relevance: int,
    problems: int,
  },
});

export const addressChecks = table('address_checks', 'record', {
  key: ['address'],
  columns: {
    address: text,
    status: optional(int),
    title: text,
    leads_to: text,
    problem: text,
    checked_at: moment,
  },
});
