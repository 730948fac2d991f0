export type NamedTheme = { id: number; parent: number | null; name: string };

/** Themes by their paths, `Mugs › Red`, in the order of the paths. */
export function themeChoices(themes: readonly NamedTheme[]): NamedTheme[] {
  const byId = new Map(themes.map((theme) => [theme.id, theme]));
  const pathOf = (theme: NamedTheme, depth = 0): string => {
    const above = theme.parent === null || depth > byId.size ? undefined : byId.get(theme.parent);
    return above ? `${pathOf(above, depth + 1)} › ${theme.name}` : theme.name;
  };
  return themes
    .map((theme) => ({ id: theme.id, parent: theme.parent, name: pathOf(theme) }))
    .sort((a, b) => (a.name < b.name ? -1 : 1));
}
