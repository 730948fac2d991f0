import type { AuditKind, ClientView, Permission, PlanRole, Role } from '@sprig/contracts';
import {
  amount,
  bytes,
  day,
  flag,
  given,
  holding,
  int,
  json,
  moment,
  optional,
  table,
  text,
  texts,
} from './define.ts';

/** Who has an account, whatever workspaces they are in. */
export const people = table('people', 'record', {
  scope: 'none',
  key: ['id'],
  columns: {
    id: given(int),
    email: text,
    name: text,
    password: optional(text),
    is_demo: given(flag),
    totp_secret: optional(bytes),
    totp_since: optional(moment),
    totp_step: given(amount),
    recovery_codes: given(texts),
    made_at: given(moment),
  },
});

export const workspaces = table('workspaces', 'record', {
  scope: 'none',
  key: ['id'],
  columns: {
    id: given(int),
    name: text,
    asks_acceptance: given(flag),
  },
});

export const actors = table('actors', 'record', {
  scope: 'workspace',
  identity: 'own',
  key: ['id'],
  columns: {
    id: given(int),
    name: text,
    preferences: given(json),
    person_id: optional(int),
    role: holding<Role>(text),
    permissions: given(holding<readonly Permission[]>(texts)),
    joined_at: given(moment),
    removed_at: optional(moment),
  },
  refers: { person_id: 'people' },
});

export const plans = table('plans', 'record', {
  scope: 'workspace',
  identity: 'own',
  key: ['id'],
  columns: {
    id: given(int),
    created_by: int,
    created_at: given(moment),
    changed_at: given(moment),
    revision: given(int),
    built_revision: given(int),
    next_id: given(int),
    built_day: optional(day),
  },
  refers: { created_by: 'actors' },
});

/** Where somebody may do more or less at one plan than in the workspace. */
export const planRoles = table('plan_roles', 'record', {
  key: ['actor_id'],
  columns: { actor_id: int, role: holding<PlanRole | 'none'>(text) },
  refers: { actor_id: 'actors' },
});

export const sessions = table('sessions', 'record', {
  scope: 'none',
  key: ['key'],
  columns: {
    key: text,
    person_id: optional(int),
    workspace_id: optional(int),
    body: json,
    agent: text,
    address: text,
    began_at: given(moment),
    seen_at: given(moment),
    ends_at: moment,
  },
  refers: { person_id: 'people', workspace_id: 'workspaces' },
});

/** Links of mails, that work once. */
export const links = table('links', 'record', {
  scope: 'none',
  key: ['id'],
  columns: {
    id: given(int),
    key: text,
    kind: holding<'owner' | 'invitation' | 'reset'>(text),
    email: optional(text),
    person_id: optional(int),
    workspace_id: optional(int),
    made_by: optional(int),
    body: given(json),
    made_at: given(moment),
    ends_at: moment,
    used_at: optional(moment),
  },
  refers: { person_id: 'people', workspace_id: 'workspaces', made_by: 'actors' },
});

/** By which programs ask, each as an actor of its own. */
export const tokens = table('tokens', 'record', {
  scope: 'workspace',
  identity: 'own',
  key: ['id'],
  columns: {
    id: given(int),
    actor_id: int,
    key: text,
    plan_id: optional(int),
    made_by: int,
    made_at: given(moment),
    used_at: optional(moment),
    ends_at: moment,
    ended_at: optional(moment),
  },
  refers: { actor_id: 'actors', made_by: 'actors', plan_id: 'plans' },
});

/** By which a client reads one plan. */
export const clientLinks = table('client_links', 'record', {
  identity: 'own',
  key: ['id'],
  columns: {
    id: given(int),
    key: text,
    name: text,
    body: holding<ClientView>(json),
    made_by: int,
    made_at: given(moment),
    ends_at: moment,
    ended_at: optional(moment),
    read_at: optional(moment),
    times_read: given(int),
  },
  refers: { made_by: 'actors' },
});

/** The stand-in mailbox. */
export const mails = table('mails', 'record', {
  scope: 'none',
  key: ['id'],
  columns: { id: given(int), recipient: text, subject: text, body: text, sent_at: given(moment) },
});

/** Of the package that counts attempts. */
export const attempts = table('attempts', 'record', {
  scope: 'none',
  key: ['key'],
  columns: { key: text, points: given(int), expire: optional(amount) },
});

export const auditEntries = table('audit_entries', 'record', {
  scope: 'none',
  key: ['id'],
  columns: {
    id: given(amount),
    workspace_id: optional(int),
    at: given(moment),
    kind: holding<AuditKind>(text),
    person_id: optional(int),
    name: optional(text),
    about: text,
    address: text,
  },
  refers: { workspace_id: 'workspaces' },
});

/** Rules of plans that are kept for others to begin with. */
export const outsets = table('outsets', 'record', {
  scope: 'workspace',
  identity: 'own',
  key: ['id'],
  columns: {
    id: given(int),
    name: text,
    made_of: text,
    parts: texts,
    body: json,
    is_default: given(flag),
    kept_at: given(moment),
    removed_at: optional(moment),
  },
});
