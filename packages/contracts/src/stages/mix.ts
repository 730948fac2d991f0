import { briefFacts, type Recipe } from '@sprig/core/mix';
import { z } from 'zod';
import { count, fieldEdits, id, idText, nothing, planParams, revisionAnswer, text } from '../common.ts';
import { endpoint } from '../endpoint.ts';

/** The most that one list may weigh, in UTF-16 units: 50,000 long lines. */
export const MOST_LIST_TEXT = 3_000_000;
/** How many texts are cut or put back at once, and asked for their figures. */
export const MOST_CUTS = 100_000;
export const MOST_FIGURES = 5_000;

const listId = z.number().int().positive();
const name = text(120).refine((typed) => typed.trim() !== '', 'A name is needed.');
const takes = z.array(id).max(50);
const words = text(MOST_LIST_TEXT);

const recipeList = z.discriminatedUnion('kind', [
  z.strictObject({ id: listId, kind: z.literal('own'), name, text: words, takes }),
  z.strictObject({ id: listId, kind: z.literal('shared'), list: id }),
  z.strictObject({ id: listId, kind: z.literal('brief'), fact: z.enum(briefFacts) }),
]);
const slot = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('list'), list: listId, optional: z.boolean() }),
  z.strictObject({ kind: z.literal('word'), text: text(200) }),
]);
const side = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('word'),
    text: text(200).refine((typed) => typed.trim() !== '', 'A word is missing.'),
  }),
  z.strictObject({ kind: z.literal('list'), list: listId }),
]);

export const recipeSchema = z
  .strictObject({
    name,
    on: z.boolean(),
    lists: z.array(recipeList).max(60, 'A recipe holds up to 60 lists.'),
    patterns: z
      .array(
        z.strictObject({
          id: listId,
          slots: z.array(slot).max(12, 'A pattern has up to 12 slots.'),
          flip: z.boolean(),
        }),
      )
      .max(100, 'A recipe holds up to 100 patterns.'),
    never: z.array(z.tuple([side, side])).max(200),
    alone: z
      .array(z.strictObject({ side, but: z.array(text(200)).max(2_000) }))
      .max(200)
      .default([]),
    repeats: z.boolean(),
    firstFormOnly: z.boolean(),
  })
  .refine(({ lists }) => new Set(lists.map((list) => list.id)).size === lists.length, {
    message: 'Two lists have the same number.',
    path: ['lists'],
  })
  .refine(
    ({ lists, patterns, never, alone }) => {
      const known = new Set(lists.map((list) => list.id));
      const used = [
        ...patterns.flatMap(({ slots }) => slots.flatMap((one) => (one.kind === 'list' ? [one.list] : []))),
        ...[...never.flat(), ...alone.map((one) => one.side)].flatMap((one) =>
          one.kind === 'list' ? [one.list] : [],
        ),
      ];
      return used.every((list) => known.has(list));
    },
    { message: 'A pattern, a pair or a rule uses a list that the recipe has not.', path: ['patterns'] },
  ) satisfies z.ZodType<Recipe>;

export const recipeRow = z.object({
  id,
  recipe: recipeSchema,
  /** The pool's source that the recipe is; null: it is not in the pool. */
  source: id.nullable(),
  /** Keywords of the pool that it makes. */
  keywords: count,
  /** Keywords that it makes no more, but that stay since something of them was set by hand. */
  held: count,
  cuts: count,
});
export type RecipeRow = z.infer<typeof recipeRow>;

export const wordList = z.object({
  id,
  name: z.string(),
  text: z.string(),
  takes: z.array(id),
  /** Where it is used: recipes of this plan by name, other shared lists, and how many other plans. */
  recipes: z.array(z.string()),
  lists: z.array(z.string()),
  otherPlans: count,
});
export type WordList = z.infer<typeof wordList>;

export const readMix = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/mix',
  access: 'read',
  reads: ['plan'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ recipes: z.array(recipeRow), shared: z.array(wordList) }),
});

const recipeParams = planParams.extend({ recipe: idText });
const listParams = planParams.extend({ list: idText });

/** Makes a recipe: empty, or a copy of one with its cuts. */
export const makeRecipe = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/recipes',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ recipe: recipeSchema, cutsOf: id.nullable().default(null) }),
  answer: revisionAnswer.extend({ id }),
});

export const editRecipe = endpoint({
  method: 'PATCH',
  path: '/api/plans/:plan/recipes/:recipe',
  access: 'build',
  changes: ['plan'],
  params: recipeParams,
  query: nothing,
  body: fieldEdits,
  answer: revisionAnswer,
});

export const removeRecipe = endpoint({
  method: 'DELETE',
  path: '/api/plans/:plan/recipes/:recipe',
  access: 'build',
  changes: ['plan'],
  params: recipeParams,
  query: nothing,
  body: nothing,
  answer: revisionAnswer,
});

/** Puts recipes into this order; it must name each. */
export const orderRecipes = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/recipes/order',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({ ids: z.array(id).max(1_000) }),
  answer: revisionAnswer,
});

/** Puts what a recipe makes into the pool, which follows it from then on, or takes it out again. */
export const poolRecipe = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/recipes/:recipe/pool',
  access: 'build',
  changes: ['plan', 'jobs'],
  params: recipeParams,
  query: nothing,
  body: z.object({ inPool: z.boolean() }),
  answer: revisionAnswer,
});

export const readCuts = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/recipes/:recipe/cuts',
  access: 'read',
  reads: ['plan'],
  params: recipeParams,
  query: nothing,
  body: nothing,
  answer: z.object({ cuts: z.array(z.string()) }),
});

/** Cuts combinations by their text, or puts them back. They stay cut when the recipe changes. */
export const cutCombinations = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/recipes/:recipe/cuts',
  access: 'build',
  changes: ['plan'],
  params: recipeParams,
  query: nothing,
  body: z.object({ texts: z.array(text(500)).min(1).max(MOST_CUTS), cut: z.boolean() }),
  answer: revisionAnswer,
});

/** Makes a shared list; `from` is a list of a recipe that becomes it. */
export const makeWordList = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/word-lists',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: z.object({
    name,
    text: words,
    takes,
    from: z.object({ recipe: id, list: listId }).nullable().default(null),
  }),
  answer: revisionAnswer.extend({ id }),
});

export const wordListSchema = z.strictObject({ name, text: words, takes });

export const editWordList = endpoint({
  method: 'PATCH',
  path: '/api/plans/:plan/word-lists/:list',
  access: 'build',
  changes: ['plan'],
  params: listParams,
  query: nothing,
  body: fieldEdits,
  answer: revisionAnswer,
});

/** Removes a shared list that nothing uses. */
export const removeWordList = endpoint({
  method: 'DELETE',
  path: '/api/plans/:plan/word-lists/:list',
  access: 'build',
  changes: ['plan'],
  params: listParams,
  query: nothing,
  body: nothing,
  answer: revisionAnswer,
});
