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
  mount(router, api.readMix, async (caller, { params }) => {
    const there = { ...caller, ...params };
    await assertPlan(there);
    return { recipes: await listRecipes(there), shared: await listWordLists(there) };
  });
  mount(router, api.makeRecipe, (caller, { params, body }) =>
    makeRecipe({ ...caller, ...params }, body.recipe, body.cutsOf),
  );
  mount(router, api.orderRecipes, (caller, { params, body }) =>
    orderRecipes({ ...caller, ...params }, body.ids),
  );
  mount(router, api.editRecipe, (caller, { params: { plan, recipe }, body }) =>
    editRecipe({ ...caller, plan }, recipe, body.edits),
  );
  mount(router, api.removeRecipe, (caller, { params: { plan, recipe } }) =>
    removeRecipe({ ...caller, plan }, recipe),
  );
  mount(router, api.poolRecipe, (caller, { params: { plan, recipe }, body }) =>
    poolRecipe({ ...caller, plan }, recipe, body.inPool),
  );
  mount(router, api.readCuts, async (caller, { params: { plan, recipe } }) => ({
    cuts: await listCuts({ ...caller, plan }, recipe),
  }));
  mount(router, api.cutCombinations, (caller, { params: { plan, recipe }, body }) =>
    cutCombinations({ ...caller, plan }, recipe, body.texts, body.cut),
  );
  mount(router, api.makeWordList, (caller, { params, body }) => makeWordList({ ...caller, ...params }, body));
  mount(router, api.editWordList, (caller, { params: { plan, list }, body }) =>
    editWordList({ ...caller, plan }, list, body.edits),
  );
  mount(router, api.removeWordList, (caller, { params: { plan, list } }) =>
    removeWordList({ ...caller, plan }, list),
  );
  return router;
};
