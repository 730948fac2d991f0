import type { Origin } from '@sprig/core/figures';
import { type KeywordState, keywordStates } from '@sprig/core/sort';
import type { KeptSift } from './kept-columns.ts';
import type { Histogram, Measured } from './pool-shown.ts';

/** A column that was kept as it is, by its heading. */
export type KeptSort = `kept:${string}`;

/** What the pool's table can be ordered by. */
export type PoolSort = 'made' | 'text' | 'searches' | 'cpc' | 'competition' | KeptSort;

/** A keyword is cut before it is folded, folded before it is blocked. */
export const poolStates = keywordStates;

export type PoolState = KeywordState;

export type PoolQuery = {
  /** Every word must occur in the keyword; a word after `-` must not. */
  filter: string;
  sort: PoolSort;
  down: boolean;
  state: PoolState | 'all';
  source: number | null;
  /** Least and greatest searches; null: open. */
  from: number | null;
  to: number | null;
  /** Least and greatest CPC, in micros, and competition; null: open. */
  cpcFrom: number | null;
  cpcTo: number | null;
  competitionFrom: number | null;
  competitionTo: number | null;
  /** Only keywords whose searches are of this origin. */
  origin: OriginKind | 'all';
  /** What columns that were kept as they are have to hold. */
  kept: readonly KeptSift[];
};

/** Where a figure is from, as it is sifted by: told covers by hand, estimated covers taken. */
export const originKinds = ['told', 'estimated', 'made-up', 'none'] as const;

export type OriginKind = (typeof originKinds)[number];

export const kindOf = (origin: Origin | null): OriginKind => {
  if (origin === null) return 'none';
  if (origin === 'hand') return 'told';
  if (origin === 'taken') return 'estimated';
  return origin;
};

/** Everything that is in, most searched first. */
export const wholePool: PoolQuery = {
  filter: '',
  sort: 'searches',
  down: true,
  state: 'in',
  source: null,
  from: null,
  to: null,
  cpcFrom: null,
  cpcTo: null,
  competitionFrom: null,
  competitionTo: null,
  origin: 'all',
  kept: [],
};

/** One row of the pool as the table shows it. */
export type PoolRow = {
  id: number;
  text: string;
  asked: number;
  /** It was set by hand in which match types it is built. */
  isAskedByHand: boolean;
  state: PoolState;
  /** The keyword it is folded into. */
  foldedInto: string | null;
  /** The negative that blocks it, by id; minus that of a shared one. */
  blockedBy: number | null;
  apart: boolean;
  competition: number | null;
  searches: number | null;
  searchesAbout: boolean;
  cpc: number | null;
  cpcAbout: boolean;
  sources: number[];
  figuresFrom: number | null;
  /** Where each figure is from; null: there is none. */
  from: Record<Measured, Origin | null>;
  /** The look-alike that the searches were told of. */
  toldOf: string | null;
  /** What stands in columns that were kept as they are, of those that are shown. */
  kept: Readonly<Record<string, string>>;
};

export type PoolOrder = {
  ids: Uint32Array;
  /** The sum of what is told, of the means of what is estimated, and of what is made up; and the latter two alone. */
  searches: number;
  estimated: number;
  madeUp: number;
  withCpc: number;
  histogram: Histogram;
};

/** What a source brings, and of that what only it brings. */
export type SourceTotals = { keywords: number; searches: number; onlyHere: number; onlySearches: number };

export const isKept = (sort: PoolSort): sort is KeptSort => sort.startsWith('kept:');

export const headingOf = (sort: KeptSort): string => sort.slice('kept:'.length);
