export * from './build/bids.ts';
export * from './build/client-page.ts';
export * from './build/fences.ts';
export * from './build/holds.ts';
export * from './build/keys.ts';
export * from './build/rows.ts';
export * from './build/sets.ts';
export * from './build/summary.ts';
