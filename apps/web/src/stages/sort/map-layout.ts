import type { Suggestion } from '@sprig/core/sort';
import { type HierarchyRectangularNode, hierarchy, treemap } from 'd3';
import type { Share } from '../../pool/sorting.ts';
import type { ThemeNode } from './theme-tree.ts';

/** One patch of the map. */
export type Patch = {
  key: string;
  kind: 'theme' | 'own' | 'unplaced' | 'suggestion' | 'more';
  x: number;
  y: number;
  width: number;
  height: number;
  /** 0: right inside of what is open; 1: inside of one of those. */
  depth: number;
  name: string;
  share: Share;
  theme?: ThemeNode;
  suggestion?: Suggestion;
  /** How many themes stand behind `more`. */
  count?: number;
};

type Datum = Omit<Patch, 'x' | 'y' | 'width' | 'height' | 'depth'> & { value: number; children?: Datum[] };

/** More patches than this side by side are too small to read. */
const MOST_PATCHES = 120;
const MOST_INSIDE = 24;
/** In pixels; what is smaller can neither be seen nor hit. */
const SMALLEST = 5;
/** What is behind `more` is never a narrower strip, in pixels. */
const LEAST_MORE = 14;

/** Area goes by searches; where no keyword has a figure, by keywords. */
const areaOf = ({ keywords, searches }: Share, bySearches: boolean): number =>
  bySearches ? Math.max(searches, 0.5) : Math.max(keywords, 0.5);

function themeDatum(node: ThemeNode, bySearches: boolean, inside: boolean): Datum {
  const datum: Datum = {
    key: `t${node.id}`,
    kind: 'theme',
    name: node.name,
    share: node.sum.all,
    theme: node,
    value: areaOf(node.sum.all, bySearches),
  };
  const shown = node.children.filter(({ sum }) => sum.all.keywords > 0);
  if (!inside || shown.length === 0) return datum;
  const parts = manyOf(shown, MOST_INSIDE, bySearches, `m${node.id}`, false).map((part) =>
    part.kind === 'theme' ? { ...part, name: shortName(part.name, node.name) } : part,
  );
  if (node.sum.own.keywords > 0) parts.push(ownDatum(node, bySearches));
  return { ...datum, children: parts };
}

/** A name without the words of what it is in: `red` in `mug` for `red mug`. */
export function shortName(name: string, within: string): string {
  const known = new Set(within.toLowerCase().split(' '));
  const words = name.split(' ').filter((word) => !known.has(word.toLowerCase()));
  return words.length === 0 ? name : words.join(' ');
}

const ownDatum = (node: ThemeNode, bySearches: boolean): Datum => ({
  key: `o${node.id}`,
  kind: 'own',
  name: 'the rest',
  share: node.sum.own,
  theme: node,
  value: areaOf(node.sum.own, bySearches),
});

const sumOf = (data: readonly Datum[]): number => data.reduce((sum, { value }) => sum + value, 0);

/** Themes as patches; the smallest of very many are one together. */
function manyOf(
  nodes: readonly ThemeNode[],
  most: number,
  bySearches: boolean,
  key: string,
  inside: boolean,
  from = 0,
): Datum[] {
  const value = (node: ThemeNode) => areaOf(node.sum.all, bySearches);
  const sorted = nodes.toSorted((a, b) => value(b) - value(a) || a.id - b.id).slice(from);
  const shown = sorted.slice(0, most).map((node) => themeDatum(node, bySearches, inside));
  const rest = sorted.slice(most).map((node) => themeDatum(node, bySearches, false));
  if (rest.length === 0) return shown;
  const share = rest.reduce(
    (sum, one) => ({
      keywords: sum.keywords + one.share.keywords,
      searches: sum.searches + one.share.searches,
    }),
    { keywords: 0, searches: 0 },
  );
  const more: Datum = {
    key,
    kind: 'more',
    name: `${rest.length.toLocaleString('en-GB')} smaller`,
    share,
    count: rest.length,
    value: sumOf(rest),
  };
  return [...shown, more];
}

export type MapInput = {
  /** The themes side by side: at the top, or inside of what is open. */
  nodes: readonly ThemeNode[];
  /** What is open; null at the top. */
  open: ThemeNode | null;
  unplaced: Share;
  suggestions: readonly Suggestion[];
  width: number;
  height: number;
  /** So many of the largest themes are left out: those that are smaller are looked at. */
  from?: number;
};

/**
 * The theme map as patches: a squarified treemap in which area is searches. At the top the unplaced are a bare patch;
 * inside of a theme that is what no sub-theme has. Suggestions stand in it, as large as what they would take, unless
 * together they are larger than it. A theme that would be too small to hit stands behind `more`: none is left out.
 */
export function mapPatches(input: MapInput): Patch[] {
  for (let most = MOST_PATCHES; ; ) {
    const patches = laidOut(input, most);
    const there = Math.min(most, input.nodes.length - (input.from ?? 0));
    const shown = patches.filter(({ kind, depth }) => kind === 'theme' && depth === 0).length;
    if (shown >= there || most === 1 || patches.length === 0) return patches;
    most = Math.max(1, shown);
  }
}

function laidOut(
  { nodes, open, unplaced, suggestions, width, height, from = 0 }: MapInput,
  most: number,
): Patch[] {
  const bare = open ? open.sum.own : unplaced;
  const bySearches = [...nodes.map(({ sum }) => sum.all), bare].some(({ searches }) => searches > 0);
  const children = manyOf(nodes, most, bySearches, 'more', true, from);
  const last = children.at(-1);
  if (last?.kind === 'more')
    last.value = Math.max(last.value, (sumOf(children) * LEAST_MORE) / Math.max(width, height));
  if (from === 0 && bare.keywords > 0) children.push(bareDatum(bare, suggestions, open !== null, bySearches));
  if (children.length === 0 || width <= 0 || height <= 0) return [];
  const root = hierarchy<Datum>({
    key: 'all',
    kind: 'own',
    name: '',
    share: bare,
    value: 0,
    children,
  })
    .sum((datum) => (datum.children ? 0 : datum.value))
    .sort((a, b) => (b.value ?? 0) - (a.value ?? 0));
  const laid = treemap<Datum>()
    .size([width, height])
    .paddingInner(3)
    .paddingTop((node) => (node.depth === 1 && node.children ? 20 : 0))
    .paddingLeft((node) => (node.depth === 1 ? 3 : 0))
    .paddingRight((node) => (node.depth === 1 ? 3 : 0))
    .paddingBottom((node) => (node.depth === 1 ? 3 : 0))
    .round(true)(root);
  return laid
    .descendants()
    .flatMap((node) =>
      node.depth === 0 || node.x1 - node.x0 < SMALLEST || node.y1 - node.y0 < SMALLEST ? [] : [patchOf(node)],
    );
}

function bareDatum(
  bare: Share,
  suggestions: readonly Suggestion[],
  isOpen: boolean,
  bySearches: boolean,
): Datum {
  const datum: Datum = {
    key: 'unplaced',
    kind: 'unplaced',
    name: isOpen ? 'Not in a sub-theme' : 'Unplaced',
    share: bare,
    value: areaOf(bare, bySearches),
  };
  if (suggestions.length === 0) return datum;
  const parts = suggestions.slice(0, MOST_INSIDE).map(
    (suggestion): Datum => ({
      key: `s${suggestion.at}`,
      kind: 'suggestion',
      name: suggestion.name,
      share: suggestion,
      suggestion,
      value: areaOf(suggestion, bySearches),
    }),
  );
  const whole = areaOf(bare, bySearches);
  const sum = parts.reduce((total, { value }) => total + value, 0);
  const scale = sum > whole ? whole / sum : 1;
  for (const part of parts) part.value *= scale;
  const rest = whole - sum * scale;
  if (rest > whole * 0.01)
    parts.push({ key: 'rest', kind: 'own', name: '', share: { keywords: 0, searches: 0 }, value: rest });
  return { ...datum, children: parts };
}

const patchOf = ({ data, x0, y0, x1, y1, depth }: HierarchyRectangularNode<Datum>): Patch => {
  const { value: _, children: __, ...rest } = data;
  return { ...rest, x: x0, y: y0, width: x1 - x0, height: y1 - y0, depth: depth - 1 };
};
