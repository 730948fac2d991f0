import { countAt, itemAt, numberAt, uint32At } from '../access/index.ts';
import { CONTENT, type Units } from './units.ts';

/** A theme in the making. A keyword meets it when it has a unit of each condition, or is one of `texts`. */
export type Node = {
  parent: Node | null;
  children: Node[];
  conditions: number[][];
  /** Whole keywords, where nothing tells them from their neighbours but the order of their words. */
  texts: ReadonlySet<string> | null;
  /** Units that all of its keywords have, its ancestors' included. */
  path: ReadonlySet<number>;
  /** What stands before what among siblings: the class of what is asked for, then when it was made. */
  rank: number;
  /** Keywords that no child takes. */
  rows: number[];
  /** Units that are not to divide it, since what they divide is too small. */
  spent: Set<number>;
  /** It stands for what its sub-themes have in common; no group is about that alone. */
  isFrame: boolean;
};

const WORST_CLASS = 4;

export function newNode(
  parent: Node,
  conditions: number[][],
  round: number,
  units: Units,
  texts: ReadonlySet<string> | null = null,
): Node {
  const single = conditions.flatMap((condition) => (condition.length === 1 ? condition : []));
  const worst = Math.max(
    ...conditions.flat().map((unit) => itemAt(units.classes, unit)),
    texts ? WORST_CLASS : CONTENT,
  );
  return {
    parent,
    children: [],
    conditions,
    texts,
    path: new Set([...parent.path, ...single]),
    rank: worst * 1_000 + round,
    rows: [],
    spent: new Set(),
    isFrame: false,
  };
}

export const newRoot = (path: ReadonlySet<number>): Node => ({
  parent: null,
  children: [],
  conditions: [],
  texts: null,
  path,
  rank: 0,
  rows: [],
  spent: new Set(),
  isFrame: false,
});

/** Every node below this one, parents first. */
export function* below(node: Node): Generator<Node> {
  for (const child of node.children) {
    yield child;
    yield* below(child);
  }
}

/** Everything that a node and those below it have. */
export function rowsUnder(node: Node): number[] {
  const rows = node.rows.slice();
  for (const one of below(node)) for (const row of one.rows) rows.push(row);
  return rows;
}

/**
 * Deals rows out in a tree, each to the first child whose conditions it meets and within it again; what meets none
 * stays where it came to. O(rows × units of each).
 */
export class Dealer {
  private readonly indexes = new Map<Node, ChildIndex>();

  constructor(
    private readonly units: Units,
    private readonly frequency: Uint32Array,
  ) {}

  /** Deals rows out that are with no node by now, from `start` on. */
  deal(start: Node, rows: ArrayLike<number>): void {
    for (let at = 0; at < rows.length; at++) {
      const row = countAt(rows, at);
      let node = start;
      while (node.children.length > 0) {
        const next = this.firstMet(node, row);
        if (!next) break;
        node = next;
      }
      node.rows.push(row);
    }
  }

  /** Gives a node children more, and deals out again what stood below it. */
  add(node: Node, made: readonly Node[]): void {
    const rows = rowsUnder(node);
    for (const one of [node, ...below(node)]) one.rows = [];
    node.children.push(...made);
    node.children.sort((a, b) => a.rank - b.rank);
    this.indexes.delete(node);
    this.deal(node, rows);
  }

  /** Takes a node out, and deals what stood below it out among those that are left. */
  remove(node: Node): void {
    const parent = node.parent as Node;
    const place = parent.children.indexOf(node);
    parent.children.splice(place, 1);
    // Places of the others stay in order, so that the index of one that is gone need only be passed over.
    this.indexes.get(parent)?.gone.add(node);
    for (const condition of node.conditions) for (const unit of condition) parent.spent.add(unit);
    this.deal(parent, rowsUnder(node));
    node.parent = null;
  }

  /** Puts the children of a node in its place; what it had itself is dealt out among the others. */
  dissolve(node: Node): void {
    const parent = node.parent as Node;
    const rows = rowsUnder(node);
    const place = parent.children.indexOf(node);
    for (const child of node.children) {
      child.parent = parent;
      child.conditions = [...node.conditions, ...child.conditions];
    }
    parent.children.splice(place, 1, ...node.children);
    for (const one of below(node)) one.rows = [];
    this.indexes.delete(parent);
    this.deal(parent, rows);
    node.parent = null;
    node.children = [];
  }

  private firstMet(node: Node, row: number): Node | null {
    const { units } = this;
    const index = this.indexes.get(node) ?? this.indexOf(node);
    let best: Node | null = null;
    let bestPlace = Number.POSITIVE_INFINITY;
    const end = uint32At(units.starts, row + 1);
    for (let at = uint32At(units.starts, row); at < end; at++) {
      const list = index.byUnit.get(uint32At(units.flat, at));
      if (!list) continue;
      for (const { place, child } of list) {
        if (place >= bestPlace) break;
        if (meets(child, row, units) && !index.gone.has(child)) {
          best = child;
          bestPlace = place;
        }
      }
    }
    for (const { place, child } of index.withTexts)
      if (place < bestPlace && !index.gone.has(child) && child.texts?.has(units.words.pool.normOf(row))) {
        best = child;
        bestPlace = place;
      }
    return best;
  }

  private indexOf(node: Node): ChildIndex {
    const index: ChildIndex = { byUnit: new Map(), withTexts: [], gone: new Set() };
    node.children.forEach((child, place) => {
      if (child.texts) index.withTexts.push({ place, child });
      for (const unit of this.rarest(child.conditions)) {
        const list = index.byUnit.get(unit);
        if (list) list.push({ place, child });
        else index.byUnit.set(unit, [{ place, child }]);
      }
    });
    this.indexes.set(node, index);
    return index;
  }

  /** The condition that fewest keywords meet: the others need be looked at for those alone. */
  private rarest(conditions: readonly (readonly number[])[]): readonly number[] {
    const count = (list: readonly number[]) =>
      list.reduce((sum, unit) => sum + uint32At(this.frequency, unit), 0);
    let best: readonly number[] = conditions[0] ?? [];
    for (const list of conditions) if (count(list) < count(best)) best = list;
    return best;
  }
}

type Indexed = { place: number; child: Node };
/** Children by a unit of the condition that fewest meet; those with texts are looked at for each row. */
type ChildIndex = { byUnit: Map<number, Indexed[]>; withTexts: Indexed[]; gone: Set<Node> };

function meets({ conditions }: Node, row: number, units: Units): boolean {
  for (const condition of conditions) {
    let met = false;
    for (let at = 0; at < condition.length && !met; at++) met = units.has(row, numberAt(condition, at));
    if (!met) return false;
  }
  return true;
}
