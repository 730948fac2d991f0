import { z } from 'zod';
import { permissions, planRoles, roles } from '../access.ts';
import { count, id, idText, nothing, planParams, text } from '../common.ts';
import { endpoint, rawEndpoint } from '../endpoint.ts';
import { emailSchema, personName, workspaceName } from './door.ts';

const role = z.enum(roles);
const permissionSet = z
  .array(z.enum(permissions))
  .max(permissions.length)
  .transform((list) => permissions.filter((one) => list.includes(one)));
const actorParams = z.object({ actor: idText });

export const memberView = z.object({
  actor: id,
  name: z.string(),
  /** For owners, and of oneself. */
  email: z.string().nullable(),
  role,
  permissions: z.array(z.enum(permissions)),
  /** For owners. */
  hasSecondFactor: z.boolean().nullable(),
  lastSeenAt: z.string().nullable(),
  isYou: z.boolean(),
});
export type MemberView = z.infer<typeof memberView>;

export const invitationView = z.object({
  id,
  email: z.string(),
  role,
  permissions: z.array(z.enum(permissions)),
  from: z.string(),
  endsAt: z.string(),
});
export type InvitationView = z.infer<typeof invitationView>;

export const listPeople = endpoint({
  method: 'GET',
  path: '/api/people',
  access: 'read',
  reads: ['people'],
  params: nothing,
  query: nothing,
  body: nothing,
  answer: z.object({
    workspace: z.string(),
    members: z.array(memberView),
    /** Whether ads ship only once somebody has accepted them. */
    asksAcceptance: z.boolean(),
    /** Of which nobody has come yet; for owners. */
    invitations: z.array(invitationView),
  }),
});

export const renameWorkspace = endpoint({
  method: 'PATCH',
  path: '/api/people/workspace',
  access: 'people',
  changes: ['people', 'own'],
  params: nothing,
  query: nothing,
  body: z.strictObject({ name: workspaceName }),
  answer: nothing,
});

/** Says whether ads ship only once somebody has accepted them. */
export const askAcceptance = endpoint({
  method: 'PATCH',
  path: '/api/people/acceptance',
  access: 'people',
  changes: ['people', 'own', 'work'],
  params: nothing,
  query: nothing,
  body: z.strictObject({ asks: z.boolean() }),
  answer: nothing,
});

/** How long an invitation can be accepted, in days. */
export const INVITATION_DAYS = 7;

/**
 * Sends an invitation by mail; where no mail leaves the server the link is answered, to be handed on. An invitation that the
 * address had before ends.
 */
export const invitePerson = endpoint({
  method: 'POST',
  path: '/api/people/invitations',
  access: 'people',
  changes: ['people'],
  params: nothing,
  query: nothing,
  /** `plans`: those that a guest sees, with a role each. */
  body: z.strictObject({
    email: emailSchema,
    role,
    permissions: permissionSet,
    plans: z
      .array(z.strictObject({ plan: id, role: z.enum(planRoles) }))
      .max(1_000)
      .default([]),
  }),
  answer: z.object({ id, link: z.string().nullable() }),
});

export const takeBackInvitation = endpoint({
  method: 'DELETE',
  path: '/api/people/invitations/:invitation',
  access: 'people',
  changes: ['people'],
  params: z.object({ invitation: idText }),
  query: nothing,
  body: nothing,
  answer: nothing,
});

/** `before` is what the owner saw, so that two never write over each other. */
export const changeMember = endpoint({
  method: 'PATCH',
  path: '/api/people/:actor',
  access: 'people',
  changes: ['people', 'own'],
  params: actorParams,
  query: nothing,
  body: z.strictObject({
    before: z.strictObject({ role, permissions: permissionSet }),
    after: z.strictObject({ role, permissions: permissionSet }),
  }),
  answer: nothing,
});

export const removeMember = endpoint({
  method: 'DELETE',
  path: '/api/people/:actor',
  access: 'people',
  changes: ['people', 'own'],
  params: actorParams,
  query: nothing,
  body: nothing,
  answer: nothing,
});

/** Who sees a plan, and may do what with it. */
export const listPlanPeople = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/people',
  access: 'read',
  reads: ['people'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({
    people: z.array(
      z.object({
        actor: id,
        name: z.string(),
        /** In the workspace. */
        role,
        /** At this plan where it differs; `none`: the plan is not shown to them. */
        here: z.enum([...planRoles, 'none']).nullable(),
      }),
    ),
  }),
});

export const setPlanRole = endpoint({
  method: 'PATCH',
  path: '/api/plans/:plan/people/:actor',
  access: 'people',
  changes: ['people'],
  params: planParams.extend({ actor: idText }),
  query: nothing,
  body: z.strictObject({ here: z.enum([...planRoles, 'none']).nullable() }),
  answer: nothing,
});

/**
 * Says that one has the plan open, at which stage, and in which field one writes. It is kept nowhere: whoever has it open too is
 * told. A window that says so often sends the same body over a socket (`HERE_SOCKET`).
 */
export const announceHere = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/here',
  access: 'read',
  changes: [],
  params: planParams,
  query: nothing,
  body: z.strictObject({
    place: z.string().regex(/^[a-z]{0,20}$/, 'A stage is named by its address.'),
    /** As it is called there; empty: in none. */
    field: text(300).default(''),
  }),
  answer: nothing,
});

/**
 * Where a window opens a socket to say where it is, with `?stream=` and what its stream of events was told (`listening`). It is
 * taken as long as that stream is open.
 */
export const HERE_SOCKET = '/api/here';

/** How a token begins, so that it is seen for what it is where it stands. */
export const TOKEN_PREFIX = 'sprig_';
const MOST_TOKEN_DAYS = 366;

const tokenView = z.object({
  id,
  name: z.string(),
  /** In the workspace, or at its plan. */
  role: z.enum(planRoles),
  permissions: z.array(z.enum(permissions)),
  /** The only plan that it sees; null: all. */
  plan: z.object({ id, name: z.string() }).nullable(),
  from: z.string(),
  madeAt: z.string(),
  usedAt: z.string().nullable(),
  endsAt: z.string(),
});
export type TokenView = z.infer<typeof tokenView>;

/** Tokens by which programs ask, those that work. */
export const listTokens = endpoint({
  method: 'GET',
  path: '/api/people/tokens',
  access: 'people',
  reads: ['people'],
  params: nothing,
  query: nothing,
  body: nothing,
  answer: z.object({ tokens: z.array(tokenView) }),
});

/** Makes a token; it is answered this once. */
export const makeToken = endpoint({
  method: 'POST',
  path: '/api/people/tokens',
  access: 'people',
  changes: ['people'],
  params: nothing,
  query: nothing,
  body: z.strictObject({
    name: personName,
    role: z.enum(planRoles),
    permissions: permissionSet,
    plan: id.nullable().default(null),
    days: z.number().int().min(1).max(MOST_TOKEN_DAYS, `A token works for ${MOST_TOKEN_DAYS} days at most.`),
  }),
  answer: z.object({ id, token: z.string() }),
});

export const endToken = endpoint({
  method: 'DELETE',
  path: '/api/people/tokens/:token',
  access: 'people',
  changes: ['people'],
  params: z.object({ token: idText }),
  query: nothing,
  body: nothing,
  answer: nothing,
});

/** What the audit trail keeps. */
export const auditKinds = [
  'signed-in',
  'sign-in-failed',
  'signed-out',
  'sessions-ended',
  'password-changed',
  'password-reset-asked',
  'password-reset',
  'second-factor-on',
  'second-factor-off',
  'recovery-code-used',
  'owner-made',
  'invited',
  'invitation-taken-back',
  'joined',
  'role-changed',
  'plan-role-changed',
  'removed',
  'workspace-renamed',
  'token-made',
  'token-ended',
  'client-link-made',
  'client-link-ended',
  'acceptance-asked',
  'downloaded',
] as const;
export type AuditKind = (typeof auditKinds)[number];

export const auditEntry = z.object({
  id,
  at: z.string(),
  kind: z.enum(auditKinds),
  /** Who did it; null: nobody who is known. */
  name: z.string().nullable(),
  /** What about, in words. */
  about: z.string(),
  address: z.string(),
});
export type AuditEntry = z.infer<typeof auditEntry>;

export const AUDIT_PAGE = 100;

/** What happened around sign-ins, roles and downloads, newest first. */
export const readAudit = endpoint({
  method: 'GET',
  path: '/api/people/audit',
  access: 'people',
  reads: ['people', 'own'],
  params: nothing,
  /** `before`: the entry below which to go on. */
  query: z.object({
    before: idText.optional(),
    kind: z.enum(auditKinds).optional(),
  }),
  body: nothing,
  answer: z.object({ entries: z.array(auditEntry), total: count }),
});

export const saveAudit = rawEndpoint({
  method: 'GET',
  path: '/api/people/audit/file',
  access: 'people',
  params: nothing,
  query: nothing,
  takes: null,
  answers: 'text/csv',
});
