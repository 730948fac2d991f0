export { checkJob } from './check-job.ts';
export { handInJob } from './hand-in-job.ts';
export { readBackJob, takeBackJob } from './read-back/index.ts';
export { shipRoutes } from './routes.ts';
export { shipJob } from './ship-job.ts';
