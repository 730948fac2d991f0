import type { LanguagePack } from '../text/index.ts';
import { KeywordSpelling } from './keyword-spelling.ts';
import { type LookAlikeClass, type LookAlikePool, lookAlikeClasses } from './look-alike-classes.ts';

export type LookAlike = {
  /** Place in the pool. */
  at: number;
  /** The most unsure class that ties it to the keeper. */
  by: LookAlikeClass;
};

export type LookAlikeGroup = {
  /** Place of the keyword to keep: most searches, then shortest, then first by code point. */
  keeper: number;
  /** The others, most searched first. */
  others: LookAlike[];
  /** The sum of everyone's searches: at most, since sources often give close variants one shared figure. */
  searches: number;
};

export type LookAlikeInput = {
  pool: LookAlikePool;
  classes: readonly LookAlikeClass[];
  pack: LanguagePack;
  /** Ordinary words, which are never taken for misspellings. */
  isOrdinary: (word: string) => boolean;
};

/**
 * Groups of keywords that are the same search in other clothes, most searched first. Each class is a rewriting of a
 * keyword's words; two keywords are alike when they are written the same under all chosen classes together, so that
 * classes combine. Groups come from hashing what is written, misspellings from a deletion index over the words.
 * O(total words).
 */
export function lookAlikes({ pool, classes, pack, isOrdinary }: LookAlikeInput): LookAlikeGroup[] {
  const spelling = new KeywordSpelling(pool, new Set(classes), pack, isOrdinary);
  const written = spelling.under(new Set(classes));
  const groups = new Map<string, number[]>();
  const first = new Map<string, number>();
  for (let at = 0; at < pool.length; at++) {
    const key = written(at);
    const before = first.get(key);
    if (before === undefined) {
      first.set(key, at);
      continue;
    }
    const group = groups.get(key);
    if (group) group.push(at);
    else groups.set(key, [before, at]);
  }
  return [...groups.values()]
    .map((members) => toGroup(members, pool, spelling, classes))
    .sort((a, b) => b.searches - a.searches || compare(pool.normOf(a.keeper), pool.normOf(b.keeper)));
}

/**
 * What each keyword is written as under a set of classes; those that are written the same are alike. Of keywords that
 * share a spelling `lookAlikes` makes a group.
 */
export function lookAlikeSignatures(
  pool: LookAlikePool,
  classes: readonly LookAlikeClass[],
  pack: LanguagePack,
  isOrdinary: (word: string) => boolean,
): (at: number) => string {
  const chosen = new Set(classes);
  return new KeywordSpelling(pool, chosen, pack, isOrdinary).under(chosen);
}

function toGroup(
  members: number[],
  pool: LookAlikePool,
  spelling: KeywordSpelling,
  classes: readonly LookAlikeClass[],
): LookAlikeGroup {
  const [keeper = 0, ...others] = members.sort((a, b) => byKeeping(a, b, pool));
  const searches = members.reduce((sum, at) => sum + Math.max(0, pool.searchesOf(at)), 0);
  return {
    keeper,
    others: others.map((at) => ({ at, by: tieBetween(keeper, at, spelling, classes) })),
    searches,
  };
}

/** The first class, with the surer ones before it, under which both are written the same. */
function tieBetween(
  keeper: number,
  other: number,
  spelling: KeywordSpelling,
  classes: readonly LookAlikeClass[],
): LookAlikeClass {
  const used = new Set<LookAlikeClass>();
  for (const one of lookAlikeClasses) {
    if (!classes.includes(one)) continue;
    used.add(one);
    const written = spelling.under(used);
    if (written(keeper) === written(other)) return one;
  }
  return 'spelling';
}

const compare = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);

/** The keyword to keep comes first. */
export function byKeeping(a: number, b: number, pool: LookAlikePool): number {
  const [one, other] = [pool.normOf(a), pool.normOf(b)];
  return (
    pool.searchesOf(b) - pool.searchesOf(a) || [...one].length - [...other].length || compare(one, other)
  );
}
