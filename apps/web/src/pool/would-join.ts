import { place } from '@sprig/core/plan';
import { rulesOf, type SortInput } from './sorting.ts';
import { poolOfTexts } from './texts-as-pool.ts';

export type JoinInput = Omit<SortInput, 'placed' | 'seen'>;

/** The theme whose rule would take each text in, were it a keyword of which nothing is known; null for none. O(total words). */
export function wouldJoin(norms: readonly string[], input: JoinInput): (string | null)[] {
  const { placing } = place(poolOfTexts(norms), rulesOf({ ...input, placed: [] }));
  const names = new Map(input.themes.map(({ id, name }) => [id, name]));
  return norms.map((_, row) => names.get(placing[row] as number) ?? null);
}
