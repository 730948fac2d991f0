export { sortRoutes } from './routes.ts';
export { sortJob } from './sort-job.ts';
export { makeThemes } from './themes.ts';
