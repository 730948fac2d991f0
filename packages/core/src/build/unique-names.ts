import { cutAtWord, lengthOf, TextSet } from '../text/index.ts';

/**
 * Makes names unique, one after another, without regard to case: by ` (2)`, ` (3)` and so on, and cut to `limit` at a
 * word's end before that. Earlier names keep theirs: the order decides.
 */
export class UniqueNames {
  /** By hashes: two names that share one by chance cost a number that was not needed, never a twin. */
  private readonly taken = new TextSet();
  private readonly next = new Map<string, number>();

  constructor(private readonly limit = Number.POSITIVE_INFINITY) {}

  /** The name as it is given out. */
  take(name: string): string {
    const cut = lengthOf(name) <= this.limit ? name : cutAtWord(name, this.limit);
    const unique = this.firstFree(cut);
    this.taken.metBefore(unique.toLowerCase());
    return unique;
  }

  private firstFree(name: string): string {
    const key = name.toLowerCase();
    if (!this.taken.has(key)) return name;
    for (let number = this.next.get(key) ?? 2; ; number++) {
      const suffix = ` (${number})`;
      const numbered = cutAtWord(name, this.limit - suffix.length) + suffix;
      if (this.taken.has(numbered.toLowerCase())) continue;
      this.next.set(key, number + 1);
      return numbered;
    }
  }
}

/** All names at once; names in `reserved` are taken already. O(total length). */
export function uniqueNames(
  names: readonly string[],
  limit = Number.POSITIVE_INFINITY,
  reserved: Iterable<string> = [],
): string[] {
  const unique = new UniqueNames(limit);
  for (const name of reserved) unique.take(name);
  return names.map((name) => unique.take(name));
}
