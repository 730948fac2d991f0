import type { WordList } from '@sprig/contracts';
import type { Recipe, RecipeList } from '@sprig/core/mix';
import { useMemo } from 'react';

/** A list as it is being typed, before it is kept. */
export type Draft = { list: RecipeList; text: string } | null;

/** The recipe and the shared lists with the list on top that is being typed. */
export function useDrafted(recipe: Recipe, shared: WordList[], draft: Draft) {
  return useMemo(() => {
    if (!draft) return { recipe, shared };
    const { list, text } = draft;
    if (list.kind === 'shared')
      return { recipe, shared: shared.map((one) => (one.id === list.list ? { ...one, text } : one)) };
    const lists = recipe.lists.map((one) =>
      one.id === list.id && one.kind === 'own' ? { ...one, text } : one,
    );
    return { recipe: { ...recipe, lists }, shared };
  }, [recipe, shared, draft]);
}
