export { costBeyond, type Entered, MOST_ASKED } from './forecasts.ts';
export { holdAll, holdTexts } from './holds.ts';
export { buildRoutes } from './routes.ts';
