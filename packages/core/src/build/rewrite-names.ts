/** A name, and what it has to be told apart within: the plan's campaigns, or the ad groups of a campaign. */
export type GivenName = { key: string; within: string; name: string };

export type NameFlaw = 'empty' | 'too-long' | 'taken';
type RewrittenName = { key: string; before: string; after: string };
type RefusedName = RewrittenName & { code: NameFlaw };

const MOST_NAME = 500;

/**
 * Rewrites chosen names. One that would be empty, too long, or the same as another within the same (whatever the case)
 * stays as it is and is told; of several that would become the same the first becomes it. O(names), but where names that
 * stay come in the way of others, again for each round of that.
 */
export function rewriteNames(
  names: readonly GivenName[],
  chosen: (key: string) => boolean,
  rewrite: (name: string) => string,
): { changed: RewrittenName[]; refused: RefusedName[] } {
  const wanted = new Map<string, RewrittenName>();
  const refused: RefusedName[] = [];
  for (const { key, name } of names) {
    if (!chosen(key)) continue;
    const after = rewrite(name);
    if (after === name) continue;
    const one = { key, before: name, after };
    if (after.trim() === '') refused.push({ ...one, code: 'empty' });
    else if (after.length > MOST_NAME) refused.push({ ...one, code: 'too-long' });
    else wanted.set(key, one);
  }
  for (let isClear = false; !isClear; ) {
    const holder = new Map<string, string>();
    const place = (within: string, name: string) => `${within}\n${name.toLowerCase()}`;
    for (const { key, within, name } of names) if (!wanted.has(key)) holder.set(place(within, name), key);
    isClear = true;
    for (const { key, within } of names) {
      const one = wanted.get(key);
      if (!one) continue;
      const at = place(within, one.after);
      if (!holder.has(at)) {
        holder.set(at, key);
        continue;
      }
      wanted.delete(key);
      refused.push({ ...one, code: 'taken' });
      isClear = false;
    }
  }
  return { changed: [...wanted.values()], refused };
}
