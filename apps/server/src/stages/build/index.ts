export { buildRoutes } from './routes.ts';
