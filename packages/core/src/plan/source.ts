import type { Copied, Hold, Layout, PartsBefore } from '../build/index.ts';
import type { MatchSet } from '../match/index.ts';
import type { KeywordState, Theme } from '../sort/index.ts';
import type { Casing, FunnelStage, LanguagePack, SignalWord } from '../text/index.ts';

/** The pool in columns, by row, whoever keeps it; -1 stands for no figure. Figures are those by hand and told ones. */
export type PlanPool = {
  length: number;
  isIn: (row: number) => boolean;
  stateOf: (row: number) => KeywordState;
  idOf: (row: number) => number;
  /** The row of a keyword; undefined where it is not here. */
  rowOf: (id: number) => number | undefined;
  textOf: (row: number) => string;
  normOf: (row: number) => string;
  /** The match types it was asked for in; with `TYPES_BY_HAND` among them where they were set by hand. */
  askedOf: (row: number) => MatchSet;
  /** The words marked for modified broad, from 0; empty where none was asked for. */
  marksOf: (row: number) => readonly number[];
  searchesOf: (row: number) => number;
  /** Micros a click. */
  cpcOf: (row: number) => number;
  /** An estimate of the CPC that was taken, in micros. */
  takenCpcOf: (row: number) => number;
  /** The first one first. */
  sourcesOf: (row: number) => readonly number[];
};

/** What is placed by hand: the theme that a keyword is held in (0: none of them), its stage, or both. */
export type PlacedByHand = { keyword: number; theme: number | null; stage: FunnelStage | null };

/** What keywords are placed by. */
export type PlacingRules = {
  pack: LanguagePack;
  /** null: the language's own. */
  signals: readonly SignalWord[] | null;
  /** Each place's name and then its other names. */
  places: readonly (readonly string[])[];
  themes: readonly Theme[];
  placed: readonly PlacedByHand[];
};

/** Keywords of a part of a unit (`t5`, `t5f3`) that was split when the plan was built last. */
export type StoodPart = { unit: string; part: number; keywords: readonly number[] };

/** The parts in which keywords stood, as laying out asks for them. O(keywords). */
export function partsBefore(parts: readonly StoodPart[]): PartsBefore {
  const units = new Map<string, Map<number, number>>();
  for (const { unit, part, keywords } of parts) {
    const known = units.get(unit) ?? new Map<number, number>();
    units.set(unit, known);
    for (const keyword of keywords) known.set(keyword, part);
  }
  return (unit, keyword) => units.get(unit)?.get(keyword) ?? 0;
}

/** What placed keywords are laid out by. */
export type LayoutRules = {
  layout: Layout;
  holds: readonly Hold[];
  casing: Casing;
  /** The names of sources. */
  sources: ReadonlyMap<number, string>;
  copies: readonly Copied[];
  /** The most keyword rows that an ad group may hold at the outlet that is built for. */
  rowsPerGroup: number;
  /** Where keywords stood before, so that nothing moves that need not; `noPartsBefore` in a plan that was never built. */
  partBefore: PartsBefore;
};
