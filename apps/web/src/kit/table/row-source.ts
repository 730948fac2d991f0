import { useEffect, useReducer, useRef } from 'react';

export type Key = string | number;

/**
 * Where a table's rows come from: the ordered keys of all rows at once, then the rows themselves by page, so that
 * the scroll bar can jump anywhere. `version` changes when rows may have changed though their keys have not.
 */
export type RowSource<Row, K extends Key> = {
  ids: ArrayLike<K>;
  version: string;
  loading: boolean;
  fetchPage: (keys: K[]) => Promise<Row[]>;
  fetchAll: (keys: K[]) => Promise<Row[]>;
  keyOf: (row: Row) => K;
};

const PAGE = 100;
/** Rows that could not be had are asked for again after this, as long as they are in view. */
const AGAIN_MS = 2_000;

/** The rows from `from` to `to`; those that are not here yet are undefined, older ones stay until newer come. */
export function useRows<Row, K extends Key>(
  source: RowSource<Row, K>,
  from: number,
  to: number,
): (Row | undefined)[] {
  const known = useRef(new Map<K, { row: Row; version: string }>());
  const asked = useRef(new Set<string>());
  const [, redraw] = useReducer((times: number) => times + 1, 0);
  const [tries, tryAgain] = useReducer((times: number) => times + 1, 0);
  const { ids, version, fetchPage, keyOf } = source;
  const first = Math.floor(from / PAGE);
  const last = Math.floor(Math.max(from, to - 1) / PAGE);

  // What is asked for may come when something else is looked at by now: it is kept and drawn all the same.
  const isThere = useRef(true);
  const later = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => {
    isThere.current = true;
    return () => {
      isThere.current = false;
      clearTimeout(later.current);
    };
  }, []);

  // biome-ignore lint/correctness/useExhaustiveDependencies: `tries` has what failed asked for again
  useEffect(() => {
    for (let page = first; page <= last; page++) {
      const keys = Array.from({ length: PAGE }, (_, at) => ids[page * PAGE + at]).filter(
        (key) => key !== undefined,
      );
      const missing = keys.filter((key) => known.current.get(key)?.version !== version);
      const name = `${version}:${missing[0]}:${missing.length}`;
      if (missing.length === 0 || asked.current.has(name)) continue;
      asked.current.add(name);
      fetchPage(missing)
        .then((rows) => {
          for (const row of rows) known.current.set(keyOf(row), { row, version });
          if (isThere.current) redraw();
        })
        .catch(() => {
          clearTimeout(later.current);
          if (isThere.current) later.current = setTimeout(tryAgain, AGAIN_MS);
        })
        .finally(() => asked.current.delete(name));
    }
  }, [ids, version, first, last, fetchPage, keyOf, tries]);

  return Array.from(
    { length: Math.max(0, to - from) },
    (_, at) => known.current.get(ids[from + at] as K)?.row,
  );
}
