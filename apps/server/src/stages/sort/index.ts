export { sortRoutes } from './routes.ts';
