export { planRoutes } from './routes.ts';
export { assertPlan, makePlan } from './service.ts';
