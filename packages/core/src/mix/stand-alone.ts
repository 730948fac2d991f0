import type { AloneRule } from './recipe.ts';

/** Whether what one slot brings may be a whole keyword by itself, by a recipe's rules. Plural or not is the same. */
export function standsAlone(
  rules: readonly AloneRule[],
  fold: (word: string) => string,
): (text: string, list: number | null) => boolean {
  const folded = (text: string) => text.split(' ').map(fold).join(' ');
  const words = new Set(rules.flatMap(({ side }) => (side.kind === 'word' ? [folded(side.text)] : [])));
  const lists = new Map<number, Set<string>>();
  for (const { side, but } of rules) {
    if (side.kind !== 'list') continue;
    const there = lists.get(side.list) ?? new Set<string>();
    for (const text of but) there.add(folded(text));
    lists.set(side.list, there);
  }
  return (text, list) => {
    if (words.has(folded(text))) return false;
    const but = list === null ? undefined : lists.get(list);
    return but === undefined || but.has(folded(text));
  };
}
