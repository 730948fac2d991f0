import * as api from '@sprig/contracts';
import { emptyRecipe, nextId, type Recipe, type RecipeList, type ShapeKey, withShape } from '@sprig/core/mix';
import { call } from '../../data/call.ts';
import { usePreferences } from '../../data/me.ts';
import { counted } from '../../kit/format.ts';
import { nameOfShape } from './mix-names.ts';
import { freeName, withoutList } from './recipe-edits.ts';
import { said } from './said.ts';
import { useMixActions } from './use-mix.ts';
import type { ChosenRecipe } from './use-recipe.ts';

/** What is changed in recipes: in the one that is worked on, its lists and cuts, and beside it. */
export function useRecipeEdits(
  plan: number,
  { recipes, row, id, facts, shared, counts, choose }: ChosenRecipe,
) {
  const actions = useMixActions(plan);
  const params = { plan };
  const make = async (body: Recipe, cutsOf: number | null = null) => {
    const made = await actions.done(() => call(api.makeRecipe, { params, body: { recipe: body, cutsOf } }));
    if (made) choose(made.id);
  };
  const { preferences, setAloud: prefer } = usePreferences();
  const { newRecipe } = preferences;
  /** `usual`: as new recipes begin; a shape or an empty one is for this once. */
  const makeOf = (shape: ShapeKey | 'usual' | null) => {
    const names = recipes.map((one) => one.recipe.name);
    if (shape === 'usual') {
      if (newRecipe) void make({ ...newRecipe, name: freeName(newRecipe.name, names) });
      return;
    }
    const start = emptyRecipe(freeName(shape ? nameOfShape(shape) : 'Recipe', names));
    void make(shape ? withShape(start, shape, facts.places.length > 0) : start);
  };
  const edit = (at: string, value: unknown) =>
    id === null ? Promise.resolve(null) : actions.edit('recipe', id, at, value);
  /** Edits the recipe where no field is there to show the words of a refusal. */
  const editAloud = (...edits: { at: string; after: unknown }[]) =>
    id === null ? Promise.resolve(null) : said(actions.editAll('recipe', id, edits));
  const editList = (list: RecipeList, at: 'text' | 'takes' | 'name', value: unknown) => {
    if (list.kind === 'shared') return actions.edit('shared', list.list, at, value);
    const place = (row?.recipe.lists ?? []).findIndex((one) => one.id === list.id);
    return edit(`lists.${place}.${at}`, value);
  };
  const editText = (list: RecipeList, change: (now: string) => string) => {
    const now = actions.textOf(id ?? 0, list);
    return now === null ? Promise.resolve('The list is gone.') : editList(list, 'text', change(now));
  };
  /** Where the effect is in sight nothing more is said of it. */
  const cut = async (texts: string[], isCut: boolean, isInSight = false) => {
    if (texts.length === 0 || id === null) return;
    for (let at = 0; at < texts.length; at += api.MOST_CUTS)
      await actions.done(
        () =>
          call(api.cutCombinations, {
            params: { plan, recipe: id },
            body: { texts: texts.slice(at, at + api.MOST_CUTS), cut: isCut },
          }),
        isInSight
          ? undefined
          : () =>
              `${isCut ? 'Cut' : 'Put back'} ${counted(texts.length, 'combination')}. Ctrl+Z takes it back.`,
      );
  };
  return {
    actions,
    makeOf,
    usual: newRecipe?.name ?? null,
    /** New recipes begin like this one from now on, or as the product has it. */
    begin: (one: api.RecipeRow | null) =>
      prefer(
        { newRecipe: one && { ...one.recipe, on: true } },
        one
          ? `New recipes begin like ${one.recipe.name}, in all plans.`
          : 'New recipes begin with a shape again.',
      ),
    edit,
    editAloud,
    editList,
    editText,
    cut,
    copy: (one: api.RecipeRow) => {
      const names = recipes.map((other) => other.recipe.name);
      void make({ ...one.recipe, name: freeName(`${one.recipe.name} copy`, names) }, one.id);
    },
    remove: (one: api.RecipeRow) =>
      void actions.done(
        () => call(api.removeRecipe, { params: { plan, recipe: one.id } }),
        () => `${one.recipe.name} is removed. Ctrl+Z brings it back.`,
      ),
    order: (ids: number[]) => void actions.done(() => call(api.orderRecipes, { params, body: { ids } })),
    pool: (one: api.RecipeRow, inPool: boolean) =>
      void actions.done(
        () => call(api.poolRecipe, { params: { plan, recipe: one.id }, body: { inPool } }),
        () =>
          inPool
            ? `${one.recipe.name} is in the pool, and the pool follows it. Ctrl+Z takes it out.`
            : `${one.recipe.name} is out of the pool. Ctrl+Z puts it back.`,
      ),
    shape: (of: Recipe, shape: ShapeKey) => {
      const { lists, patterns } = withShape(of, shape, facts.places.length > 0);
      void editAloud({ at: 'lists', after: lists }, { at: 'patterns', after: patterns });
    },
    share: (recipe: number, list: RecipeList & { kind: 'own' }) => {
      const name = freeName(
        list.name,
        shared.map((one) => one.name),
      );
      const { text, takes } = list;
      void actions.done(
        () =>
          call(api.makeWordList, { params, body: { name, text, takes, from: { recipe, list: list.id } } }),
        () => `${list.name} is shared. Every recipe and plan can use it now.`,
      );
    },
    removeList: (of: Recipe, list: number) => {
      const { lists, patterns, never, alone } = withoutList(of, list);
      void editAloud(
        { at: 'lists', after: lists },
        { at: 'patterns', after: patterns },
        { at: 'never', after: never },
        { at: 'alone', after: alone },
      );
    },
    takeColumns: (of: Recipe, columns: readonly { name: string; text: string }[]) => {
      const first = nextId(of.lists);
      const names = counts.lists.map(({ name }) => name);
      const fresh = columns.map(({ name, text }, at): RecipeList => {
        const free = freeName(name.slice(0, 100), names);
        names.push(free);
        return { id: first + at, kind: 'own', name: free, text, takes: [] };
      });
      void editAloud({ at: 'lists', after: [...of.lists, ...fresh] });
    },
  };
}
