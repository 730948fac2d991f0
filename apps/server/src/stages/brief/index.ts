export { briefRoutes } from './routes.ts';
