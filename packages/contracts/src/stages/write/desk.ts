import { z } from 'zod';
import { count, id, nothing, planParams, text } from '../../common.ts';
import { endpoint } from '../../endpoint.ts';
import { groupKey } from '../build/keys.ts';
import { isoDay } from '../learn.ts';

/**
 * How the ads of an ad group stand: `open`: nobody has handed them over; `handed`: they wait for a look; `accepted`; `back`: sent
 * back with a reason. Where ads have changed since they were accepted or handed over, they are open again.
 */
export const deskStates = ['open', 'handed', 'accepted', 'back'] as const;
export type DeskState = (typeof deskStates)[number];

/** `todo`: what a writer has to do something about; the others by state. */
export const deskOnly = ['todo', 'mine', 'handed', 'back', 'accepted', 'all'] as const;
export type DeskOnly = (typeof deskOnly)[number];
export const DESK_PAGE = 100;

const deskGroup = z.object({
  key: z.string(),
  name: z.string(),
  campaign: z.string(),
  keyword: z.string(),
  searches: count.nullable(),
  ads: count,
  /** Ads with a field that nothing fits. */
  misfits: count,
  state: z.enum(deskStates),
  /** Was handed over or accepted, and says something else now. */
  hasChanged: z.boolean(),
  /** A hash of what its ads say; empty: it has none. */
  stamp: z.string(),
  /** Why it was sent back. */
  reason: z.string(),
  by: z.string().nullable(),
  at: z.string().nullable(),
  /** The open note by which the group was given to somebody, the nearest. */
  given: z
    .object({
      note: id,
      actor: id,
      name: z.string(),
      due: isoDay.nullable(),
      text: z.string(),
      isYou: z.boolean(),
    })
    .nullable(),
});
export type DeskGroup = z.infer<typeof deskGroup>;

const deskQuery = z.object({
  only: z.enum(deskOnly).default('todo'),
  filter: z.string().max(200).default(''),
});

/** Ad groups whose ads somebody has to do something about: those given to who asks first, then what was sent back, lacks ads, or does not fit. */
export const listDesk = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/desk',
  access: 'read',
  reads: ['plan', 'built', 'work', 'people'],
  params: planParams,
  query: deskQuery.extend({ from: z.coerce.number().int().min(0).max(1_000_000).default(0) }),
  body: nothing,
  answer: z.object({
    groups: z.array(deskGroup),
    total: count,
    counts: z.record(z.enum(deskOnly), count),
    /** Whether nothing ships that nobody has accepted. */
    asksAcceptance: z.boolean(),
    builtRevision: count,
    today: isoDay,
  }),
});

/**
 * Which ad groups: some by their keys, each with the stamp of the ads that were seen, or all that a list of the desk has.
 */
const which = z.union([
  z.strictObject({
    groups: z
      .array(z.strictObject({ key: groupKey, stamp: z.string().max(64) }))
      .min(1)
      .max(20_000),
  }),
  z.strictObject({ all: deskQuery }),
]);
export type WhichGroups = z.output<typeof which>;

const moved = z.object({
  moved: count,
  /** Left as they were: they have no ads, ads that do not fit, or ads that say something else than was seen. */
  left: count,
});
export type Moved = z.output<typeof moved>;

/** Hands ads over for a look, or takes that back. */
export const handOver = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/desk/hand-over',
  access: 'write',
  changes: ['work'],
  params: planParams,
  query: nothing,
  body: z.strictObject({ which, state: z.enum(['handed', 'open']) }),
  answer: moved,
});

/** Accepts ads, sends them back with a reason, or takes that back. Of all that a list has, only what was handed over is accepted or sent back. */
export const judgeAds = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/desk/judge',
  access: 'approve',
  changes: ['work'],
  params: planParams,
  query: nothing,
  body: z
    .strictObject({
      which,
      state: z.enum(['accepted', 'back', 'open']),
      reason: text(2_000).default(''),
    })
    .refine(({ state, reason }) => state !== 'back' || reason.trim() !== '', {
      message: 'Say what is to be changed.',
      path: ['reason'],
    }),
  answer: moved,
});
