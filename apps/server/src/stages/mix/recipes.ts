import { type FieldEdit, type RecipeRow, recipeSchema } from '@sprig/contracts';
import { circleFrom, type Recipe } from '@sprig/core/mix';
import { normalise } from '@sprig/core/text';
import { select } from '../../db/connect.ts';
import { type Change, inChange } from '../../plan/change/index.ts';
import { applyEdits } from '../../plan/documents.ts';
import { newSource } from '../../plan/new-source.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';
import { followOne, followRecipes, leavePool } from './follow.ts';
import { sharedWords } from './inputs.ts';

type Row = Omit<RecipeRow, 'recipe'> & { body: unknown };

export async function listRecipes({ database, plan, workspace }: PlanCaller): Promise<RecipeRow[]> {
  const rows = await select<Row>(
    database,
    `select r.id, r.source_id as source, r.body, coalesce(m.keywords, 0)::int as keywords, coalesce(m.held, 0)::int as held,
       (select count(*) from recipe_cuts c where c.plan_id = r.plan_id and c.recipe_id = r.id)::int as cuts
     from recipes r left join lateral (
       select count(*) as keywords, count(*) filter (where line = 0) as held from mentions
       where plan_id = r.plan_id and source_id = r.source_id) m on true
     where r.plan_id = $1 and r.workspace_id = $2 order by r.position, r.id`,
    [plan, workspace],
  );
  return rows.map(({ body, ...row }) => ({ ...row, recipe: recipeSchema.parse(body) }));
}

type Stored = { source_id: number | null; recipe: Recipe };

async function stored(change: Change, id: number): Promise<Stored> {
  const [row] = await change.find('recipes', { columns: ['source_id', 'body'], where: { id }, lock: true });
  if (!row) throw notFound('recipe');
  return { source_id: row.source_id, recipe: recipeSchema.parse(row.body) };
}

/** Makes a recipe, at the end of the others; `cutsOf` is the recipe that it is a copy of. */
export async function makeRecipe(
  caller: PlanCaller,
  recipe: Recipe,
  cutsOf: number | null,
): Promise<{ revision: number; id: number }> {
  const { revision, result } = await inChange(caller, `Make the recipe ${recipe.name}`, async (change) => {
    await assertShared(change, recipe);
    const id = change.takeIds(1);
    const [last] = await change.rows<{ position: number }>(
      'select coalesce(max(position), 0)::int as position from recipes where plan_id = $1',
    );
    await change.insert('recipes', [
      { id, position: (last?.position ?? 0) + 1, source_id: null, body: recipe },
    ]);
    if (cutsOf !== null) await copyCuts(change, cutsOf, id);
    return id;
  });
  return { revision, id: result };
}

async function copyCuts(change: Change, from: number, to: number) {
  const cuts = await change.find('recipe_cuts', {
    columns: ['norm'],
    where: { recipe_id: from },
    order: ['id'],
  });
  await insertCuts(
    change,
    to,
    cuts.map(({ norm }) => norm),
  );
}

async function insertCuts(change: Change, recipe: number, norms: readonly string[]) {
  const first = change.takeIds(norms.length);
  await change.insert(
    'recipe_cuts',
    norms.map((norm, at) => ({ id: first + at, recipe_id: recipe, norm })),
  );
}

/** A recipe may only use shared lists that are there, and none that takes itself in. */
async function assertShared(change: Change, { lists }: Recipe) {
  const shared = await sharedWords(change);
  for (const list of lists) {
    const used = list.kind === 'shared' ? [list.list] : list.kind === 'own' ? list.takes : [];
    if (used.some((id) => !shared.has(id))) throw notFound('shared list');
    const circle = circleFrom(used, shared);
    if (circle) throw circleFailure(circle);
  }
}

export const circleFailure = (names: readonly string[]) =>
  new SprigFailure(
    'invalid',
    `${names.map((name) => `“${name}”`).join(' takes in ')}: a list can’t take itself in. Leave one of them out.`,
    { at: 'takes' },
  );

const WORDS: Record<string, string> = {
  name: 'Rename the recipe',
  on: 'Switch the recipe',
  lists: 'Change the lists of',
  patterns: 'Change the patterns of',
  never: 'Change what is never together in',
  alone: 'Change what may stand alone in',
  repeats: 'Change whether words repeat in',
  firstFormOnly: 'Change which forms are used in',
};

/** Edits a recipe in place; the pool follows, if the recipe is in it. */
export const editRecipe = (
  caller: PlanCaller,
  id: number,
  edits: readonly FieldEdit[],
): Promise<{ revision: number }> =>
  inChange(
    caller,
    (name: string) => `${WORDS[edits[0]?.at.split('.')[0] ?? ''] ?? 'Change the recipe'} ${name}`,
    async (change) => {
      const { recipe, source_id } = await stored(change, id);
      const body = applyEdits<Recipe>(recipe, edits, recipeSchema);
      await assertShared(change, body);
      await change.update('recipes', [id], { body });
      if (source_id !== null && body.name !== recipe.name)
        await change.update('sources', [source_id], { name: body.name });
      await followRecipes(change, (one) => one.id === id);
      return recipe.name;
    },
  );

export const removeRecipe = (caller: PlanCaller, id: number): Promise<{ revision: number }> =>
  inChange(
    caller,
    (name: string) => `Remove the recipe ${name}`,
    async (change) => {
      const { recipe, source_id } = await stored(change, id);
      if (source_id !== null) await takeOut(change, source_id);
      const cuts = await change.find('recipe_cuts', { columns: ['id'], where: { recipe_id: id } });
      await change.remove('recipe_cuts', cuts);
      await change.remove('recipes', [{ id }]);
      return recipe.name;
    },
  );

export const orderRecipes = (caller: PlanCaller, ids: readonly number[]): Promise<{ revision: number }> =>
  inChange(caller, 'Put the recipes in another order', async (change) => {
    const there = await change.find('recipes', { columns: ['id'], order: ['id'] });
    if (there.map(({ id }) => id).join() !== [...ids].sort((a, b) => a - b).join())
      throw new SprigFailure('conflict', 'There are other recipes by now. Try again.', { at: 'ids' });
    await change.updateEach(
      'recipes',
      ids.map((id, at) => ({ id, position: at + 1 })),
      ['position'],
    );
  });

/** Puts what a recipe makes into the pool as a source of its own, or takes that out again. */
export const poolRecipe = (caller: PlanCaller, id: number, inPool: boolean): Promise<{ revision: number }> =>
  inChange(
    caller,
    (name: string) => (inPool ? `Put ${name} into the pool` : `Take ${name} out of the pool`),
    async (change) => {
      const { recipe, source_id } = await stored(change, id);
      if (inPool && source_id === null) await putIn(change, id, recipe.name);
      if (!inPool && source_id !== null) {
        await change.update('recipes', [id], { source_id: null });
        await takeOut(change, source_id);
      }
      return recipe.name;
    },
  );

async function putIn(change: Change, id: number, name: string) {
  const source = await newSource(change, 'recipe', name);
  await change.update('recipes', [id], { source_id: source });
  await followRecipes(change, (one) => one.id === id);
}

async function takeOut(change: Change, source: number) {
  await leavePool(change, source);
  await change.remove('sources', [{ id: source }]);
}

/** The recipe whose source this is leaves the pool; the recipe itself stays. */
export async function takeOutSource(change: Change, source: number): Promise<void> {
  const recipes = await change.find('recipes', { columns: ['id'], where: { source_id: source } });
  await change.update(
    'recipes',
    recipes.map(({ id }) => id),
    { source_id: null },
  );
  await takeOut(change, source);
}

/** A recipe is called what its source is called. */
export async function renameBySource(change: Change, source: number, name: string): Promise<void> {
  const recipes = await change.find('recipes', { columns: ['id', 'body'], where: { source_id: source } });
  for (const { id, body } of recipes)
    await change.update('recipes', [id], { body: { ...recipeSchema.parse(body), name } });
}

export const listCuts = async ({ database, plan, workspace }: PlanCaller, id: number): Promise<string[]> => {
  const rows = await select<{ norm: string }>(
    database,
    'select norm from recipe_cuts where plan_id = $1 and workspace_id = $2 and recipe_id = $3 order by id',
    [plan, workspace, id],
  );
  return rows.map(({ norm }) => norm);
};

/** Cuts combinations by their text, or puts them back. */
export const cutCombinations = (
  caller: PlanCaller,
  id: number,
  texts: readonly string[],
  cut: boolean,
): Promise<{ revision: number }> =>
  inChange(
    caller,
    (changed: number) => `${cut ? 'Cut' : 'Put back'} ${counted(changed, 'combination')}`,
    async (change) => {
      await stored(change, id);
      const norms = [...new Set(texts.map(normalise))].filter((norm) => norm !== '');
      const there = await change.find('recipe_cuts', {
        columns: ['id', 'norm'],
        where: { recipe_id: id, norm: norms },
      });
      let changed: number;
      if (cut) {
        const known = new Set(there.map(({ norm }) => norm));
        const fresh = norms.filter((norm) => !known.has(norm));
        await insertCuts(change, id, fresh);
        changed = fresh.length;
      } else {
        changed = await change.remove(
          'recipe_cuts',
          there.map((row) => ({ id: row.id })),
        );
      }
      if (changed > 0) await followRecipes(change, (one) => one.id === id);
      return changed;
    },
  );

/** Follows a recipe that makes too much for the request in which it was changed. */
export const followLater = (caller: PlanCaller, id: number) =>
  inChange(caller, 'The pool follows a recipe', (change) => followOne(change, id), {
    undoable: false,
    always: true,
  });
