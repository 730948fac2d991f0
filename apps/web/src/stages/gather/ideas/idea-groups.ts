import { type LanguagePack, normalise } from '@sprig/core/text';
import type { IdeaRow } from '../../../pool/ideas.ts';

export const groupedBys = ['nothing', 'theme', 'word'] as const;
export type GroupedBy = (typeof groupedBys)[number];

/** Ideas that go together: `name` is their theme (empty: none of them joins one) or the word that they share. */
export type IdeaGroup = { name: string; ideas: IdeaRow[] };

/** More than these are not told apart. */
const MOST_GROUPS = 60;

/**
 * Ideas that the pool has not, by the theme that each would join or by the content words that at least two share (so one may
 * be of several groups); the largest group first. O(words of all ideas).
 */
export function groupsOf(ideas: readonly IdeaRow[], by: GroupedBy, pack: LanguagePack): IdeaGroup[] {
  if (by === 'nothing') return [];
  const groups = new Map<string, IdeaRow[]>();
  const put = (name: string, idea: IdeaRow) => {
    const there = groups.get(name);
    if (there) there.push(idea);
    else groups.set(name, [idea]);
  };
  for (const idea of ideas) {
    if (idea.inPool) continue;
    if (by === 'theme') put(idea.joins ?? '', idea);
    else for (const word of contentOf(idea.text, pack)) put(word, idea);
  }
  return [...groups]
    .map(([name, list]) => ({ name, ideas: list }))
    .filter((group) => by === 'theme' || group.ideas.length > 1)
    .sort((a, b) => b.ideas.length - a.ideas.length || (a.name < b.name ? -1 : 1))
    .slice(0, MOST_GROUPS);
}

const contentOf = (text: string, pack: LanguagePack): Set<string> =>
  new Set(
    normalise(text)
      .split(' ')
      .filter((word) => !pack.functionWords.has(word))
      .map(pack.numberFold),
  );
