export { decode, importJob, takeIn } from './import.ts';
export { gatherRoutes } from './routes.ts';
