import type { FunnelStage } from '../text/index.ts';
import { type Sift, siftProblems } from './sift.ts';

/**
 * A named set of keywords, made by a rule or, without one, by hand. Themes stand in a list: siblings in its order, the
 * first whose rule a keyword meets has it. A sub-theme takes only what its ancestors also match.
 */
export type Theme = {
  id: number;
  parent: number | null;
  name: string;
  /** Null: only by hand, and for its sub-themes no condition. */
  sift: Sift | null;
  /** Kept as a candidate: it holds its keywords, but no ad group is to be made of it. */
  idea: boolean;
  /** One of the map's colours; null: its parent's. */
  colour: number | null;
  /** For keywords whose words tell none. */
  stage: FunnelStage | null;
};

/** Themes deeper than this are nobody's map. */
export const MOST_DEPTH = 12;

export type ThemeProblem =
  | { code: 'unknown-parent'; id: number; parent: number }
  | { code: 'circle'; ids: number[] }
  | { code: 'too-deep'; id: number; most: number }
  | { code: 'name-twice'; id: number; name: string }
  | { code: 'rule'; id: number };

/** What is wrong with a list of themes; siblings must have different names, told apart without regard to case. */
export function themeProblems(themes: readonly Theme[]): ThemeProblem[] {
  const byId = new Map(themes.map((theme) => [theme.id, theme]));
  const names = new Set<string>();
  return themes.flatMap((theme): ThemeProblem[] => {
    const { id, parent, name, sift } = theme;
    if (parent !== null && !byId.has(parent)) return [{ code: 'unknown-parent', id, parent }];
    const path = pathOf(theme, byId);
    if ('circle' in path) return [{ code: 'circle', ids: path.circle }];
    if (path.ids.length > MOST_DEPTH) return [{ code: 'too-deep', id, most: MOST_DEPTH }];
    const place = `${parent ?? ''}/${name.trim().toLowerCase()}`;
    if (names.has(place)) return [{ code: 'name-twice', id, name }];
    names.add(place);
    return sift && siftProblems(sift).length > 0 ? [{ code: 'rule', id }] : [];
  });
}

function pathOf(theme: Theme, byId: ReadonlyMap<number, Theme>): { ids: number[] } | { circle: number[] } {
  const ids: number[] = [];
  for (let at: Theme | undefined = theme; at; at = at.parent === null ? undefined : byId.get(at.parent)) {
    if (ids.includes(at.id)) return { circle: ids.slice(ids.indexOf(at.id)) };
    ids.push(at.id);
  }
  return { ids };
}

/** The themes below each one, and those at the top under null, in the list's order. */
export function childrenOf(themes: readonly Theme[]): Map<number | null, Theme[]> {
  const children = new Map<number | null, Theme[]>();
  for (const theme of themes) {
    const list = children.get(theme.parent);
    if (list) list.push(theme);
    else children.set(theme.parent, [theme]);
  }
  return children;
}
