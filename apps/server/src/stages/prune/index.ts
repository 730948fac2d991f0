export { blockQuietly, refreshBlocks } from './blocks.ts';
export { pruneRoutes } from './routes.ts';
export { makeStarterLists, tellOthers } from './shared-lists.ts';
