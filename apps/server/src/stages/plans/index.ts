export { followJob } from './follow-job.ts';
export { planRoutes } from './routes.ts';
export { makePlan, planState } from './service.ts';
