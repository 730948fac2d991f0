type Named = { actor: number; name: string };

/** A letter or figure behind a name makes it another name. */
const GOES_ON = /^[\p{L}\p{N}]/u;

/** Those whose name stands behind an @ in a text, in any case; of names that begin alike the longest. */
export function mentionsIn(text: string, people: readonly Named[]): number[] {
  const longest = [...people].sort((a, b) => b.name.length - a.name.length);
  const found = new Set<number>();
  for (let at = text.indexOf('@'); at >= 0; at = text.indexOf('@', at + 1)) {
    const rest = text.slice(at + 1);
    const lower = rest.toLowerCase();
    const named = longest.find(
      ({ name }) => lower.startsWith(name.toLowerCase()) && !GOES_ON.test(rest.slice(name.length)),
    );
    if (!named) continue;
    // Two of the same name are both meant.
    for (const { actor, name } of people)
      if (name.toLowerCase() === named.name.toLowerCase()) found.add(actor);
  }
  return [...found];
}
