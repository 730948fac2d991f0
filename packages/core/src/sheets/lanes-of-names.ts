import { bitOf, type MatchSet, type MatchType } from '../match/index.ts';

/** Where ad groups or campaigns keep match types apart: what stands behind their names, and the types of each. */
export type NamedLanes = {
  lanes: { name: string; types: MatchSet }[];
  split: (name: string) => [string, string];
};

/** Between a name and its lane: `kayak · Exact`, `kayak – Exact`, `kayak | Exact`, `kayak_exact`, `kayak (exact)`, `kayak [exact]`. */
const LAST = /^(.*\S)(?:\s+[·–—|-]\s+|_|\s+[([])([^·–—|_()[\]]+?)[)\]]?$/u;
const MOST = 4;

const splitName = (name: string): [string, string] => {
  const [, base = '', lane = ''] = LAST.exec(name) ?? [];
  return lane === '' ? [name, ''] : [base, lane.trim()];
};

/**
 * Finds out whether all names end with one of two to four words, each for match types of its own, so that what differs by
 * that word alone is one ad group in lanes; null where they do not. O(names).
 */
export function lanesOfNames(
  names: Iterable<readonly [name: string, types: ReadonlySet<MatchType>]>,
): NamedLanes | null {
  const lanes = new Map<string, { name: string; types: MatchSet }>();
  for (const [name, types] of names) {
    if (types.size === 0) continue;
    const [, lane] = splitName(name);
    if (lane === '') return null;
    const key = lane.toLowerCase();
    const there = lanes.get(key) ?? { name: lane, types: 0 };
    for (const type of types) there.types |= bitOf(type);
    lanes.set(key, there);
    if (lanes.size > MOST) return null;
  }
  if (lanes.size < 2) return null;
  let all = 0;
  for (const { types } of lanes.values()) {
    if (all & types) return null;
    all |= types;
  }
  return { lanes: [...lanes.values()], split: splitName };
}
