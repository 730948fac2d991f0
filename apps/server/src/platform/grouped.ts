/** A list by a key of its items, in the order in which the keys come. */
export function grouped<T, K>(list: Iterable<T>, keyOf: (item: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const item of list) {
    const key = keyOf(item);
    const there = groups.get(key);
    if (there) there.push(item);
    else groups.set(key, [item]);
  }
  return groups;
}
