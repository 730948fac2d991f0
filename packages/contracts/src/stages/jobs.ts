import { z } from 'zod';
import type { Access } from '../access.ts';
import { count, id, nothing, planParams } from '../common.ts';
import { endpoint } from '../endpoint.ts';
import { failureSchema } from '../failure.ts';

export const jobKinds = [
  'addresses',
  'follow',
  'import',
  'mix',
  'rebuild',
  'ship',
  'check',
  'part-look',
  'row-look',
  'hand-in',
  'read-back',
  'reports',
  'take-back',
  'sort',
  'site',
  'traffic',
] as const;
export type JobKind = (typeof jobKinds)[number];

/**
 * What whoever asked for a job must be allowed to do as long as it goes on; null: it keeps nothing that a person decides, and
 * goes on whoever asked.
 */
export const jobNeeds: Readonly<Record<JobKind, Access | null>> = {
  addresses: null,
  follow: null,
  import: 'build',
  // It follows an input that was kept already, maybe one that plans share.
  mix: null,
  rebuild: null,
  ship: 'ship',
  check: null,
  'part-look': null,
  'row-look': null,
  'hand-in': 'ship',
  'read-back': null,
  reports: null,
  'take-back': 'build',
  sort: 'build',
  site: 'build',
  traffic: 'ship',
};

export const jobSchema = z.object({
  id: z.uuid(),
  plan: id,
  kind: z.enum(jobKinds),
  status: z.enum(['queued', 'running', 'done', 'failed', 'stopped']),
  /** What is being done, in a word or two. */
  phase: z.string(),
  done: count,
  /** 0: not known yet. */
  total: count,
  result: z.unknown(),
  failure: failureSchema.nullable(),
});
export type Job = z.infer<typeof jobSchema>;

const jobParams = planParams.extend({ job: z.uuid() });

export const readJob = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/jobs/:job',
  access: 'read',
  reads: ['jobs'],
  params: jobParams,
  query: nothing,
  body: nothing,
  answer: jobSchema,
});

export const stopJob = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/jobs/:job/stop',
  access: 'build',
  changes: ['jobs'],
  params: jobParams,
  query: nothing,
  body: nothing,
  answer: jobSchema,
});

/** The jobs that are under way, so that a reload finds them again. */
export const openJobs = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/jobs',
  access: 'read',
  reads: ['jobs'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ jobs: z.array(jobSchema) }),
});

/** What an open window is told. */
export const planEvent = z.discriminatedUnion('type', [
  /** At first, and after a break: where the plan stands, as what was asked before may be older. */
  z.object({ type: z.literal('opened'), plan: id, revision: count, builtRevision: count }),
  /** By which the server knows who hears this, as long as they do. */
  z.object({ type: z.literal('listening'), plan: id, stream: z.string() }),
  z.object({ type: z.literal('revision'), plan: id, revision: count }),
  z.object({ type: z.literal('built'), plan: id, builtRevision: count }),
  /** There is another receipt, or something became of one. */
  z.object({ type: z.literal('shipped'), plan: id }),
  /** A note came or was changed, or ads were handed over or judged. */
  z.object({ type: z.literal('work'), plan: id }),
  z.object({ type: z.literal('job'), plan: id, job: z.uuid() }),
  /** Somebody has the plan open, and where: told again and again as long as they have. */
  z.object({
    type: z.literal('here'),
    plan: id,
    actor: id,
    name: z.string(),
    place: z.string(),
    /** In which field they write; empty: in none. */
    field: z.string().default(''),
  }),
]);
export type PlanEvent = z.infer<typeof planEvent>;
