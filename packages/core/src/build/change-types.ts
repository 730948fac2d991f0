import type { MatchSet } from '../match/index.ts';

/** What becomes of the match types of a keyword; `as-asked`: what was set by hand is given back. */
export type TypesChange = { kind: 'set' | 'add' | 'take'; types: MatchSet } | { kind: 'as-asked' };

/** A keyword with the types that it is built in, or would be, and whether these were set by hand. */
export type TypedKeyword = { types: MatchSet; isByHand: boolean };

/**
 * The types that a keyword is to be set to by hand; 0: what was set is given back; null: nothing changes; `bare`: it would
 * be left with none.
 */
export function changedTypes(
  { types, isByHand }: TypedKeyword,
  change: TypesChange,
): MatchSet | null | 'bare' {
  if (change.kind === 'as-asked') return isByHand ? 0 : null;
  const after = { set: change.types, add: types | change.types, take: types & ~change.types }[change.kind];
  if (after === 0) return 'bare';
  return after === types ? null : after;
}
