import { useMemo, useState } from 'react';
import type { Key } from './row-source.ts';

export type Selection<K extends Key> = {
  size: number;
  has: (key: K) => boolean;
  toggle: (index: number, ids: ArrayLike<K>) => void;
  /** From the row last toggled to this one. */
  extendTo: (index: number, ids: ArrayLike<K>) => void;
  all: (ids: ArrayLike<K>) => void;
  clear: () => void;
  /** The selected keys in the order of the table; those that are filtered away stay selected but are not listed. */
  listIn: (ids: ArrayLike<K>) => K[];
};

/** Which rows are selected, by key: it survives sorting, filtering and scrolling. */
export function useSelection<K extends Key>(): Selection<K> {
  const [{ keys, anchor }, set] = useState<{ keys: ReadonlySet<K>; anchor: number }>({
    keys: new Set(),
    anchor: 0,
  });
  return useMemo(
    () => ({
      size: keys.size,
      has: (key) => keys.has(key),
      toggle: (index, ids) => {
        const key = ids[index];
        if (key === undefined) return;
        const next = new Set(keys);
        if (!next.delete(key)) next.add(key);
        set({ keys: next, anchor: index });
      },
      extendTo: (index, ids) => {
        const next = new Set(keys);
        for (let at = Math.min(anchor, index); at <= Math.max(anchor, index); at++) next.add(ids[at] as K);
        set({ keys: next, anchor });
      },
      all: (ids) => set({ keys: new Set(Array.from(ids)), anchor: 0 }),
      clear: () => set({ keys: new Set(), anchor: 0 }),
      listIn: (ids) => Array.from(ids).filter((key) => keys.has(key)),
    }),
    [keys, anchor],
  );
}
