export { sortRoutes } from './routes.ts';
export { makeThemes } from './themes.ts';
