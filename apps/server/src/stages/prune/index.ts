export { blockQuietly, refreshBlocks } from './blocks.ts';
export { soundNegatives } from './negatives.ts';
export { pruneRoutes } from './routes.ts';
export { makeStarterLists, tellOthers } from './shared-lists.ts';
