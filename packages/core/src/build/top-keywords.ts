import { itemAt, uint32At } from '../access/index.ts';
import type { BuildKeyword } from './build-keyword.ts';
import type { Grouping } from './layout.ts';
import type { ThemeRules } from './theme-rules.ts';

export const byNorm = (keywords: readonly BuildKeyword[], a: number, b: number): number => {
  const [left, right] = [itemAt(keywords, a).norm, itemAt(keywords, b).norm];
  return left < right ? -1 : left > right ? 1 : 0;
};

/** More searches go first, then the text by code point. */
export function isMoreSearched(keywords: readonly BuildKeyword[], at: number, than: number): boolean {
  const [searches, other] = [keywords[at]?.searches ?? -1, keywords[than]?.searches ?? -1];
  return searches > other || (searches === other && byNorm(keywords, at, than) < 0);
}

/** Tells which keywords are at the top of their theme. */
export function topTester(keywords: readonly BuildKeyword[], rules: ReadonlyMap<number, ThemeRules>) {
  let rankOf: Uint32Array | null = null;
  const ranked = () => {
    const ranks = new Uint32Array(keywords.length);
    const byTheme = new Map<number, number[]>();
    keywords.forEach(({ theme = 0 }, at) => {
      if (!rules.has(theme)) return;
      const list = byTheme.get(theme);
      if (list) list.push(at);
      else byTheme.set(theme, [at]);
    });
    for (const list of byTheme.values())
      list
        .sort((a, b) => (isMoreSearched(keywords, a, b) ? -1 : 1))
        .forEach((at, rank) => {
          ranks[at] = rank;
        });
    return ranks;
  };
  return (at: number, { searchesFrom, first, cpcFrom }: Grouping): boolean => {
    const { searches, cpc } = itemAt(keywords, at);
    if (searchesFrom !== null && (searches ?? -1) < searchesFrom) return false;
    if (cpcFrom !== null && (cpc ?? -1) < cpcFrom) return false;
    if (first === null) return searchesFrom !== null || cpcFrom !== null;
    rankOf ??= ranked();
    return uint32At(rankOf, at) < first;
  };
}
