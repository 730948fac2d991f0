export { refreshBlocks } from './blocks.ts';
export { pruneRoutes } from './routes.ts';
export { makeStarterLists } from './shared-lists.ts';
