export type { Change, Scratch } from './change.ts';
export { type CollectionName, collectionNames, type InputRow } from './collections.ts';
export { collectionsIn, type Diff, sizesOf, unfolded, unpackDiff } from './diff.ts';
export { inChange, inNewPlan, inPreparedChange } from './in-change.ts';
export { FIGURES_DAY, refreshKeywords, refreshQuietly } from './refresh-keywords.ts';
export { sharedNote } from './shared-note.ts';
export { setAside } from './source-rows.ts';
export { type Follow, redo, stepsOf, undo, undoOne } from './step-back.ts';
