import { z } from 'zod';
import { permissions, roles } from '../access.ts';
import { count, id, nothing, text } from '../common.ts';
import { endpoint } from '../endpoint.ts';

/** As it is kept: without blanks around it, in small letters. */
export const emailSchema = text(254)
  .transform((email) => email.trim().toLowerCase())
  .refine(
    (email) => /^[^\s@<>"(),:;[\]\\]{1,64}@[^\s@<>"(),:;[\]\\]+\.[^\s@<>"(),:;[\]\\.]{2,}$/.test(email),
    {
      message: 'That is no e-mail address. Write it like ada@shop.example.',
    },
  );

/** Characters of a new password: fewer are guessed, and more are no safer. */
export const LEAST_PASSWORD = 12;
export const MOST_PASSWORD = 256;
export const newPassword = text(MOST_PASSWORD).refine(
  (password) => [...password].length >= LEAST_PASSWORD,
  `A password needs ${LEAST_PASSWORD} characters at least. Several words are easy to keep in mind.`,
);
/** One that is told again. It is refused as a wrong one, whatever it looks like. */
const toldPassword = text(MOST_PASSWORD);
export const personName = text(80)
  .transform((name) => name.trim().replace(/\s+/g, ' '))
  .refine((name) => name !== '', 'Say a name by which others know you.');
export const workspaceName = text(80)
  .transform((name) => name.trim().replace(/\s+/g, ' '))
  .refine((name) => name !== '', 'A workspace needs a name.');

/** What a link carries: 32 bytes as letters that stand in an address. */
export const linkToken = z
  .string()
  .regex(/^[\w-]{43}$/, 'This link is not whole. Copy all of it from the mail.');
/** Of an authenticator, or one of those that are kept for when it is lost. */
const code = text(40).transform((typed) => typed.replace(/[\s-]/g, '').toLowerCase());

const demoPerson = z.object({
  id,
  name: z.string(),
  role: z.enum(roles),
  permissions: z.array(z.enum(permissions)),
});

/** What may be done at the door, before one is known. */
export const readDoor = endpoint({
  method: 'GET',
  path: '/api/door',
  access: 'open',
  reads: ['own'],
  params: nothing,
  query: nothing,
  body: nothing,
  answer: z.object({
    /** `code`: the password was right, and a second factor is asked for. `nowhere`: signed in, but in no workspace any more. */
    stands: z.enum(['outside', 'code', 'in', 'nowhere']),
    /** Nobody has an account yet: the first one makes the owner. */
    isFirst: z.boolean(),
    /** People of the demo, who come in by one click; null where there is no demo, or this is not the machine that runs it. */
    demo: z.array(demoPerson).nullable(),
    /** Whether mails leave this server; else links are handed on by whoever makes them. */
    sendsMail: z.boolean(),
  }),
});

/** `in`: one is signed in. `code`: a second factor is asked for. */
const stepIn = z.object({ next: z.enum(['in', 'code']) });

export const signIn = endpoint({
  method: 'POST',
  path: '/api/door/sign-in',
  access: 'open',
  changes: ['own'],
  params: nothing,
  query: nothing,
  body: z.strictObject({
    email: text(254).transform((email) => email.trim().toLowerCase()),
    password: toldPassword,
  }),
  answer: stepIn,
});

/** The second factor, after the password. */
export const signInByCode = endpoint({
  method: 'POST',
  path: '/api/door/code',
  access: 'open',
  changes: ['own'],
  params: nothing,
  query: nothing,
  body: z.strictObject({ code }),
  answer: stepIn,
});

/** Comes in as one of the people of the demo. */
export const enterDemo = endpoint({
  method: 'POST',
  path: '/api/door/demo',
  access: 'open',
  changes: ['own'],
  params: nothing,
  query: nothing,
  body: z.strictObject({ person: id }),
  answer: stepIn,
});

/** Ends the session, or gives up a sign-in that is half done. */
export const signOut = endpoint({
  method: 'POST',
  path: '/api/door/sign-out',
  access: 'open',
  changes: ['own'],
  params: nothing,
  query: nothing,
  body: nothing,
  answer: nothing,
});

/** The first visitor makes the owner, by the link that the start command printed. */
export const makeOwner = endpoint({
  method: 'POST',
  path: '/api/door/first',
  access: 'open',
  changes: ['own'],
  params: nothing,
  query: nothing,
  body: z.strictObject({
    token: linkToken,
    name: personName,
    email: emailSchema,
    password: newPassword,
    workspace: workspaceName,
  }),
  answer: stepIn,
});

/** Asks for a link by which a new password is set. The answer is the same whether the address is known or not. */
export const forgetPassword = endpoint({
  method: 'POST',
  path: '/api/door/forgotten',
  access: 'open',
  changes: [],
  params: nothing,
  query: nothing,
  body: z.strictObject({ email: emailSchema }),
  answer: nothing,
});

/** What a link of a mail is for. */
export const readLink = endpoint({
  method: 'POST',
  path: '/api/door/link',
  access: 'open',
  reads: [],
  changes: [],
  params: nothing,
  query: nothing,
  body: z.strictObject({ token: linkToken }),
  answer: z.object({
    kind: z.enum(['invitation', 'reset']),
    email: z.string(),
    /** Of an invitation. */
    workspace: z.string().nullable(),
    from: z.string().nullable(),
    role: z.enum(roles).nullable(),
    /** Whether the address has an account already, whose password is asked for then. */
    isKnown: z.boolean(),
  }),
});

/** Accepts an invitation: with a new account, or with the one that the address has. */
export const acceptInvitation = endpoint({
  method: 'POST',
  path: '/api/door/invitation',
  access: 'open',
  changes: ['own'],
  params: nothing,
  query: nothing,
  body: z.strictObject({ token: linkToken, name: personName.nullable(), password: toldPassword }),
  answer: stepIn,
});

/** Sets a new password by a link; all sessions end. */
export const resetPassword = endpoint({
  method: 'POST',
  path: '/api/door/reset',
  access: 'open',
  changes: ['own'],
  params: nothing,
  query: nothing,
  body: z.strictObject({ token: linkToken, password: newPassword }),
  answer: nothing,
});

/** Mails that the stand-in mailbox has, newest first; of the demo, on the machine that runs it. */
export const readMailbox = endpoint({
  method: 'GET',
  path: '/api/door/mailbox',
  access: 'open',
  reads: ['people', 'own'],
  params: nothing,
  query: nothing,
  body: nothing,
  answer: z.object({
    mails: z.array(
      z.object({ id, to: z.string(), subject: z.string(), text: z.string(), sentAt: z.string() }),
    ),
  }),
});

export const changeMyName = endpoint({
  method: 'PATCH',
  path: '/api/me/name',
  access: 'self',
  changes: ['own', 'people'],
  params: nothing,
  query: nothing,
  body: z.strictObject({ name: personName }),
  answer: nothing,
});

/** All other sessions end with it. */
export const changePassword = endpoint({
  method: 'POST',
  path: '/api/me/password',
  access: 'self',
  changes: ['own'],
  params: nothing,
  query: nothing,
  body: z.strictObject({ now: toldPassword, next: newPassword }),
  answer: nothing,
});

export const chooseWorkspace = endpoint({
  method: 'POST',
  path: '/api/me/workspace',
  access: 'self',
  changes: ['own', 'plans', 'people'],
  params: nothing,
  query: nothing,
  body: z.strictObject({ workspace: id }),
  answer: nothing,
});

/** Begins to set up a second factor; it counts once a code of it was told. */
export const beginSecondFactor = endpoint({
  method: 'POST',
  path: '/api/me/second-factor',
  access: 'self',
  changes: ['own'],
  params: nothing,
  query: nothing,
  body: z.strictObject({ password: toldPassword }),
  /** `uri`: what an authenticator reads of the picture. */
  answer: z.object({ secret: z.string(), uri: z.string() }),
});

export const confirmSecondFactor = endpoint({
  method: 'POST',
  path: '/api/me/second-factor/confirm',
  access: 'self',
  changes: ['own'],
  params: nothing,
  query: nothing,
  body: z.strictObject({ code }),
  /** Each works once, where the authenticator is lost. They are shown this once. */
  answer: z.object({ recoveryCodes: z.array(z.string()) }),
});

export const endSecondFactor = endpoint({
  method: 'POST',
  path: '/api/me/second-factor/end',
  access: 'self',
  changes: ['own'],
  params: nothing,
  query: nothing,
  body: z.strictObject({ password: toldPassword }),
  answer: nothing,
});

export const sessionView = z.object({
  id: z.string(),
  isThis: z.boolean(),
  /** What the browser calls itself, and from where it came. */
  agent: z.string(),
  address: z.string(),
  beganAt: z.string(),
  seenAt: z.string(),
  endsAt: z.string(),
});
export type SessionView = z.infer<typeof sessionView>;

export const listSessions = endpoint({
  method: 'GET',
  path: '/api/me/sessions',
  access: 'self',
  reads: ['own'],
  params: nothing,
  query: nothing,
  body: nothing,
  answer: z.object({ sessions: z.array(sessionView) }),
});

/** Ends one of one's own sessions, or all but this. */
export const endSessions = endpoint({
  method: 'POST',
  path: '/api/me/sessions/end',
  access: 'self',
  changes: ['own'],
  params: nothing,
  query: nothing,
  body: z.strictObject({ session: z.string().max(100).nullable() }),
  answer: z.object({ ended: count }),
});
