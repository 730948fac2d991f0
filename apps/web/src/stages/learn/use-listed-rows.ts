import { useMemo } from 'react';
import type { RowSource } from '../../kit/table/row-source.ts';

/** Rows that came all at once. `keyOf` must stay the same function between renders. */
export function useListedRows<Row>(
  rows: readonly Row[] | undefined,
  keyOf: (row: Row) => string,
  version: string,
): RowSource<Row, string> {
  return useMemo(() => {
    const byKey = new Map(rows?.map((row) => [keyOf(row), row]));
    const fetchPage = async (keys: string[]) => keys.flatMap((key) => byKey.get(key) ?? []);
    return {
      ids: [...byKey.keys()],
      version,
      loading: rows === undefined,
      fetchPage,
      fetchAll: fetchPage,
      keyOf,
    };
  }, [rows, keyOf, version]);
}
