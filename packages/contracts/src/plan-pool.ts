import { TYPES_BY_HAND } from '@sprig/core/build';
import { BY_HAND } from '@sprig/core/gather';
import type { PlanPool } from '@sprig/core/plan';
import type { KeywordState } from '@sprig/core/sort';
import { CUT, type PoolColumns } from './pool-columns.ts';

/** A keyword is cut before it is folded, folded before it is blocked. */
export function stateIn({ flags, foldedInto, blockedBy }: PoolColumns, row: number): KeywordState {
  if ((flags[row] as number) & CUT) return 'cut';
  if (foldedInto[row] !== 0) return 'folded';
  return blockedBy[row] === 0 ? 'in' : 'blocked';
}

const NO_MARKS: readonly number[] = [];

/** The pool's columns as a plan is built of them. */
export const planPoolOf = (columns: PoolColumns, rowOf: (id: number) => number | undefined): PlanPool => ({
  length: columns.ids.length,
  isIn: (row) => stateIn(columns, row) === 'in',
  stateOf: (row) => stateIn(columns, row),
  idOf: (row) => columns.ids[row] as number,
  rowOf,
  textOf: (row) => columns.texts[row] as string,
  normOf: (row) => columns.norms[row] as string,
  askedOf: (row) =>
    (columns.asked[row] as number) + ((columns.hand[row] as number) & BY_HAND.asked ? TYPES_BY_HAND : 0),
  marksOf: (row) => columns.marks.get(columns.ids[row] as number) ?? NO_MARKS,
  searchesOf: (row) => columns.searches[row] as number,
  cpcOf: (row) => columns.cpc[row] as number,
  takenCpcOf: (row) => columns.takenCpc[row] as number,
  sourcesOf: (row) => columns.sources[row] as number[],
});
