export { sortRoutes } from './routes.ts';
export { proposeWithin, sortJob } from './sort-job.ts';
export { listThemes, makeThemes } from './themes.ts';
