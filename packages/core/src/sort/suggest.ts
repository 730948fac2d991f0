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
  sift: Sift;
  /** Of all that it would take now; another before it takes none of them away. */
  keywords: number;
  searches: number;
  tightness: number;
  examples: string[];
  /** Sub-themes that the proposal has in it. */
  inside: number;
};

const EXAMPLES = 5;

/**
 * The themes that a proposal has at the top, or inside one of its themes, without those that were dismissed (by their
 * sentences): the most searched first. Each says what it would take of `rows` if it were taken alone.
 */
export function suggestionsOf(
  proposal: Proposal,
  inside: number | null,
  rows: ArrayLike<number>,
  units: Units,
  dismissed: ReadonlySet<string>,
): Suggestion[] {
  const { words } = units;
  const sifter = new Sifter(words);
  const tightness = new Tightness(units);
  const parts = new Map<number, number>();
  for (const { parent } of proposal.themes)
    if (parent !== null) parts.set(parent, (parts.get(parent) ?? 0) + 1);
  const searches = (row: number) => words.pool.searchesOf(row);
  return proposal.themes
    .flatMap((theme, at) => {
      if (theme.parent !== inside) return [];
      const sift = wholeSift(proposal.themes, at);
      if (dismissed.has(sentenceOf(sift))) return [];
      const found = sifter.matches(sift, { within: rows });
      if (found.rows.length === 0) return [];
      const examples = mostSearched(found.rows, searches).map((row) => words.pool.normOf(row));
      return [
        {
          at,
          name: theme.name,
          sift: theme.sift,
          keywords: found.rows.length,
          searches: found.searches,
          tightness: tightness.of(found.rows),
          examples,
          inside: parts.get(at) ?? 0,
        },
      ];
    })
    .sort((a, b) => b.searches - a.searches || b.keywords - a.keywords || a.at - b.at);
}

/** What a proposed theme and all above it ask for. */
export function wholeSift(themes: readonly ProposedTheme[], at: number): Sift {
  const has: string[][] = [];
  for (let next: number | null = at; next !== null; next = themes[next]?.parent ?? null)
    has.unshift(...((themes[next] as ProposedTheme).sift.has ?? []));
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
