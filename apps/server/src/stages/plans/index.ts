export { isFirstPattern } from './first-pattern.ts';
export { planRoutes } from './routes.ts';
export { makePlan } from './service.ts';
