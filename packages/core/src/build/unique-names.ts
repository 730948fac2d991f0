import { cutAtWord, lengthOf } from '../text/index.ts';

/**
 * Names made unique, without regard to case, by ` (2)`, ` (3)` and so on, and cut to `limit` at a word's end
 * before that. Names in `reserved` are taken already. Earlier names keep theirs: the order given decides.
 * O(total length).
 */
export function uniqueNames(
  names: readonly string[],
  limit = Number.POSITIVE_INFINITY,
  reserved: Iterable<string> = [],
): string[] {
  const taken = new Set<string>();
  for (const name of reserved) taken.add(name.toLowerCase());
  const next = new Map<string, number>();
  return names.map((name) => {
    const cut = lengthOf(name) <= limit ? name : cutAtWord(name, limit);
    const unique = firstFree(cut, limit, taken, next);
    taken.add(unique.toLowerCase());
    return unique;
  });
}

function firstFree(name: string, limit: number, taken: Set<string>, next: Map<string, number>): string {
  const key = name.toLowerCase();
  if (!taken.has(key)) return name;
  for (let number = next.get(key) ?? 2; ; number++) {
    const suffix = ` (${number})`;
    const numbered = cutAtWord(name, limit - suffix.length) + suffix;
    if (taken.has(numbered.toLowerCase())) continue;
    next.set(key, number + 1);
    return numbered;
  }
}
