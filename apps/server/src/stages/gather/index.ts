export { decodedUpload, importJob, takeIn, takeInKeywords } from './import.ts';
export { gatherRoutes } from './routes.ts';
