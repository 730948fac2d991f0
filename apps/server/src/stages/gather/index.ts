export { decodedUpload, importJob, takeIn, takeInKeywords } from './import.ts';
export { gatherRoutes } from './routes.ts';
export { siteJob } from './site-job.ts';
