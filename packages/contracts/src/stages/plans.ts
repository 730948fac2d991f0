import { currencies } from '@sprig/core/money';
import { readSite } from '@sprig/core/write';
import { z } from 'zod';
import { permissions, roles } from '../access.ts';
import { count, fieldEdits, id, idText, nothing, planParams, revisionAnswer, text } from '../common.ts';
import { endpoint, rawEndpoint } from '../endpoint.ts';

export const briefSchema = z.strictObject({
  name: text(200).refine((name) => name.trim() !== '', 'A plan needs a name.'),
  currency: z.string().refine((code) => code in currencies, 'Not a currency we know.'),
  language: z.enum(['en']),
  site: text(500).refine((site) => site.trim() === '' || readSite(site).status === 'address', {
    message: 'Not a web address. Write it like shop.example or https://shop.example.',
  }),
  archived: z.boolean(),
});
export type Brief = z.infer<typeof briefSchema>;

export const planSummary = z.object({
  id,
  name: z.string(),
  currency: z.string(),
  language: z.string(),
  site: z.string(),
  archived: z.boolean(),
  keywords: count,
  createdAt: z.string(),
  changedAt: z.string(),
});
export type PlanSummary = z.infer<typeof planSummary>;

/** What the frame shows of the open plan. */
export const planState = z.object({
  id,
  brief: briefSchema,
  revision: count,
  /** The revision that groups, rows and ads were built at. */
  builtRevision: count,
  undo: z.string().nullable(),
  redo: z.string().nullable(),
  /** What who asks may do here. */
  you: z.object({ role: z.enum(roles), permissions: z.array(z.enum(permissions)) }),
  counts: z.object({
    keywords: count,
    cut: count,
    folded: count,
    blocked: count,
    recipes: count,
    /** Recipes that are not in the pool. */
    recipesOut: count,
    themes: count,
    sources: count,
    negatives: count,
    /** Words that were judged to belong. */
    kept: count,
    /** Facts of the brief that were set. */
    facts: count,
    /** Places where ads are to show. */
    locations: count,
    /** Languages of those who are to see them. */
    languages: count,
    groups: count,
    rows: count,
    /** Campaigns without a budget. */
    unbudgeted: count,
    ads: count,
    misfits: count,
    blockers: count,
    warnings: count,
    /** Outlets that the plan ships to. */
    outlets: count,
    /** Those that have the plan as it is now, and sets of sheets of it that a simulated engine has not answered yet. */
    shipped: count,
    unanswered: count,
    /** Reports of results that were taken in. */
    reports: count,
  }),
});
export type PlanState = z.infer<typeof planState>;

export const listPlans = endpoint({
  method: 'GET',
  path: '/api/plans',
  access: 'self',
  reads: ['plans', 'people'],
  params: nothing,
  query: nothing,
  body: nothing,
  answer: z.object({ plans: z.array(planSummary) }),
});

export const makePlan = endpoint({
  method: 'POST',
  path: '/api/plans',
  access: 'build',
  changes: ['plans'],
  params: nothing,
  query: nothing,
  /** `like`: the plan whose rules it begins with, without its keywords and what is its client's own; or an outset. */
  body: briefSchema
    .omit({ archived: true })
    .extend({ like: id.nullable().default(null), outset: id.nullable().default(null) }),
  answer: z.object({ id }),
});

export const duplicatePlan = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/duplicate',
  access: 'build',
  changes: ['plans'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ id }),
});

/** What `POST /api/plan-files` answers, whose body is a plan file. */
export const planFileAnswer = z.object({ id });

export const openPlan = endpoint({
  method: 'GET',
  path: '/api/plans/:plan',
  access: 'read',
  reads: ['plan', 'built', 'receipts', 'people', 'work'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: planState,
});

export const editBrief = endpoint({
  method: 'PATCH',
  path: '/api/plans/:plan/brief',
  access: 'build',
  changes: ['plan', 'plans'],
  params: planParams,
  query: nothing,
  body: fieldEdits,
  answer: revisionAnswer,
});

export const historyEntry = z.object({
  revision: count,
  label: z.string(),
  kind: z.enum(['edit', 'undo', 'redo']),
  actor: z.string(),
  /** The number of who did it. */
  by: id,
  at: z.string(),
  undone: z.boolean(),
  /** Whether it could be taken back by itself, if nothing of it was changed since. */
  undoable: z.boolean(),
});
export type HistoryEntry = z.infer<typeof historyEntry>;

export const planHistory = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/history',
  access: 'read',
  reads: ['plan'],
  params: planParams,
  /** `before`: the revision below which to go on; `by`: of whom alone. */
  query: z.object({ before: idText.optional(), by: idText.optional() }),
  body: nothing,
  /** `people`: all who have changed the plan. */
  answer: z.object({
    changes: z.array(historyEntry),
    people: z.array(z.object({ by: id, actor: z.string() })),
  }),
});
/** Entries of a page of the history. */
export const HISTORY_PAGE = 200;

const changeParams = planParams.extend({ revision: idText });

/** What a change did: rows by table, and what the first of them said before and after. */
export const readChange = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/history/:revision',
  access: 'read',
  reads: ['plan'],
  params: changeParams,
  query: nothing,
  body: nothing,
  answer: z.object({
    /** Sources that came in or went, by name. */
    came: z.array(z.string()),
    went: z.array(z.string()),
    parts: z.array(z.object({ table: z.string(), inserted: count, removed: count, changed: count })),
    samples: z.array(
      z.object({
        table: z.string(),
        row: z.string(),
        /** null: the row was put in, or taken out. */
        fields: z.array(z.object({ field: z.string(), before: z.string(), after: z.string() })).nullable(),
        how: z.enum(['inserted', 'removed', 'changed']),
      }),
    ),
  }),
});
export type ChangeDetails = z.output<(typeof readChange)['answer']>;

/** Takes one change back, whoever made it, where nothing of it was changed since; `force`: all the same. */
export const undoOne = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/history/:revision/undo',
  access: 'build',
  changes: ['plan'],
  params: changeParams,
  query: nothing,
  body: z.object({ force: z.boolean().default(false) }),
  answer: z.object({ revision: count, label: z.string() }),
});

const step = (word: 'undo' | 'redo') =>
  endpoint({
    method: 'POST',
    path: `/api/plans/:plan/${word}`,
    access: 'write',
    changes: ['plan'],
    params: planParams,
    query: nothing,
    /** `force`: also where somebody else has changed the same since. */
    body: z.object({ force: z.boolean().default(false) }),
    answer: z.object({ revision: count, label: z.string() }),
  });
export const undoChange = step('undo');
export const redoChange = step('redo');

/** A plan as one file. */
export const savePlanFile = rawEndpoint({
  method: 'GET',
  path: '/api/plans/:plan/file',
  access: 'read',
  params: planParams,
  query: nothing,
  takes: null,
  answers: 'application/zip',
});

/** Opens such a file as a new plan; answers its number. */
export const openPlanFile = rawEndpoint({
  method: 'POST',
  path: '/api/plan-files',
  access: 'build',
  changes: ['plans'],
  params: nothing,
  query: nothing,
  takes: 'application/zip',
  answers: 'application/json',
});

/** What happens to a plan, as it happens. */
export const planEvents = rawEndpoint({
  method: 'GET',
  path: '/api/plans/:plan/events',
  access: 'read',
  params: planParams,
  query: nothing,
  takes: null,
  answers: 'text/event-stream',
});
