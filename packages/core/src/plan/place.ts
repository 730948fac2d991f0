import {
  type Placing,
  PoolWords,
  placeKeywords,
  placesOfRows,
  Signals,
  type StageOf,
  signalsFor,
  stageOfRow,
  type Theme,
} from '../sort/index.ts';
import type { FunnelStage, LanguagePack } from '../text/index.ts';
import type { PlacingRules, PlanPool } from './source.ts';

/** The words of a pool. O(total words). */
export const wordsOf = (pool: PlanPool, pack: LanguagePack): PoolWords => new PoolWords(pool, pack);

/** The signal words and places that the pool has. */
export const signalsOf = (
  words: PoolWords,
  { signals, places }: Pick<PlacingRules, 'signals' | 'places'>,
): Signals => new Signals(words, signalsFor(words.pack, signals, places.flat()));

/** What stands where, and why. */
export type Placed = {
  words: PoolWords;
  signals: Signals;
  placing: Placing;
  /** The theme that a keyword is held in by hand, by row. */
  held: ReadonlyMap<number, number>;
  stageOf: (row: number) => StageOf;
  /** The place that a row names, by the place's own name. */
  placeOf: (row: number) => string | null;
};

/**
 * Places every keyword that is in: the first step of building a plan, and the same wherever it is done. What was worked
 * out of the pool before may be handed in; it must be of this very pool, language, signals and places.
 */
export function place(
  pool: PlanPool,
  rules: PlacingRules,
  words = wordsOf(pool, rules.pack),
  signals = signalsOf(words, rules),
): Placed {
  const held = new Map<number, number>();
  const heldStages = new Map<number, FunnelStage>();
  for (const { keyword, theme, stage } of rules.placed) {
    const row = pool.rowOf(keyword);
    if (row === undefined) continue;
    if (theme !== null) held.set(row, theme);
    if (stage !== null) heldStages.set(row, stage);
  }
  const placing = placeKeywords(words, {
    themes: rules.themes,
    held,
    // A rule by stage sees what words and hands say: what themes say of the stage follows from the placing.
    stageOf: (row) => heldStages.get(row) ?? signals.stageOf(row),
  });
  const byId = new Map<number, Theme>(rules.themes.map((theme) => [theme.id, theme]));
  return {
    words,
    signals,
    placing,
    held,
    stageOf: (row) => stageOfRow(row, signals, heldStages, placing, byId),
    placeOf: placesOfRows(words, rules.places),
  };
}
