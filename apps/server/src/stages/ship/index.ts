export { shipRoutes } from './routes.ts';
export { shipJob } from './ship-job.ts';
