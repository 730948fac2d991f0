import type { MatchSet } from '../match/index.ts';
import type { BasisPoints } from '../money/index.ts';
import type { Theme } from '../sort/index.ts';
import type { Grouping, Layout } from './layout.ts';

/** What follows for a theme from those above it and from the layout's branches. */
export type ThemeRules = {
  theme: Theme;
  /** The theme at the top of its branch. */
  top: Theme;
  grouping: Grouping;
  /** The bid steps of its branches, the topmost first; none where they change nothing. */
  steps: readonly BasisPoints[];
  /** The match types that its branch has of its own; 0: those of the lanes. */
  types: MatchSet;
  /** It, or one above it, is kept as an idea: no ad group is made. */
  idea: boolean;
};

/** The rules of every theme. O(themes × depth). */
export function themeRules(
  themes: readonly Theme[],
  { grouping, branches }: Pick<Layout, 'grouping' | 'branches'>,
): Map<number, ThemeRules> {
  const byId = new Map(themes.map((theme) => [theme.id, theme]));
  const ruleOf = new Map(branches.map((branch) => [branch.theme, branch]));
  const rules = new Map<number, ThemeRules>();
  const find = (theme: Theme, depth: number): ThemeRules => {
    const known = rules.get(theme.id);
    if (known) return known;
    const parent = theme.parent === null || depth > byId.size ? undefined : byId.get(theme.parent);
    const above = parent && find(parent, depth + 1);
    const own = ruleOf.get(theme.id);
    const steps = above?.steps ?? [];
    const found = {
      theme,
      top: above?.top ?? theme,
      grouping: own?.grouping ?? above?.grouping ?? grouping,
      types: own?.types || (above?.types ?? 0),
      steps: own && own.step !== 10_000 ? [...steps, own.step] : steps,
      idea: theme.idea || (above?.idea ?? false),
    };
    rules.set(theme.id, found);
    return found;
  };
  for (const theme of themes) find(theme, 0);
  return rules;
}
