import type { Assumptions, Origin } from '@sprig/core/figures';
import type { DropReason, MixProblem, Recipe, SharedWords, WordProblem } from '@sprig/core/mix';

/** A recipe as it is being edited, with what it is made with. */
export type MixQuestion = {
  recipe: Recipe;
  /** The pool's source that it is; null while it is not in the pool. */
  source: number | null;
  shared: readonly SharedWords[];
  places: readonly (readonly string[])[];
  brands: readonly string[];
  offers: readonly string[];
  language: string;
  functionWords: string[] | null;
  cuts: readonly string[];
  /** Of the outlets that the plan ships to. */
  limits: { words: number; length: number };
  assumptions: Assumptions;
};

export type MixSummary = {
  /** Before anything is dropped; in digits, since it may be larger than any number. */
  combinations: string;
  made: number;
  cut: number;
  /** Of those made and not cut: new to the pool, or brought by this recipe alone; and brought by others too. */
  fresh: number;
  elsewhere: number;
  byPattern: { id: number; made: number }[];
  dropped: Record<DropReason, { count: number; sample: string[] }>;
  problems: MixProblem[];
  first: string[];
  random: string[];
  lists: {
    id: number;
    /** The first of them, in their order: what one can be chosen of. */
    entries: string[];
    problems: WordProblem[];
    repeated: number;
    marked: number;
    ownLines: number;
  }[];
};

/** What is known of the combinations so far. Where there are too many to look at each, a sample stands for all. */
export type MixFigures = {
  /** How many were looked at, of how many. */
  asked: number;
  of: number;
  isSample: boolean;
  /** Those with a figure, and of them those whose figure is no told one. */
  known: number;
  estimated: number;
  searched: number;
  searches: number;
  /** Of them, what is estimated, and what is made up. */
  estimatedSearches: number;
  madeUpSearches: number;
  /** Micros a month, of those that can be forecast: each bid for at its CPC. */
  cost: number;
  /** Micros, the mean over searches. */
  cpc: number | null;
  /** Lists most of whose entries bring next to no searches. */
  idle: { list: number; entries: number; idle: number; sample: string[] }[];
};

export type MixFilter = {
  text: string;
  state: 'all' | 'fresh' | 'elsewhere' | 'cut';
  sort: 'made' | 'searches' | 'text';
  down: boolean;
};

export type Combination = {
  at: number;
  text: string;
  pattern: number;
  isCut: boolean;
  /** Others bring it to the pool too. */
  elsewhere: boolean;
  searches: number | null;
  cpc: number | null;
  /** Where its searches are from; null: there are none. */
  from: Origin | null;
};
