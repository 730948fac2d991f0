export { followJob } from './follow-job.ts';
export { planRoutes } from './routes.ts';
export { makePlan } from './service.ts';
