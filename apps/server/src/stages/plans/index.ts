export { planRoutes } from './routes.ts';
export { makePlan } from './service.ts';
