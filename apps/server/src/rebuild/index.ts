export { rebuild, rebuildJob } from './rebuild.ts';
