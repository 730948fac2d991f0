export { adTexts } from './derived-rows.ts';
export { rebuild, rebuildJob } from './rebuild.ts';
