import type { Finding } from '@sprig/core/findings';
import {
  amount,
  aside,
  bytes,
  day,
  flag,
  given,
  holding,
  int,
  ints,
  json,
  laterInFile,
  moment,
  notInFile,
  optional,
  table,
  text,
  uuid,
} from './define.ts';

export const outlets = table('outlets', 'input', {
  scope: 'workspace',
  key: ['id'],
  columns: {
    id: int,
    key: text,
    body: json,
  },
});

export const planOutlets = table('plan_outlets', 'input', {
  key: ['id'],
  columns: {
    id: int,
    position: int,
    outlet: text,
    body: json,
  },
});

export const acceptedFindings = table('accepted_findings', 'input', {
  key: ['id'],
  columns: {
    id: int,
    rule: text,
    field: optional(text),
    outlet: optional(text),
    facts: amount,
    reason: text,
    // Who, by name, and when; nothing: from before it was kept.
    by: laterInFile(optional(text)),
    at: laterInFile(optional(text)),
  },
});

export const outletGroups = table('outlet_groups', 'derived', {
  key: ['outlet', 'key'],
  columns: {
    key: text,
    outlet: text,
    hash: aside(amount),
    position: int,
    campaign_key: text,
    campaign: text,
    part: int,
    name: text,
    bid: amount,
  },
});

export const findings = table('findings', 'derived', {
  key: ['outlet', 'n'],
  columns: {
    outlet: text,
    n: int,
    severity: text,
    body: holding<Finding>(json),
  },
});

export const shipChecks = table('ship_checks', 'derived', {
  key: ['outlet'],
  columns: {
    outlet: text,
    revision: int,
    made_of: amount,
    body: json,
  },
});

/** Findings of a look of which more is there than is shown at first. */
export const findingLists = table('finding_lists', 'derived', {
  key: ['outlet', 'rule', 'field'],
  columns: {
    outlet: text,
    rule: text,
    // Empty: it speaks of none.
    field: text,
    body: holding<Finding['samples']>(json),
  },
});

export const sheetSets = table('sheet_sets', 'record', {
  identity: 'own',
  key: ['id'],
  columns: {
    id: notInFile(uuid),
    actor_id: notInFile(int),
    outlet: text,
    n: int,
    revision: int,
    created_at: given(moment),
    what: text,
    format: text,
    note: given(text),
    state: given(text),
    hash: given(text),
    profile: json,
    counts: given(json),
    files: given(json),
    budget_changes: given(int),
    answer: optional(json),
    part: laterInFile(optional(json)),
    // The values that the cells of its rows stand for, by kind; nothing: from before it was kept.
    told: laterInFile(optional(json)),
    // How often it was judged: what it made known is told anew then.
    judged: notInFile(given(int)),
  },
  refers: { actor_id: 'actors' },
});

export const sheetParts = table('sheet_parts', 'record', {
  scope: 'none',
  key: ['set_id', 'file', 'n'],
  columns: {
    set_id: uuid,
    file: text,
    n: int,
    data: bytes,
  },
  refers: { set_id: 'sheet_sets' },
});

export const outletStates = table('outlet_states', 'record', {
  scope: 'none',
  key: ['set_id', 'n'],
  columns: {
    set_id: notInFile(uuid),
    n: int,
    data: bytes,
  },
  refers: { set_id: 'sheet_sets' },
});

export const refusedRows = table('refused_rows', 'record', {
  identity: 'own',
  scope: 'workspace',
  key: ['set_id', 'n'],
  columns: {
    set_id: notInFile(uuid),
    n: int,
    row_key: text,
    file: text,
    line: int,
    reason: text,
  },
  refers: { set_id: 'sheet_sets' },
});

export const knownSets = table('known_sets', 'record', {
  scope: 'none',
  key: ['set_id'],
  columns: {
    set_id: uuid,
    told: text,
    campaigns: json,
    starts: ints,
  },
  refers: { set_id: 'sheet_sets' },
});

export const knownRows = table('known_rows', 'record', {
  scope: 'none',
  key: ['set_id', 'n'],
  columns: {
    set_id: uuid,
    n: int,
    data: bytes,
  },
  refers: { set_id: 'known_sets' },
});

export const shippedNames = table('shipped_names', 'record', {
  key: ['outlet', 'campaign', 'name'],
  columns: {
    outlet: text,
    campaign: text,
    name: text,
    key: text,
  },
});

export const shippedAds = table('shipped_ads', 'record', {
  key: ['outlet', 'group_key', 'name'],
  columns: {
    outlet: text,
    group_key: text,
    name: text,
    ad: text,
  },
});

export const standInAccounts = table('stand_in_accounts', 'record', {
  key: ['outlet'],
  columns: {
    outlet: text,
    data: bytes,
  },
});

/** Days that a simulated account has run; the account as it was stands with the first day of each run. */
export const standInDays = table('stand_in_days', 'record', {
  key: ['outlet', 'day'],
  columns: {
    outlet: text,
    day,
    run: day,
    data: bytes,
  },
});

export const readBacks = table('read_backs', 'record', {
  identity: 'own',
  key: ['id'],
  columns: {
    id: uuid,
    created_at: given(moment),
    revision: int,
    body: json,
    taken_by: optional(uuid),
    result: optional(json),
  },
});

export const readBackRows = table('read_back_rows', 'record', {
  scope: 'none',
  key: ['read_back_id', 'n'],
  columns: {
    read_back_id: uuid,
    n: int,
    kind: text,
    change: text,
    taken: flag,
    campaign: given(text),
    body: text,
  },
  refers: { read_back_id: 'read_backs' },
});

/** Every row that an outlet would get, as it was looked at last. */
export const rowLooks = table('row_looks', 'record', {
  key: ['outlet'],
  columns: { outlet: text, made_of: amount, body: json },
});

export const rowLookParts = table('row_look_parts', 'record', {
  key: ['outlet', 'kind', 'n'],
  columns: { outlet: text, kind: text, n: int, data: bytes },
});
