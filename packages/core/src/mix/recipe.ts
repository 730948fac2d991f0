/** Facts of the brief that a list can be made of; it follows them. */
export const briefFacts = ['places', 'brands', 'offers'] as const;
export type BriefFact = (typeof briefFacts)[number];

/**
 * A list of a recipe. `text` holds an entry to a line, its forms with `|` between them; `takes` are shared lists whose
 * lines come after its own. A shared list is kept with the workspace, and one of the brief with the plan's facts.
 */
export type RecipeList =
  | { id: number; kind: 'own'; name: string; text: string; takes: number[] }
  | { id: number; kind: 'shared'; list: number }
  | { id: number; kind: 'brief'; fact: BriefFact };

/** One place in a pattern: a list, which may be left out where it is optional, or a joining word. */
export type Slot = { kind: 'list'; list: number; optional: boolean } | { kind: 'word'; text: string };

/** A row of slots; with `flip` the same in reverse order comes after it. */
export type Pattern = { id: number; slots: Slot[]; flip: boolean };

/** One side of a pair that is never together: a word or run of words, or any entry of a list. */
export type Side = { kind: 'word'; text: string } | { kind: 'list'; list: number };
export type NeverPair = [Side, Side];

/** What makes no keyword by itself: a word or run of words, or the entries of a list, `but` those that do. */
export type AloneRule = { side: Side; but: string[] };

/** How word lists become keywords. Lists never combine across recipes. */
export type Recipe = {
  name: string;
  /** Off: it makes nothing, and keeps everything. */
  on: boolean;
  lists: RecipeList[];
  patterns: Pattern[];
  never: NeverPair[];
  alone: AloneRule[];
  /** A word may come twice. */
  repeats: boolean;
  /** Of each entry only the first form. */
  firstFormOnly: boolean;
};

export const emptyRecipe = (name: string): Recipe => ({
  name,
  on: true,
  lists: [],
  patterns: [],
  never: [],
  alone: [],
  repeats: false,
  firstFormOnly: false,
});

/** Above this many combinations, counted before anything is dropped, nothing is made. */
export const MOST_COMBINATIONS = 2_000_000;
