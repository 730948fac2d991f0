import type { PlanPool } from '@sprig/core/plan';

/** Texts in normal form as a pool of keywords of which nothing is known. */
export const poolOfTexts = (norms: readonly string[]): PlanPool => ({
  length: norms.length,
  isIn: () => true,
  stateOf: () => 'in',
  idOf: (row) => row + 1,
  rowOf: (id) => (id <= norms.length ? id - 1 : undefined),
  textOf: (row) => norms[row] as string,
  normOf: (row) => norms[row] as string,
  askedOf: () => 0,
  marksOf: () => NONE,
  searchesOf: () => -1,
  cpcOf: () => -1,
  takenCpcOf: () => -1,
  sourcesOf: () => NONE,
});

const NONE: readonly number[] = [];
