import type { GapClass } from '@sprig/core/gather';
import { emptyRecipe, type Recipe } from '@sprig/core/mix';

const unique = (list: string[]) => [...new Set(list.filter((text) => text !== ''))];

/**
 * A recipe of a class and its contexts: a list of its members, one of what stands before them and one of what stands
 * behind, and a pattern for each that there is; contexts with words on both sides are a pattern of their own.
 */
export function recipeOf({ fillers, contexts }: GapClass, name: string): Recipe {
  const before = unique(contexts.flatMap((one) => (one.behind === '' ? [one.before] : [])));
  const behind = unique(contexts.flatMap((one) => (one.before === '' ? [one.behind] : [])));
  const around = contexts.filter((one) => one.before !== '' && one.behind !== '');
  const list = (id: number, title: string, lines: string[]) => ({
    id,
    kind: 'own' as const,
    name: title,
    text: lines.join('\n'),
    takes: [],
  });
  const member = { kind: 'list' as const, list: 1, optional: false };
  const slot = (id: number) => ({ kind: 'list' as const, list: id, optional: false });
  const word = (text: string) => ({ kind: 'word' as const, text });
  const recipe = emptyRecipe(name);
  recipe.lists.push(list(1, 'Members', fillers));
  if (before.length > 0) {
    recipe.lists.push(list(2, 'Before', before));
    recipe.patterns.push({ id: 1, slots: [slot(2), member], flip: false });
  }
  if (behind.length > 0) {
    recipe.lists.push(list(3, 'Behind', behind));
    recipe.patterns.push({ id: 2, slots: [member, slot(3)], flip: false });
  }
  around.slice(0, 6).forEach((one, at) => {
    recipe.patterns.push({ id: 3 + at, slots: [word(one.before), member, word(one.behind)], flip: false });
  });
  return recipe;
}
