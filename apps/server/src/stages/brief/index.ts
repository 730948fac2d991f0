export { briefRoutes, factsOfPlan } from './routes.ts';
