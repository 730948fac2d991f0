import * as api from '@sprig/contracts';
import { Router } from 'express';
import { mount } from '../../http/mount.ts';
import { assertPlan } from '../../http/scope.ts';
import {
  cutCombinations,
  editRecipe,
  listCuts,
  listRecipes,
  makeRecipe,
  orderRecipes,
  poolRecipe,
  removeRecipe,
} from './recipes.ts';
import { editWordList, listWordLists, makeWordList, removeWordList } from './word-lists.ts';

export const mixRoutes = (): Router => {
  const router = Router();
  mount(router, api.readMix, async (caller) => {
    const there = caller;
    await assertPlan(there);
    return { recipes: await listRecipes(there), shared: await listWordLists(there) };
  });
  mount(router, api.makeRecipe, (caller, { body }) => makeRecipe(caller, body.recipe, body.cutsOf));
  mount(router, api.orderRecipes, (caller, { body }) => orderRecipes(caller, body.ids));
  mount(router, api.editRecipe, (caller, { params: { recipe }, body }) =>
    editRecipe(caller, recipe, body.edits),
  );
  mount(router, api.removeRecipe, (caller, { params: { recipe } }) => removeRecipe(caller, recipe));
  mount(router, api.poolRecipe, (caller, { params: { recipe }, body }) =>
    poolRecipe(caller, recipe, body.inPool),
  );
  mount(router, api.readCuts, async (caller, { params: { recipe } }) => ({
    cuts: await listCuts(caller, recipe),
  }));
  mount(router, api.cutCombinations, (caller, { params: { recipe }, body }) =>
    cutCombinations(caller, recipe, body.texts, body.cut),
  );
  mount(router, api.makeWordList, (caller, { body }) => makeWordList(caller, body));
  mount(router, api.editWordList, (caller, { params: { list }, body }) =>
    editWordList(caller, list, body.edits),
  );
  mount(router, api.removeWordList, (caller, { params: { list } }) => removeWordList(caller, list));
  return router;
};
