import { ListedWords } from '../text/index.ts';

/** The client's places as they are named in texts: by their names and their other spellings. */
export class PlaceNames {
  private readonly words: ListedWords;
  private readonly nameOf = new Map<string, string>();

  /** Of each place its name, then its other spellings. */
  constructor(places: readonly (readonly string[])[]) {
    for (const [name = '', ...others] of places)
      for (const spelling of [name, ...others])
        if (!this.nameOf.has(spelling)) this.nameOf.set(spelling, name);
    this.words = new ListedWords([...this.nameOf.keys()]);
  }

  /** Fewer than two places can't be mixed up. */
  get areSeveral(): boolean {
    return new Set(this.nameOf.values()).size > 1;
  }

  /** The names of the places that a text names. */
  in(text: string): string[] {
    return this.words.allIn(text).map((spelling) => this.nameOf.get(spelling) ?? spelling);
  }
}

/** What a group's keywords say of places: which they name, and those that name others but not the group's own. */
export type GroupPlaces = { named: ReadonlySet<string>; strays: string[] };

/**
 * The places of a group whose keywords are about `home`; null where at most half of them name it, so that it is no group
 * of that place. O(words of the keywords).
 */
export function placesOfGroup(
  home: string,
  norms: readonly string[],
  places: PlaceNames,
): GroupPlaces | null {
  const named = new Set<string>([home]);
  const strays: string[] = [];
  let atHome = 0;
  for (const norm of norms) {
    const found = places.in(norm);
    if (found.includes(home)) {
      atHome++;
      // One may ask the way from one place to another.
      for (const one of found) named.add(one);
    } else if (found.length > 0) strays.push(norm);
  }
  return atHome * 2 > norms.length ? { named, strays } : null;
}
