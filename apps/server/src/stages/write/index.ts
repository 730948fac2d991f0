export { writeRoutes } from './routes.ts';
