import { columnRoles } from '@sprig/core/gather';
import { resultFigures } from '@sprig/core/learn';
import { matchTypes } from '@sprig/core/match';
import { stepCodes } from '@sprig/core/next';
import { adForms } from '@sprig/core/write';
import { z } from 'zod';
import { permissions, roles } from '../access.ts';
import { id, micros, nothing, someOf } from '../common.ts';
import { endpoint } from '../endpoint.ts';
import { recipeSchema } from './mix.ts';
import { briefSchema } from './plans.ts';
import { adPatternSchema } from './write.ts';

const theme = z.enum(['system', 'sprig', 'sprig-night']);
/** What was picked for the columns of a kind of file, by its headings. */
const columnRolesByLayout = z.record(z.string().max(400), z.array(z.enum(columnRoles)).max(200));
/** Steps of a plan that are not proposed again, by its number. */
const skippedSteps = z.record(
  z.string().regex(/^\d{1,15}$/),
  z.array(z.enum(stepCodes)).max(stepCodes.length),
);
/** Columns hidden, by table. */
const hiddenColumns = z.record(z.string().max(40), z.array(z.string().max(40)).max(50));

/** Widths of columns that were dragged, in pixels, by table and column. */
const columnWidths = z.record(
  z.string().max(40),
  z.record(z.string().max(80), z.number().int().min(1).max(4_000)),
);

const resultColumns = z.array(z.enum(resultFigures)).max(resultFigures.length);

/** What new plans begin with where no outset says otherwise; null: as the product has it. */
const newPlans = z.strictObject({
  matchTypes: z.array(z.enum(matchTypes)).min(1, 'Choose one match type at least.').nullable(),
  /** In plans of this currency alone. */
  defaultBid: z
    .strictObject({
      amount: micros.refine((amount) => amount > 0, 'A bid has to be more than nothing.'),
      currency: briefSchema.shape.currency,
    })
    .nullable(),
  adForms: z.array(z.enum(adForms)).min(1, 'Choose one kind of ad at least.').nullable(),
});

/** Words that a kept beginning may hold. */
export const MOST_KEPT_WORDS = 100_000;
/** What new recipes and new ad patterns begin like; null: as the product has it. */
const newRecipe = recipeSchema
  .refine(
    ({ lists }) =>
      lists.reduce((sum, list) => sum + (list.kind === 'own' ? list.text.length : 0), 0) <= MOST_KEPT_WORDS,
    {
      message: 'Its lists are too long to be kept as a beginning. Share the longest ones first.',
      path: ['lists'],
    },
  )
  .nullable();
const newPattern = adPatternSchema.nullable();

export const preferencesSchema = z.object({
  theme: theme.default('system'),
  helps: z.boolean().default(true),
  /** Whether the next step is proposed. */
  steps: z.boolean().default(true),
  skippedSteps: skippedSteps.default({}),
  hiddenColumns: hiddenColumns.default({}),
  columnWidths: columnWidths.default({}),
  /** Figures of results that stand beside keywords, ad groups, themes and ads. */
  resultColumns: resultColumns.default([]),
  columnRoles: columnRolesByLayout.default({}),
  newPlans: newPlans.default({ matchTypes: null, defaultBid: null, adForms: null }),
  // What an older version kept otherwise is let go, so that nobody is kept out by it.
  newRecipe: newRecipe.catch(null).default(null),
  newPattern: newPattern.catch(null).default(null),
});
const preferencesChange = someOf(preferencesSchema).extend({
  newRecipe: newRecipe.optional(),
  newPattern: newPattern.optional(),
});
export type Preferences = z.infer<typeof preferencesSchema>;

const me = z.object({
  name: z.string(),
  workspace: z.string(),
  preferences: preferencesSchema,
  email: z.string(),
  actor: id,
  workspaceId: id,
  role: z.enum(roles),
  permissions: z.array(z.enum(permissions)),
  /** All that one is in. */
  workspaces: z.array(z.object({ id, name: z.string() })),
  hasSecondFactor: z.boolean(),
  /** Somebody of the demo, who has no password. */
  isDemo: z.boolean(),
});
export type Me = z.infer<typeof me>;

export const readMe = endpoint({
  method: 'GET',
  path: '/api/me',
  access: 'self',
  reads: ['own'],
  params: nothing,
  query: nothing,
  body: nothing,
  answer: me,
});

export const editPreferences = endpoint({
  method: 'PATCH',
  path: '/api/me/preferences',
  access: 'self',
  changes: ['own'],
  params: nothing,
  query: nothing,
  body: preferencesChange,
  answer: me,
});

/** A part of a screen has failed in the browser: for the log, under the number that is shown. */
export const reportFault = endpoint({
  method: 'POST',
  path: '/api/faults',
  access: 'self',
  changes: [],
  params: nothing,
  query: nothing,
  body: z.object({
    number: z.string().regex(/^[A-Z0-9]{7}$/),
    part: z.string().max(200),
    message: z.string().max(2_000),
    stack: z.string().max(8_000),
    address: z.string().max(500),
  }),
  answer: nothing,
});
