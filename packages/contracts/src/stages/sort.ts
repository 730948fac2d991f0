import { keywordStates, MOST_TERMS, type Sift, siftProblems } from '@sprig/core/sort';
import { funnelStages, type SignalWord } from '@sprig/core/text';
import { z } from 'zod';
import {
  count,
  fieldEdits,
  id,
  idText,
  micros,
  nothing,
  planParams,
  revisionAnswer,
  text,
} from '../common.ts';
import { endpoint } from '../endpoint.ts';

/** A plan holds so many themes at most; so many are made in one change. */
export const MOST_THEMES = 200_000;
/** From so many keywords on the server proposes the whole plan, by a job. */
export const SERVER_PROPOSES_FROM = 300_000;
/** How many keywords are placed by hand at once. */
export const MOST_PLACED = 100_000;
export const MOST_DISMISSED = 2_000;
/** Colours of the map that a theme may take. */
export const THEME_COLOURS = 8;

const stage = z.enum(funnelStages);
const term = text(200);
const figure = count.max(1_000_000_000).nullable().optional();

export const siftSchema = z
  .strictObject({
    has: z.array(z.array(term).min(1).max(MOST_TERMS)).max(20),
    not: z.array(term).max(MOST_TERMS),
    source: id.nullable().optional(),
    stage: stage.nullable().optional(),
    state: z.enum(keywordStates).nullable().optional(),
    searchesFrom: figure,
    searchesTo: figure,
    cpcFrom: micros.nullable().optional(),
    cpcTo: micros.nullable().optional(),
  })
  .refine((sift) => siftProblems(sift).length === 0, {
    message: 'A term of the rule can’t be read.',
  }) satisfies z.ZodType<Sift>;

const name = text(120).refine((typed) => typed.trim() !== '', 'A theme needs a name.');

export const themeBody = z.strictObject({
  name,
  sift: siftSchema.nullable(),
  idea: z.boolean(),
  colour: z
    .number()
    .int()
    .min(0)
    .max(THEME_COLOURS - 1)
    .nullable(),
  stage: stage.nullable(),
});
export type ThemeBody = z.infer<typeof themeBody>;

export const themeRow = themeBody.extend({ id, parent: id.nullable() });
export type ThemeRow = z.infer<typeof themeRow>;

/** What is set by hand of a keyword: its theme (0: none, whatever the rules say) and its stage; null is the rule's. */
export const handPlaced = z.object({ keyword: id, theme: count.nullable(), stage: stage.nullable() });
export type HandPlaced = z.infer<typeof handPlaced>;

export const sortSettingsSchema = z
  .strictObject({
    /** The most keywords of a group, and the fewest; fewer will do from `floor` searches a month on. */
    target: z.number().int().min(1).max(10_000),
    least: z.number().int().min(1).max(1_000),
    floor: count.max(1_000_000_000).nullable(),
    /** Words that tell the funnel stage, in the order in which they are looked for; null: the language's. */
    signals: z
      .array(z.strictObject({ text: text(80), stage }) satisfies z.ZodType<SignalWord>)
      .max(2_000)
      .nullable(),
    /** Suggestions that are not to come again, by their sentences. */
    dismissed: z.array(text(2_000)).max(MOST_DISMISSED),
  })
  .refine(({ target, least }) => least <= target, {
    message: 'The fewest keywords of a group can’t be more than the most.',
    path: ['least'],
  });
export type SortSettings = z.infer<typeof sortSettingsSchema>;

export const usualSortSettings: SortSettings = {
  target: 20,
  least: 3,
  floor: null,
  signals: null,
  dismissed: [],
};

export const readSort = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/sort',
  access: 'read',
  reads: ['plan', 'own'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({
    /** In the order in which rules are tried. */
    themes: z.array(themeRow),
    placed: z.array(handPlaced),
    settings: sortSettingsSchema,
    /** The greatest keyword id at the last look at Sort. */
    seen: count,
  }),
});

/** A theme to be made; `within` is the place in this list of the one that it is in. */
const newTheme = themeBody.extend({ within: count.nullable() });
export type NewTheme = z.infer<typeof newTheme>;

/** Leaves room for the number that tells a name from its siblings'. */
const MOST_GIVEN_NAME = 110;

/** A theme of this rule, of which nothing else is set; its name is cut where it is too long. */
export const newThemeOf = (name: string, sift: Sift | null, within: number | null = null): NewTheme => ({
  name: name.slice(0, MOST_GIVEN_NAME),
  sift: sift as NewTheme['sift'],
  idea: false,
  colour: null,
  stage: null,
  within,
});

/** Makes themes at the end of `parent`'s. A name that a sibling has by then gets a number. */
export const makeThemes = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/themes',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z
    .object({
      parent: id.nullable(),
      themes: z.array(newTheme).min(1).max(MOST_THEMES),
      /** Puts what is made in the place of everything below `parent`. */
      instead: z.boolean().default(false),
    })
    .refine(({ themes }) => themes.every(({ within }, at) => within === null || within < at), {
      message: 'A theme must come after the one that it is in.',
      path: ['themes'],
    }),
  answer: revisionAnswer.extend({ ids: z.array(id) }),
});

/** Proposes the whole plan and makes its themes, by a job: for the unplaced, or in the place of what is below `parent`. */
export const proposeThemes = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/themes/whole',
  access: 'build',
  changes: ['jobs'],
  params: planParams,
  query: nothing,
  body: z.object({ parent: id.nullable(), instead: z.boolean() }),
  answer: z.object({ job: z.uuid() }),
});

export const editTheme = endpoint({
  method: 'PATCH',
  path: '/api/plans/:plan/themes/:theme',
  access: 'build',
  changes: ['plan'],
  params: planParams.extend({ theme: idText }),
  query: nothing,
  body: fieldEdits,
  answer: revisionAnswer,
});

/** Puts themes into `parent`, before one of its themes or at its end, in the order given. */
export const moveThemes = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/themes/move',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    ids: z.array(id).min(1).max(1_000),
    parent: id.nullable(),
    before: id.nullable(),
  }),
  answer: revisionAnswer,
});

/** Removes themes with all that is in them. Keywords held in one are the rules' again. */
export const removeThemes = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/themes/remove',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ ids: z.array(id).min(1).max(MOST_THEMES) }),
  answer: revisionAnswer,
});

const placedIds = z.array(id).min(1).max(MOST_PLACED);

/** Holds keywords in a theme, out of all (0), or lets them go (null). */
export const placeByHand = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/placements',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.union([
    z.strictObject({ keywords: placedIds, theme: count.nullable() }),
    /** In a theme that is made for them, with no rule of its own. */
    z.strictObject({ keywords: placedIds, made: z.strictObject({ name, parent: id.nullable() }) }),
  ]),
  answer: revisionAnswer,
});

/** Holds the funnel stage of keywords, or lets it go. */
export const stageByHand = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/stages',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ keywords: z.array(id).min(1).max(MOST_PLACED), stage: stage.nullable() }),
  answer: revisionAnswer,
});

export const editSortSettings = endpoint({
  method: 'PATCH',
  path: '/api/plans/:plan/sort/settings',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: fieldEdits,
  answer: revisionAnswer,
});

/** Notes that the user has seen the keywords up to this one. */
export const lookedAtSort = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/sort/seen',
  access: 'read',
  changes: ['own'],
  params: planParams,
  query: nothing,
  body: z.object({ keyword: count }),
  answer: revisionAnswer,
});
