import { itemAt } from '../access/index.ts';
import { asMicros, type Micros, medianOf } from '../money/index.ts';
import type { PoolWords } from './pool-words.ts';
import type { Proposal, ProposedTheme } from './propose.ts';
import { type Sift, sentenceOf } from './sift.ts';
import { Sifter } from './sifting.ts';
import { Tightness } from './tightness.ts';
import type { Units } from './units.ts';

/** A theme that could be made of what is unplaced, with the reasons for it. */
export type Suggestion = {
  /** Its place in the proposal. */
  at: number;
  name: string;
  /** Its whole rule, for the rows that suggestions were asked for. */
  sift: Sift;
  /** Of all that it would take now; another before it takes none of them away. */
  keywords: number;
  searches: number;
  tightness: number;
  /** The median CPC of its keywords that have one that was told or set by hand; null where none has. */
  cpc: Micros | null;
  examples: string[];
  /** Sub-themes that the proposal has in it. */
  inside: number;
};

const EXAMPLES = 5;

/** A sibling that is tried before is kept out by name where it has at least this share of what a suggestion would take. */
const LEAST_OVERLAP = 0.03;

/**
 * The themes that a proposal has at the top, or inside one of its themes, without those that were dismissed
 * (`suggestionKey`): the most searched first. Each can be taken alone and in any order: where one that is tried before it has
 * much of what its rule picks, its rule says so (`has paddle but not board`).
 */
export function suggestionsOf(
  { themes }: Proposal,
  inside: number | null,
  rows: ArrayLike<number>,
  units: Units,
  dismissed: ReadonlySet<string>,
): Suggestion[] {
  const { words } = units;
  const sifter = new Sifter(words);
  const tightness = new Tightness(units);
  const searches = (row: number) => words.pool.searchesOf(row);
  const { parts, ownerOf } = dealtBelow(themes, inside);
  return themes
    .flatMap((theme, at) => {
      if (theme.parent !== inside || dismissed.has(suggestionKey(themes, at))) return [];
      const whole = wholeSift(themes, at);
      const wide = sifter.matches(whole, { within: rows });
      const not = othersIn(wide.rows, at, themes, ownerOf);
      const found = not.length === 0 ? wide : sifter.matches({ ...whole, not }, { within: rows });
      if (found.rows.length === 0) return [];
      const examples = mostSearched(found.rows, searches).map((row) => words.pool.normOf(row));
      return [
        {
          at,
          name: theme.name,
          sift: { ...whole, not },
          keywords: found.rows.length,
          searches: found.searches,
          tightness: tightness.of(found.rows),
          cpc: medianCpc(words.pool, found.rows),
          examples,
          inside: parts.get(at) ?? 0,
        },
      ];
    })
    .sort((a, b) => b.searches - a.searches || b.keywords - a.keywords || a.at - b.at);
}

function medianCpc({ cpcOf }: PoolWords['pool'], rows: ArrayLike<number>): Micros | null {
  const cpcs: Micros[] = [];
  for (let at = 0; at < rows.length; at++) {
    const cpc = cpcOf?.(rows[at] as number) ?? -1;
    if (cpc >= 0) cpcs.push(asMicros(cpc));
  }
  return medianOf(cpcs);
}

const LONGEST_KEY = 500;

/** By what a suggestion is remembered when it is dismissed: its sentence, cut where that is very long. */
export const suggestionKey = (themes: readonly ProposedTheme[], at: number): string =>
  sentenceOf(wholeSift(themes, at)).slice(0, LONGEST_KEY);

/** How many sub-themes each theme has, and which of those inside of `inside` has each row. */
function dealtBelow(themes: readonly ProposedTheme[], inside: number | null) {
  const parts = new Map<number, number>();
  const ownerOf = new Map<number, number>();
  const branchOf: (number | null)[] = [];
  themes.forEach(({ parent, rows }, at) => {
    if (parent !== null) parts.set(parent, (parts.get(parent) ?? 0) + 1);
    const branch = parent === inside ? at : parent === null ? null : (branchOf[parent] ?? null);
    branchOf.push(branch);
    if (branch !== null) for (const row of rows) ownerOf.set(row, branch);
  });
  return { parts, ownerOf };
}

/** Terms of the siblings that have much of these rows. */
function othersIn(
  rows: Uint32Array,
  at: number,
  themes: readonly ProposedTheme[],
  ownerOf: ReadonlyMap<number, number>,
): string[] {
  const counts = new Map<number, number>();
  for (const row of rows) {
    const owner = ownerOf.get(row);
    if (owner !== undefined && owner !== at) counts.set(owner, (counts.get(owner) ?? 0) + 1);
  }
  return [...counts]
    .filter(([, count]) => count >= LEAST_OVERLAP * rows.length)
    .sort(([a], [b]) => a - b)
    .flatMap(([owner]) => {
      const has = themes[owner]?.sift.has ?? [];
      return has.length === 1 ? (has[0] ?? []) : [];
    });
}

/** What a proposed theme and all above it ask for. */
export function wholeSift(themes: readonly ProposedTheme[], at: number): Sift {
  const has: string[][] = [];
  for (let next: number | null = at; next !== null; next = themes[next]?.parent ?? null)
    has.unshift(...(itemAt(themes, next).sift.has ?? []));
  return { has, not: [] };
}

/** The most searched of many, without ordering all. */
function mostSearched(rows: Uint32Array, searchesOf: (row: number) => number): number[] {
  const best: number[] = [];
  for (const row of rows) {
    if (best.length === EXAMPLES && searchesOf(row) <= searchesOf(best.at(-1) as number)) continue;
    best.push(row);
    best.sort((a, b) => searchesOf(b) - searchesOf(a) || a - b);
    if (best.length > EXAMPLES) best.pop();
  }
  return best;
}
