export type { Change } from './change.ts';
export { type Changed, inChange, inNewPlan } from './in-change.ts';
export { redo, stepsOf, undo } from './step-back.ts';
