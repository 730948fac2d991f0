import type { SizeNode } from './size-tree.ts';

export type Block = {
  /** What it stands for; of what is too narrow to be hit, the node whose rest it is. */
  node: SizeNode;
  kind: SizeNode['kind'] | 'rest';
  key: string;
  name: string;
  /** 0: the top; what has nothing below it reaches down to the lowest row. */
  row: number;
  rows: number;
  x: number;
  width: number;
  /** What its width stands for. */
  value: number;
  groups: number;
};

/** Narrower than this a block can't be hit. */
export const LEAST_WIDTH = 5;
const GAP = 1;
const ROWS = 3;

/**
 * Three rows: what is on top side by side, or what is zoomed into; below each what it holds, and below that once more. Each is
 * as wide as its share of what is above it, but never too narrow to be hit; what does not fit so stands together as the rest.
 * Without figures the width is shared evenly.
 */
export function icicleLayout(top: readonly SizeNode[], width: number): Block[] {
  const blocks: Block[] = [];
  const lay = (
    nodes: readonly SizeNode[],
    row: number,
    from: number,
    room: number,
    above: SizeNode | null,
  ) => {
    const most = Math.max(1, Math.floor(room / LEAST_WIDTH));
    const isCut = nodes.length > most;
    const shown = isCut ? nodes.slice(0, most - 1) : nodes;
    const others = isCut ? nodes.slice(most - 1) : [];
    const sum = (list: readonly SizeNode[]) => list.reduce((all, { value }) => all + value, 0);
    const sizes = [...shown.map(({ value }) => value), ...(isCut ? [sum(others)] : [])];
    const places = spreadAtLeast(sizes, from, room, LEAST_WIDTH);
    shown.forEach((node, at) => {
      const { x, width: own } = places[at] as Place;
      const below = row < ROWS - 1 ? node.children() : [];
      const rows = below.length === 0 ? ROWS - row : 1;
      const { key, name, kind, value } = node;
      blocks.push({ node, kind, key, name, row, rows, x, width: own, value, groups: node.groups.length });
      if (below.length > 0) lay(below, row + 1, x, own + GAP, node);
    });
    const rest = places[shown.length];
    if (!isCut || !rest || !above) return;
    const groups = others.reduce((all, node) => all + node.groups.length, 0);
    blocks.push({
      node: above,
      kind: 'rest',
      key: `rest ${above.key}`,
      name: `${groups.toLocaleString('en')} more`,
      row,
      rows: ROWS - row,
      ...rest,
      value: sum(others),
      groups,
    });
  };
  lay(top, 0, 0, width, null);
  return blocks;
}

type Place = { x: number; width: number };

/** Places side by side in proportion to their sizes, none narrower than `least` where all of them fit so. */
export function spreadAtLeast(sizes: readonly number[], from: number, width: number, least: number): Place[] {
  const total = sizes.reduce((sum, size) => sum + Math.max(0, size), 0);
  const isFlat = total <= 0 || sizes.length * least >= width;
  const narrow = new Set<number>();
  const widthOf = (at: number): number => {
    if (isFlat) return width / sizes.length;
    if (narrow.has(at)) return least;
    const left = width - narrow.size * least;
    const wide = sizes.reduce((sum, size, one) => sum + (narrow.has(one) ? 0 : Math.max(0, size)), 0);
    return (Math.max(0, sizes[at] as number) / wide) * left;
  };
  // What is raised to the least takes from the others, which may fall below it in turn.
  for (let before = -1; !isFlat && before !== narrow.size; ) {
    before = narrow.size;
    const found = sizes.flatMap((_, at) => (!narrow.has(at) && widthOf(at) < least ? [at] : []));
    for (const at of found) narrow.add(at);
  }
  let x = from;
  return sizes.map((_, at) => {
    const own = widthOf(at);
    const place = { x, width: Math.max(0, own - GAP) };
    x += own;
    return place;
  });
}

/** Places side by side in proportion to their sizes; evenly where none has one. */
export function spread(sizes: readonly number[], from: number, width: number): Place[] {
  return spreadAtLeast(sizes, from, width, 0);
}
