import { stringAt, uint32At } from '../access/index.ts';
import { normalise } from '../text/index.ts';
import type { PoolWords } from './pool-words.ts';

/**
 * Tells the place that a row names, by the place's own name: the first of its names that stands in the row as typed or
 * in another number, the longest at a word first. `places` has each place's name and then its other names.
 */
export function placesOfRows(
  words: PoolWords,
  places: readonly (readonly string[])[],
): (row: number) => string | null {
  const runs = new Map<number, { folds: number[]; name: string }[]>();
  for (const names of places)
    for (const written of names) {
      const folds = normalise(written)
        .split(' ')
        .map((word) => words.foldNumber(word));
      const [first] = folds;
      if (first === undefined || folds.some((fold) => fold === undefined)) continue;
      const run = { folds: folds as number[], name: stringAt(names, 0) };
      const list = runs.get(first);
      if (list) list.push(run);
      else runs.set(first, [run]);
    }
  for (const list of runs.values()) list.sort((a, b) => b.folds.length - a.folds.length);
  if (runs.size === 0) return () => null;
  const { starts, tokens, foldOf } = words;
  return (row) => {
    const to = uint32At(starts, row + 1);
    for (let at = uint32At(starts, row); at < to; at++)
      for (const { folds, name } of runs.get(uint32At(foldOf, uint32At(tokens, at))) ?? [])
        if (
          at + folds.length <= to &&
          folds.every((fold, next) => foldOf[uint32At(tokens, at + next)] === fold)
        )
          return name;
    return null;
  };
}
