/**
 * What begins as typed, from the pool's keywords: texts one word longer than what is typed at a time, so that each tells
 * something new. `ca` gives `cast`, `cast iron` only where more follows than one way; whole keywords come as they are.
 */
export function completions(norms: readonly string[], typed: string, most: number): string[] {
  const start = typed.trimStart();
  if (start === '') return [];
  const counts = new Map<string, number>();
  for (const norm of norms) {
    if (!norm.startsWith(start)) continue;
    counts.set(norm, (counts.get(norm) ?? 0) + 2);
    for (let space = norm.indexOf(' ', start.length); space > 0; space = norm.indexOf(' ', space + 1)) {
      const part = norm.slice(0, space);
      counts.set(part, (counts.get(part) ?? 0) + 1);
    }
  }
  return [...counts]
    .sort(([a, one], [b, other]) => other - one || a.length - b.length || (a < b ? -1 : 1))
    .slice(0, most)
    .map(([text]) => text);
}
