import type { MatchSet } from '../match/index.ts';
import type { Micros } from '../money/index.ts';
import type { Figure } from './figure.ts';
import type { ReadKeyword } from './read-list.ts';

/** What a source says of a keyword, or what the pool takes from all of them. */
export type Figures = {
  searches: number | null;
  searchesAbout: boolean;
  cpc: Micros | null;
  cpcAbout: boolean;
  /** The source of the figures; null where there are none. */
  from: number | null;
};

export type PoolKeyword = { id: number; norm: string; asked: MatchSet; marks: readonly number[] } & Figures;

export type Merged = {
  added: ReadKeyword[];
  met: { keyword: ReadKeyword; pool: PoolKeyword; changed: boolean }[];
};

/**
 * Joins a list with the pool: a keyword that is there already gains the match types and marks it is asked in, and
 * each figure that the list has, as the newer. O(list).
 */
export function mergeIntoPool(
  list: readonly ReadKeyword[],
  poolOf: (norm: string) => PoolKeyword | undefined,
  source: number,
): Merged {
  const merged: Merged = { added: [], met: [] };
  for (const keyword of list) {
    const there = poolOf(keyword.norm);
    if (!there) merged.added.push(keyword);
    else merged.met.push({ keyword, ...joined(there, keyword, source) });
  }
  return merged;
}

function joined(
  there: PoolKeyword,
  keyword: ReadKeyword,
  source: number,
): { pool: PoolKeyword; changed: boolean } {
  const asked = there.asked | keyword.asked;
  const marks = union(there.marks, keyword.marks);
  const figures = newer(there, keyword, source);
  const changed = asked !== there.asked || marks.length !== there.marks.length || figures !== there;
  return { pool: { ...there, ...figures, id: there.id, norm: there.norm, asked, marks }, changed };
}

function newer(there: PoolKeyword, { searches, cpc }: ReadKeyword, source: number): Figures {
  if (!searches && !cpc) return there;
  const { searches: count, searchesAbout, cpc: amount, cpcAbout } = there;
  return {
    ...(searches
      ? { searches: searches.value, searchesAbout: searches.approximate }
      : { searches: count, searchesAbout }),
    ...(cpc ? { cpc: cpc.value, cpcAbout: cpc.approximate } : { cpc: amount, cpcAbout }),
    from: source,
  };
}

const union = (a: readonly number[], b: readonly number[]): readonly number[] =>
  b.length === 0 ? a : [...new Set([...a, ...b])].sort((one, other) => one - other);

/** The figures of a new keyword. */
export const figuresOf = (searches: Figure | null, cpc: Figure<Micros> | null, source: number): Figures => ({
  searches: searches?.value ?? null,
  searchesAbout: searches?.approximate ?? false,
  cpc: cpc?.value ?? null,
  cpcAbout: cpc?.approximate ?? false,
  from: searches || cpc ? source : null,
});

/**
 * What the pool holds of a keyword by all that its sources say, oldest first: each figure is the newest source's
 * that has one; the match types and marks are everyone's.
 */
export function fromMentions(
  mentions: readonly ({ source: number; asked: MatchSet; marks: readonly number[] } & Omit<
    Figures,
    'from'
  >)[],
): { asked: MatchSet; marks: readonly number[] } & Figures {
  const sum = { asked: 0, marks: [] as readonly number[], ...figuresOf(null, null, 0) };
  for (const mention of mentions) {
    sum.asked |= mention.asked;
    sum.marks = union(sum.marks, mention.marks);
    if (mention.searches !== null) {
      sum.searches = mention.searches;
      sum.searchesAbout = mention.searchesAbout;
    }
    if (mention.cpc !== null) {
      sum.cpc = mention.cpc;
      sum.cpcAbout = mention.cpcAbout;
    }
    if (mention.searches !== null || mention.cpc !== null) sum.from = mention.source;
  }
  return sum;
}
