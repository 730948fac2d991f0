export { costBeyond, type Entered } from './forecasts.ts';
export { holdAll, holdTexts } from './holds.ts';
export { buildRoutes } from './routes.ts';
