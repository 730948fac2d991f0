export { followRecipes, followShared, leavePool } from './follow.ts';
export { noteMadeAs } from './made-as.ts';
export { mixJob } from './mix-job.ts';
export { makeRecipe, renameBySource, takeOutSource } from './recipes.ts';
export { mixRoutes } from './routes.ts';
export { tellOtherPlans } from './word-lists.ts';
