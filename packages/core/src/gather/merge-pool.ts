import { type Origin, originOf } from '../figures/index.ts';
import type { MatchSet } from '../match/index.ts';
import type { Micros } from '../money/index.ts';
import type { SaidFigures } from './read-rows.ts';

/** What a source says of a keyword. */
export type Figures = {
  searches: number | null;
  searchesAbout: boolean;
  cpc: Micros | null;
  cpcAbout: boolean;
  /** 0 to 100. */
  competition: number | null;
};

/** What one source says of one keyword; `toldOf`: the figures were told of this look-alike of it. */
export type Mention = Figures & {
  source: number;
  kind: string;
  asked: MatchSet;
  marks: readonly number[];
  toldOf: string | null;
};

/** Bits of `hand`: which figures, and whether the match types, were set by hand. */
export const BY_HAND = { searches: 1, cpc: 2, competition: 4, asked: 8 } as const;

/**
 * What the pool holds of a keyword by all that its sources say. The figures that stand first are those that hand or
 * lists told; what was made up, and an estimate that was taken, stand beside them and never in their place.
 */
export type PooledFigures = Figures & {
  /** The source of the told figures; null where there are none. */
  from: number | null;
  hand: number;
  toldOf: string | null;
  takenCpc: Micros | null;
  madeSearches: number | null;
  madeCpc: Micros | null;
  madeCompetition: number | null;
};

export const noFigures: PooledFigures = {
  searches: null,
  searchesAbout: false,
  cpc: null,
  cpcAbout: false,
  competition: null,
  from: null,
  hand: 0,
  toldOf: null,
  takenCpc: null,
  madeSearches: null,
  madeCpc: null,
  madeCompetition: null,
};

/** The figures that a line of a list says. */
export const figuresOf = ({ searches, cpc, competition }: Omit<SaidFigures, 'extra'>): Figures => ({
  searches: searches?.value ?? null,
  searchesAbout: searches?.approximate ?? false,
  cpc: cpc?.value ?? null,
  cpcAbout: cpc?.approximate ?? false,
  competition: competition?.value ?? null,
});

const union = (a: readonly number[], b: readonly number[]): readonly number[] =>
  b.length === 0 ? a : [...new Set([...a, ...b])].sort((one, other) => one - other);

/**
 * What the pool holds of a keyword by all that its sources say, the least trusted of a kind first: each figure is the
 * last one's that has it; the match types and marks are everyone's, or those set by hand. Told and made-up figures never mix.
 */
export function fromMentions(
  mentions: readonly Mention[],
): { asked: MatchSet; marks: readonly number[] } & PooledFigures {
  const sum = { asked: 0, marks: [] as readonly number[], ...noFigures };
  for (const mention of mentions) {
    sum.asked |= mention.asked;
    sum.marks = union(sum.marks, mention.marks);
    take[originOf(mention.kind)](sum, mention);
  }
  return sum;
}

type Sum = PooledFigures & { asked: MatchSet; marks: readonly number[] };

const told = (sum: Sum, mention: Mention) => {
  if (mention.searches !== null) {
    sum.searches = mention.searches;
    sum.searchesAbout = mention.searchesAbout;
    sum.toldOf = mention.toldOf;
  }
  if (mention.cpc !== null) {
    sum.cpc = mention.cpc;
    sum.cpcAbout = mention.cpcAbout;
  }
  if (mention.competition !== null) sum.competition = mention.competition;
  if (mention.searches !== null || mention.cpc !== null || mention.competition !== null)
    sum.from = mention.source;
};

const take: Record<Origin, (sum: Sum, mention: Mention) => void> = {
  told,
  hand: (sum, mention) => {
    told(sum, mention);
    if (mention.searches !== null) sum.hand |= BY_HAND.searches;
    if (mention.cpc !== null) sum.hand |= BY_HAND.cpc;
    if (mention.competition !== null) sum.hand |= BY_HAND.competition;
    if (mention.asked === 0) return;
    sum.hand |= BY_HAND.asked;
    sum.asked = mention.asked;
    sum.marks = mention.marks;
  },
  taken: (sum, { cpc }) => {
    sum.takenCpc = cpc ?? sum.takenCpc;
  },
  // What is estimated is never said by a source.
  estimated: () => {},
  'made-up': (sum, { searches, cpc, competition }) => {
    sum.madeSearches = searches ?? sum.madeSearches;
    sum.madeCpc = cpc ?? sum.madeCpc;
    sum.madeCompetition = competition ?? sum.madeCompetition;
  },
};
