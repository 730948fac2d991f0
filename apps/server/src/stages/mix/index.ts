import type { Stage } from '../stage.ts';
import { mixJob } from './mix-job.ts';
import { mixRoutes } from './routes.ts';

export { followRecipes, followShared, leavePool } from './follow.ts';
export { noteMadeAs } from './made-as.ts';
export { makeRecipe, renameBySource, takeOutSource } from './recipes.ts';
export { tellOtherPlans } from './word-lists.ts';

export const mixStage = {
  routes: mixRoutes,
  jobs: { mix: mixJob },
  counts: {
    recipes: 'select count(*) from recipes where plan_id = p.id',
    recipesOut: 'select count(*) from recipes where plan_id = p.id and source_id is null',
  },
} satisfies Stage;
