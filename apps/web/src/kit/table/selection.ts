import { useMemo, useState } from 'react';
import type { Key } from './row-source.ts';

export type Selection<K extends Key> = {
  size: number;
  has: (key: K) => boolean;
  toggle: (index: number, ids: ArrayLike<K>) => void;
  /** All rows from one to another, both among them, in the place of those selected from the same one before. */
  extend: (from: number, to: number, ids: ArrayLike<K>) => void;
  all: (ids: ArrayLike<K>) => void;
  clear: () => void;
  /** The selected keys in the order of the table; those that are filtered away stay selected but are not listed. */
  listIn: (ids: ArrayLike<K>) => K[];
};

/** `base`: what was selected before the rows from `from` on were. */
type State<K> = { keys: ReadonlySet<K>; base: ReadonlySet<K>; from: number | null };

/** Which rows are selected, by key: it survives sorting, filtering and scrolling. */
export function useSelection<K extends Key>(): Selection<K> {
  const [{ keys, base, from: begun }, set] = useState<State<K>>(() => only(new Set()));
  return useMemo(
    () => ({
      size: keys.size,
      has: (key) => keys.has(key),
      toggle: (index, ids) => {
        const key = ids[index];
        if (key === undefined) return;
        const next = new Set(keys);
        if (!next.delete(key)) next.add(key);
        set(only(next));
      },
      extend: (from, to, ids) => {
        const kept = from === begun ? base : keys;
        const last = Math.min(Math.max(from, to), ids.length - 1);
        const next = new Set(kept);
        for (let at = Math.min(from, to); at <= last; at++) next.add(ids[at] as K);
        set({ keys: next, base: kept, from });
      },
      all: (ids) => set(only(new Set(Array.from(ids)))),
      clear: () => set(only(new Set())),
      listIn: (ids) => Array.from(ids).filter((key) => keys.has(key)),
    }),
    [keys, base, begun],
  );
}

const only = <K>(keys: ReadonlySet<K>): State<K> => ({ keys, base: keys, from: null });
