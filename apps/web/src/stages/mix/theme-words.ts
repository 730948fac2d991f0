import type { ThemeRow } from '@sprig/contracts';
import { readTerm } from '@sprig/core/sort';

/** The terms of a rule's last condition as words; beginnings (`inflat*`) are none. */
function termsOf({ sift }: ThemeRow): string[] {
  return (sift?.has.at(-1) ?? []).flatMap((typed) => {
    const term = readTerm(typed);
    return 'problem' in term || term.prefix ? [] : [term.words.join(' ')];
  });
}

/**
 * The words of a theme as a list: an entry for each of its sub-themes, with its rule's terms as forms; where it has
 * none, an entry for each term of its own.
 */
export function wordsOfTheme(theme: ThemeRow, themes: readonly ThemeRow[]): string[] {
  const inside = themes.filter(({ parent }) => parent === theme.id);
  const lines = inside.length > 0 ? inside.map((one) => termsOf(one).join(' | ')) : termsOf(theme);
  return [...new Set(lines.filter((line) => line !== ''))];
}
