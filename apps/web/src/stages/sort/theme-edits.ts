import type { Sift } from '@sprig/core/sort';
import { sentenceOf, tidySift } from '@sprig/core/sort';
import type { ThemeNode, ThemeTree } from './theme-tree.ts';

/**
 * One rule that picks what any of several does; null where no one sentence can say it: they must be the same but for
 * one condition, whose terms go together.
 */
export function mergedRule(sifts: readonly (Sift | null)[]): Sift | null {
  const [first, ...others] = sifts;
  if (!first || others.length === 0) return null;
  let has = first.has;
  for (const other of others) {
    if (!other || other.has.length !== has.length) return null;
    const same = { ...first, has: [] };
    if (JSON.stringify({ ...other, has: [] }) !== JSON.stringify(same)) return null;
    const differing = has.flatMap((terms, at) =>
      JSON.stringify(terms) === JSON.stringify(other.has[at]) ? [] : [at],
    );
    const [at] = differing;
    if (at === undefined) continue;
    if (differing.length > 1) return null;
    has = has.map((terms, place) => (place === at ? [...terms, ...(other.has[at] ?? [])] : terms));
  }
  return tidySift({ ...first, has });
}

/** Where a theme goes when it is moved one step among its siblings, into the one above, or out of its parent. */
export function stepOf(
  tree: ThemeTree,
  node: ThemeNode,
  step: 'up' | 'down' | 'in' | 'out',
): { parent: number | null; before: number | null } | null {
  const parent = node.parent === null ? undefined : tree.byId.get(node.parent);
  const siblings = parent?.children ?? tree.roots;
  const place = siblings.indexOf(node);
  const at = (index: number) => siblings[index]?.id ?? null;
  switch (step) {
    case 'up':
      return place > 0 ? { parent: node.parent, before: at(place - 1) } : null;
    case 'down':
      return place < siblings.length - 1 ? { parent: node.parent, before: at(place + 2) } : null;
    case 'in':
      return place > 0 ? { parent: at(place - 1), before: null } : null;
    case 'out': {
      if (!parent) return null;
      const above = parent.parent === null ? tree.roots : (tree.byId.get(parent.parent)?.children ?? []);
      return { parent: parent.parent, before: above[above.indexOf(parent) + 1]?.id ?? null };
    }
  }
}

/** A name for a theme of this rule: the first term of each condition. */
export function nameOfRule(sift: Sift): string {
  const parts = sift.has.map(([term = '']) => term.replace(/^=/, '').replaceAll('"', ''));
  return (parts.join(' ') || sentenceOf(sift) || 'Theme').slice(0, 110);
}
