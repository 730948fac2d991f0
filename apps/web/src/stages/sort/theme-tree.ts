import type { SortSettings, ThemeRow } from '@sprig/contracts';
import type { SortSummary, ThemeSum } from '../../pool/sorting.ts';

/** A theme with its sums and where it stands. */
export type ThemeNode = ThemeRow & {
  sum: ThemeSum;
  depth: number;
  /** Its own colour, or that of what it is in. */
  tone: number | null;
  children: ThemeNode[];
};

export type ThemeTree = { roots: ThemeNode[]; byId: ReadonlyMap<number, ThemeNode> };

const noSum = (id: number): ThemeSum => {
  const none = () => ({ keywords: 0, searches: 0 });
  return {
    id,
    own: none(),
    all: none(),
    held: 0,
    tightness: 1,
    stages: { early: none(), comparing: none(), ready: none(), none: none() },
  };
};

/** The themes as a tree; one whose parent is gone stands at the top. */
export function treeOf(themes: readonly ThemeRow[], summary: SortSummary | undefined): ThemeTree {
  const sums = new Map(summary?.themes.map((sum) => [sum.id, sum]));
  const byId = new Map(
    themes.map((theme): [number, ThemeNode] => [
      theme.id,
      { ...theme, sum: sums.get(theme.id) ?? noSum(theme.id), depth: 0, tone: theme.colour, children: [] },
    ]),
  );
  const roots: ThemeNode[] = [];
  for (const node of byId.values()) {
    const parent = node.parent === null ? undefined : byId.get(node.parent);
    (parent ? parent.children : roots).push(node);
  }
  const deepen = (nodes: ThemeNode[], depth: number, tone: number | null) => {
    for (const node of nodes) {
      node.depth = depth;
      node.tone = node.colour ?? tone;
      deepen(node.children, depth + 1, node.tone);
    }
  };
  deepen(roots, 0, null);
  return { roots, byId };
}

/** The themes from the top down to one, itself the last; none where it is not there. */
export function pathTo(tree: ThemeTree, id: number | null): ThemeNode[] {
  const path: ThemeNode[] = [];
  for (let node = id === null ? undefined : tree.byId.get(id); node; ) {
    path.unshift(node);
    node = node.parent === null ? undefined : tree.byId.get(node.parent);
  }
  return path;
}

/** All themes below some, parents first. */
export const allOf = (nodes: readonly ThemeNode[]): ThemeNode[] =>
  nodes.flatMap((node) => [node, ...allOf(node.children)]);

export type Flag = 'over' | 'under' | 'loose' | 'idea';

/** Below this the keywords of a group speak of too different things. */
const LOOSE_BELOW = 0.6;

/** What is to be seen to of a theme's own keywords. One that has none of its own is no group. */
export function flagsOf(
  { sum, idea }: Pick<ThemeNode, 'sum' | 'idea'>,
  { target, least, floor }: Pick<SortSettings, 'target' | 'least' | 'floor'>,
): Flag[] {
  const flags: Flag[] = idea ? ['idea'] : [];
  const { keywords, searches } = sum.own;
  if (keywords > target) flags.push('over');
  if (keywords > 0 && keywords < least && !(floor !== null && searches >= floor)) flags.push('under');
  if (keywords > 1 && sum.tightness < LOOSE_BELOW) flags.push('loose');
  return flags;
}

export const flagWords: Record<Flag, { name: string; about: string }> = {
  over: { name: 'over', about: 'More keywords than a group should have' },
  under: { name: 'few', about: 'Fewer keywords than a group needs' },
  loose: { name: 'loose', about: 'Its keywords speak of different things' },
  idea: { name: 'idea', about: 'A candidate: no group is made of it' },
};
