import { NegativeIndex, type NegativeKeyword } from '../match/index.ts';

/** A negative that blocks keywords of the plan itself, with the places of those keywords. */
export type Conflict = { negative: number; blocked: number[] };

/** A plan's keywords that are in: only the n-th that `isIn` says. */
export type ConflictPool = { length: number; isIn: (at: number) => boolean; normOf: (at: number) => string };

/**
 * The negatives that block an enabled keyword of the plan, its text taken as a search, most blocked first. Exact
 * fences are not to be passed in: they are made to stand beside their keyword. O(total words).
 */
export function conflictsOf(pool: ConflictPool, negatives: readonly NegativeKeyword[]): Conflict[] {
  const index = new NegativeIndex(negatives);
  const found = new Map<number, number[]>();
  for (let at = 0; at < pool.length; at++) {
    if (!pool.isIn(at)) continue;
    const norm = pool.normOf(at);
    if (index.blocking(norm) === undefined) continue;
    for (const id of index.allBlocking(norm)) {
      const list = found.get(id);
      if (list) list.push(at);
      else found.set(id, [at]);
    }
  }
  return Array.from(found, ([negative, blocked]) => ({ negative, blocked })).sort(
    (a, b) => b.blocked.length - a.blocked.length || a.negative - b.negative,
  );
}
