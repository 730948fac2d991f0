import {
  countPattern,
  type ListInputs,
  type Pattern,
  type Recipe,
  type ResolvedList,
  resolveLists,
  WordsReader,
} from '@sprig/core/mix';
import { useMemo, useRef } from 'react';

export type MixCounts = {
  lists: ResolvedList[];
  sizeOf: (list: number) => number;
  of: (pattern: Pattern) => bigint;
  total: bigint;
};

/**
 * The exact count of a recipe as it is typed, without making anything: only lines that changed are read again, and the
 * rest is multiplication.
 */
export function useCounts(recipe: Recipe, inputs: ListInputs): MixCounts {
  const readers = useRef(new Map<string, WordsReader>());
  return useMemo(() => {
    const lists = resolveLists(recipe.lists, inputs);
    const sizes = new Map(
      lists.map(({ id, text, circle }) => {
        const reader = readers.current.get(`${id}`) ?? new WordsReader();
        readers.current.set(`${id}`, reader);
        return [id, reader.take(circle ? '' : text).size(recipe.firstFormOnly)];
      }),
    );
    const sizeOf = (list: number) => sizes.get(list) ?? 0;
    const of = (pattern: Pattern) => (recipe.on ? countPattern(pattern, sizeOf) : 0n);
    const total = recipe.patterns.reduce((sum, pattern) => sum + of(pattern), 0n);
    return { lists, sizeOf, of, total };
  }, [recipe, inputs]);
}

/** How the first words of a pattern read, without making anything: the first form of each of its lists. */
export function firstOf(pattern: Pattern, lists: readonly ResolvedList[]): string {
  return pattern.slots
    .map((slot) => {
      if (slot.kind === 'word') return slot.text;
      const line = lists.find(({ id }) => id === slot.list)?.text.split('\n', 50) ?? [];
      return (
        line
          .find((one) => one.trim() !== '')
          ?.split('|')[0]
          ?.trim() ?? '…'
      );
    })
    .join(' ')
    .toLowerCase();
}
