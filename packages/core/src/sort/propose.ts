import { countAt, gotten, itemAt, stringAt, uint32At } from '../access/index.ts';
import { type Group, groupsFromBelow } from './cores.ts';
import { divide } from './divide.ts';
import { below, Dealer, type Node, newNode, newRoot, rowsUnder } from './proposed-tree.ts';
import type { Sift } from './sift.ts';
import { writeTerm } from './sift-term.ts';
import { Tightness } from './tightness.ts';
import { CONTENT, type Units } from './units.ts';

export type ProposeOptions = {
  /** The most keywords of a group, and the fewest. */
  target: number;
  least: number;
  /** Groups with fewer keywords will do from so many searches a month on; null: never. */
  floor: number | null;
  /** The rows are those of a theme: what all of them have says nothing among them. */
  inside?: boolean;
};

export const usualSizes: ProposeOptions = { target: 20, least: 3, floor: null };

/** A theme that is proposed, with why. Its rule is for what its parent has. */
export type ProposedTheme = {
  /** By place in the list; parents stand before their sub-themes, siblings in the order in which rules are tried. */
  parent: number | null;
  name: string;
  sift: Sift;
  /** Of its own, without what its sub-themes take; rows, most searched first. */
  rows: number[];
  /** With all that its sub-themes have. */
  keywords: number;
  searches: number;
  /** Of its own keywords. */
  tightness: number;
};

export type Proposal = { themes: ProposedTheme[]; unplaced: number[] };

const MOST_ROUNDS = 24;
/** A theme that only frames others is given up for a few stray keywords where it has no more sub-themes than this. */
const SMALL_FRAME = 5;

/**
 * Proposes a full tree of themes for these rows: each group of keywords that speak of the same goods and traits, under
 * the good it is about, none larger than the target and none smaller than the least. Deterministic; each theme is a
 * rule, and each keyword stands where the rules put it. What fits nowhere stays unplaced.
 */
export function propose(units: Units, rows: ArrayLike<number>, options: ProposeOptions): Proposal {
  const searchesOf = (row: number) => Math.max(0, units.words.pool.searchesOf(row));
  const isEnough = (list: readonly number[]) =>
    list.length >= options.least ||
    (options.floor !== null && list.length > 0 && sumOf(list, searchesOf) >= options.floor);
  const everywhere = options.inside ? unitsOfAll(units, rows) : new Set<number>();
  const { groups } = groupsFromBelow(units, rows, everywhere, isEnough, options);
  const root = newRoot(everywhere);
  const frequency = countUnits(units, rows);
  raise(root, groups, units, rows, frequency);
  settle(root, units, rows, options, isEnough, frequency);
  return written(root, units);
}

const sumOf = (rows: readonly number[], of: (row: number) => number): number => {
  let sum = 0;
  for (const row of rows) sum += of(row);
  return sum;
};

function unitsOfAll(units: Units, rows: ArrayLike<number>): Set<number> {
  if (rows.length < 2) return new Set();
  let common = [...units.allOf(countAt(rows, 0))];
  for (let at = 1; at < rows.length && common.length > 0; at++)
    common = common.filter((unit) => units.has(countAt(rows, at), unit));
  return new Set(common);
}

/** Builds the tree of the groups: under the good that they are about, each within the next wider one. */
function raise(
  root: Node,
  groups: readonly Group[],
  units: Units,
  rows: ArrayLike<number>,
  frequency: Uint32Array,
) {
  const heads = headsOf(groups, units, rows, frequency);
  const placeOf = new Map(heads.map((unit, place) => [unit, place]));
  const byHead = new Map<number, Group[]>();
  for (const group of groups) {
    const head = group.core.reduce((best, unit) =>
      (placeOf.get(unit) ?? Number.POSITIVE_INFINITY) < (placeOf.get(best) ?? Number.POSITIVE_INFINITY)
        ? unit
        : best,
    );
    const list = byHead.get(head);
    if (list) list.push(group);
    else byHead.set(head, [group]);
  }
  for (const head of heads) {
    const own = byHead.get(head) ?? [];
    const [only] = own;
    if (own.length === 0 || !only) continue;
    if (own.length === 1) {
      root.children.push(nodeOf(root, only.core, units));
      continue;
    }
    const common = only.core.filter((unit) => own.every(({ core }) => core.includes(unit)));
    const top = nodeOf(root, common, units);
    top.isFrame = !own.some(({ core }) => core.length === common.length);
    root.children.push(top);
    const inside = new Inside();
    const bySize = own
      .filter(({ core }) => core.length > common.length)
      .sort((a, b) => a.core.length - b.core.length || b.rows.length - a.rows.length);
    for (const { core } of bySize) {
      const parent = inside.narrowest(top, core);
      const extra = core.filter((unit) => !parent.path.has(unit));
      const child = nodeOf(parent, extra, units);
      parent.children.push(child);
      inside.add(child, extra);
    }
  }
  for (const node of below(root)) order(node, frequency);
  root.children.sort((a, b) => a.rank - b.rank);
}

/** A theme of the first round that asks for each of these units. */
const nodeOf = (parent: Node, core: readonly number[], units: Units): Node =>
  newNode(
    parent,
    core.map((unit) => [unit]),
    0,
    units,
  );

/** Finds the node in which a core belongs, by one unit of each node's children. */
class Inside {
  private readonly byUnit = new Map<Node, Map<number, Node[]>>();

  add(child: Node, [unit]: readonly number[]) {
    const parent = child.parent as Node;
    const index = this.byUnit.get(parent) ?? new Map<number, Node[]>();
    this.byUnit.set(parent, index);
    const list = index.get(unit as number);
    if (list) list.push(child);
    else index.set(unit as number, [child]);
  }

  /** The narrowest node below `top`, or itself, all of whose units the core has. */
  narrowest(top: Node, core: readonly number[]): Node {
    let best = top;
    for (const unit of core)
      for (const child of this.byUnit.get(top)?.get(unit) ?? []) {
        if (!child.conditions.every(([one]) => core.includes(one as number))) continue;
        const found = this.narrowest(child, core);
        if (found.path.size > best.path.size) best = found;
      }
    return best;
  }
}

/** Narrower rules before wider ones, what was found later after, then the rarer first. */
function order(node: Node, frequency: Uint32Array) {
  const rarity = new Map(
    node.children.map((child) => {
      const sum = child.conditions.reduce(
        (total, list) => total + Math.log1p(Math.min(...list.map((unit) => uint32At(frequency, unit)))),
        0,
      );
      return [child, sum / Math.max(1, child.conditions.length)];
    }),
  );
  node.children.sort(
    (a, b) =>
      a.rank - b.rank || b.conditions.length - a.conditions.length || gotten(rarity, a) - gotten(rarity, b),
  );
}

function countUnits(units: Units, rows: ArrayLike<number>): Uint32Array {
  const counts = new Uint32Array(units.size);
  for (let at = 0; at < rows.length; at++)
    for (const unit of units.allOf(countAt(rows, at))) counts[unit] = uint32At(counts, unit) + 1;
  return counts;
}

/**
 * The units that themes at the top are about, in the order in which they are tried: those that mostly stand last among
 * the content of a keyword, as goods do, the rarest first (`kayak paddle` is a paddle); then the others.
 */
function headsOf(
  groups: readonly Group[],
  units: Units,
  rows: ArrayLike<number>,
  frequency: Uint32Array,
): number[] {
  const last = new Uint32Array(units.size);
  for (let at = 0; at < rows.length; at++) {
    const unit = units.contentOf(countAt(rows, at)).at(-1);
    if (unit !== undefined) last[unit] = uint32At(last, unit) + 1;
  }
  const headness = (unit: number) => uint32At(last, unit) / Math.max(1, uint32At(frequency, unit));
  const heads = chosenHeads(groups, units, headness);
  const assembled = new Set(
    groups.flatMap((group) => (group.assembled && group.core.length === 1 ? group.core : [])),
  );
  const rank = (unit: number) => (units.classes[unit] !== CONTENT ? 2 : assembled.has(unit) ? 1 : 0);
  return heads.sort((a, b) => rank(a) - rank(b) || uint32At(frequency, a) - uint32At(frequency, b) || a - b);
}

/** The unit that covers most keywords not covered yet, again and again, until all groups are. */
function chosenHeads(groups: readonly Group[], units: Units, headness: (unit: number) => number): number[] {
  const byUnit = new Map<number, Group[]>();
  const weight = new Map<number, number>();
  const worth = (group: Group) => group.rows.length;
  for (const group of groups)
    for (const unit of group.core) {
      const list = byUnit.get(unit);
      if (list) list.push(group);
      else byUnit.set(unit, [group]);
      weight.set(unit, (weight.get(unit) ?? 0) + worth(group));
    }
  const score = (unit: number) =>
    gotten(weight, unit) * (0.1 + headness(unit)) * (units.classes[unit] === CONTENT ? 1 : 0.01);
  const covered = new Set<Group>();
  const heads: number[] = [];
  const open = new Set(byUnit.keys());
  while (covered.size < groups.length) {
    let best = -1;
    for (const unit of open) if (best < 0 || score(unit) > score(best)) best = unit;
    if (best < 0) break;
    open.delete(best);
    heads.push(best);
    for (const group of byUnit.get(best) ?? []) {
      if (covered.has(group)) continue;
      covered.add(group);
      for (const unit of group.core) {
        const rest = gotten(weight, unit) - worth(group);
        weight.set(unit, rest);
        if (rest === 0) open.delete(unit);
      }
    }
  }
  return heads;
}

/** Deals the rows out, and mends what is too small or too large, until all is right. */
function settle(
  root: Node,
  units: Units,
  rows: ArrayLike<number>,
  { target, least }: ProposeOptions,
  isEnough: (rows: readonly number[]) => boolean,
  frequency: Uint32Array,
) {
  const dealer = new Dealer(units, frequency);
  dealer.deal(root, rows);
  for (let round = 1; ; round++) {
    let changed = false;
    for (const node of [...below(root)]) {
      if (!isUnder(node, root)) continue;
      if (node.rows.length > target && round < MOST_ROUNDS) {
        const made = divide(node, units, target, least, round);
        if (made.length > 0) dealer.add(node, made);
        changed ||= made.length > 0;
      } else if (!isEnough(node.rows)) {
        if (node.isFrame && node.rows.length > 0 && node.children.length <= SMALL_FRAME) {
          dealer.dissolve(node);
          changed = true;
          continue;
        }
        const tooSmall = node.children.length === 0 ? node : smallestOf(node, target);
        if (tooSmall) dealer.remove(tooSmall);
        changed ||= tooSmall !== null;
      }
    }
    if (!changed) return;
  }
}

function isUnder(node: Node, root: Node): boolean {
  let at: Node | null = node;
  while (at && at !== root) at = at.parent;
  return at === root;
}

/** The sub-theme to give up, so that a theme with too few keywords of its own has enough; none where it has none at all. */
function smallestOf({ rows, children }: Node, target: number): Node | null {
  if (rows.length === 0) return null;
  const leaves = children.filter((child) => child.children.length === 0);
  const fitting = leaves.filter((child) => child.rows.length + rows.length <= target);
  const choices = fitting.length > 0 ? fitting : leaves.length > 0 ? leaves : children;
  return choices.reduce((best, child) => (child.rows.length < best.rows.length ? child : best));
}

function written(root: Node, units: Units): Proposal {
  const { pool } = units.words;
  const bySearches = (a: number, b: number) => pool.searchesOf(b) - pool.searchesOf(a) || a - b;
  const tightness = new Tightness(units);
  const themes: ProposedTheme[] = [];
  const write = (node: Node, parent: number | null, names: Set<string>) => {
    const place = themes.length;
    const rows = node.rows.sort(bySearches);
    const theme: ProposedTheme = {
      parent,
      name: '',
      sift: siftOf(node, units),
      rows,
      keywords: rows.length,
      searches: sumOf(rows, (row) => Math.max(0, pool.searchesOf(row))),
      tightness: tightness.of(rows),
    };
    themes.push(theme);
    const inside = new Set<string>();
    for (const child of node.children) {
      const sub = write(child, place, inside);
      theme.keywords += sub.keywords;
      theme.searches += sub.searches;
    }
    theme.name = unique(nameOf(node, units), names);
    return theme;
  };
  const names = new Set<string>();
  for (const child of root.children) write(child, null, names);
  return { themes, unplaced: root.rows.sort(bySearches) };
}

function unique(name: string, names: Set<string>): string {
  let free = name;
  for (let next = 2; names.has(free); next++) free = `${name} (${next})`;
  names.add(free);
  return free;
}

function siftOf({ conditions, texts }: Node, units: Units): Sift {
  const has = conditions.map((list) => [...new Set(list.flatMap((unit) => itemAt(units.terms, unit)))]);
  if (texts)
    has.push(Array.from(texts, (text) => writeTerm({ words: text.split(' '), exact: true, prefix: false })));
  return { has, not: [] };
}

const MOST_NAMED = 3;

/** The words of what it asks for, in the order in which its most searched keyword has them. */
function nameOf(node: Node, units: Units): string {
  const { words } = units;
  const listed = node.conditions.filter((list) => list.length > 1)[0];
  const sample = mostSearchedRow(node, units);
  const parts: string[] = [];
  if (sample !== undefined) {
    const { tokens, starts, foldOf, foldTexts } = words;
    const named = [...node.path, ...(node.isFrame ? nearlyAll(node, units) : [])];
    const wanted = new Set(named.flatMap((unit) => units.terms[unit]?.flatMap(foldsOf) ?? []));
    // Words between two of its own belong to it: `sit on top`.
    let between: string[] = [];
    for (let at = uint32At(starts, sample); at < uint32At(starts, sample + 1); at++) {
      const fold = uint32At(foldOf, uint32At(tokens, at));
      if (!wanted.has(stringAt(foldTexts, fold))) {
        const isBetween = words.pack.functionWords.has(stringAt(foldTexts, fold));
        between = isBetween && parts.length > 0 ? [...between, stringAt(foldTexts, fold)] : [];
        continue;
      }
      const text = words.usualWord(fold);
      if (!parts.includes(text)) parts.push(...between, text);
      between = [];
    }
  }
  const name = parts.join(' ') || [...node.path].map((unit) => units.terms[unit]?.[0]).join(' ');
  if (node.texts) return `${name}: word order`;
  if (!listed) return name;
  const some = listed.slice(0, MOST_NAMED).map((unit) => units.terms[unit]?.[0]?.replaceAll('"', ''));
  return `${name}: ${some.join(', ')}${listed.length > MOST_NAMED ? ' …' : ''}`;
}

const NEARLY_ALL = 0.9;

/** Units that nearly all keywords of a theme have, though its rule does not ask for them: `paddle` where it asks for `board`. */
function nearlyAll(node: Node, units: Units): number[] {
  const rows = rowsUnder(node);
  const counts = new Map<number, number>();
  for (const row of rows)
    for (const unit of units.contentOf(row)) counts.set(unit, (counts.get(unit) ?? 0) + 1);
  return [...counts]
    .filter(([unit, count]) => count >= NEARLY_ALL * rows.length && units.classes[unit] === CONTENT)
    .map(([unit]) => unit);
}

const foldsOf = (term: string): string[] => term.replaceAll('"', '').split(' ');

/** The row that a theme is named after: of its own, if it has any. */
function mostSearchedRow(node: Node, units: Units): number | undefined {
  const rows = node.rows.length > 0 ? node.rows : rowsUnder(node);
  const searches = (row: number) => units.words.pool.searchesOf(row);
  let best = rows[0];
  for (const row of rows) if (best === undefined || searches(row) > searches(best)) best = row;
  return best;
}
