import { PoolWords, placeKeywords, Signals, signalsFor } from '@sprig/core/sort';
import { languagePack } from '@sprig/core/text';
import type { SortInput } from './sorting.ts';

export type JoinInput = Pick<SortInput, 'language' | 'functionWords' | 'places' | 'themes' | 'settings'>;

/** The theme whose rule would take each text in, were it a keyword without searches; null for none. O(total words). */
export function wouldJoin(norms: readonly string[], input: JoinInput): (string | null)[] {
  const pool = {
    length: norms.length,
    isIn: () => true,
    normOf: (row: number) => norms[row] as string,
    searchesOf: () => -1,
  };
  const words = new PoolWords(pool, languagePack(input.language, input.functionWords));
  const signals = new Signals(words, signalsFor(words.pack, input.settings.signals, input.places));
  const placing = placeKeywords(words, { themes: input.themes, stageOf: (row) => signals.stageOf(row) });
  const names = new Map(input.themes.map(({ id, name }) => [id, name]));
  return norms.map((_, row) => names.get(placing[row] as number) ?? null);
}
