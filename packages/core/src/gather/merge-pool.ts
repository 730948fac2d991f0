import type { MatchSet } from '../match/index.ts';
import type { Micros } from '../money/index.ts';
import type { SaidFigures } from './read-rows.ts';

/** What a source says of a keyword, or what the pool takes from all of them. */
export type Figures = {
  searches: number | null;
  searchesAbout: boolean;
  cpc: Micros | null;
  cpcAbout: boolean;
  /** 0 to 100. */
  competition: number | null;
  /** The source of the figures; null where there are none. */
  from: number | null;
};

/** What one source says of one keyword. */
export type Mention = { source: number; asked: MatchSet; marks: readonly number[] } & Omit<Figures, 'from'>;

export const noFigures: Figures = {
  searches: null,
  searchesAbout: false,
  cpc: null,
  cpcAbout: false,
  competition: null,
  from: null,
};

/** The figures of a keyword that only this source has. */
export const figuresOf = (
  { searches, cpc, competition }: Omit<SaidFigures, 'extra'>,
  source: number,
): Figures => ({
  searches: searches?.value ?? null,
  searchesAbout: searches?.approximate ?? false,
  cpc: cpc?.value ?? null,
  cpcAbout: cpc?.approximate ?? false,
  competition: competition?.value ?? null,
  from: searches || cpc || competition ? source : null,
});

const union = (a: readonly number[], b: readonly number[]): readonly number[] =>
  b.length === 0 ? a : [...new Set([...a, ...b])].sort((one, other) => one - other);

/**
 * What the pool holds of a keyword by all that its sources say, oldest first: each figure is the newest source's
 * that has one; the match types and marks are everyone's. `from` is the newest source with any figure.
 */
export function fromMentions(
  mentions: readonly Mention[],
): { asked: MatchSet; marks: readonly number[] } & Figures {
  const sum = { asked: 0, marks: [] as readonly number[], ...noFigures };
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
    if (mention.competition !== null) sum.competition = mention.competition;
    if (mention.searches !== null || mention.cpc !== null || mention.competition !== null)
      sum.from = mention.source;
  }
  return sum;
}
