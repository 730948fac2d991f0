import { useCallback, useMemo } from 'react';
import type { RowSource } from '../../kit/table/row-source.ts';

/** Rows are asked for at most so many at a time. */
const PAGE = 1_000;
const none: readonly number[] = [];

type Asked<Row> = {
  /** The numbers of all rows in their order; undefined until they are there. */
  order: readonly number[] | undefined;
  version: string;
  loading: boolean;
  /** The rows of some numbers; must stay the same function between renders. */
  page: (numbers: number[]) => Promise<{ rows: Row[] }>;
};

/** Rows of what was added up, by their numbers, as they come into view. */
export function useNumberedRows<Row extends { n: number }>({
  order,
  version,
  loading,
  page,
}: Asked<Row>): RowSource<Row, number> {
  const fetchPage = useCallback(
    async (numbers: number[]) => {
      const rows: Row[] = [];
      for (let from = 0; from < numbers.length; from += PAGE)
        rows.push(...(await page(numbers.slice(from, from + PAGE))).rows);
      return rows;
    },
    [page],
  );
  return useMemo<RowSource<Row, number>>(
    () => ({ ids: order ?? none, version, loading, fetchPage, fetchAll: fetchPage, keyOf: ({ n }) => n }),
    [order, version, loading, fetchPage],
  );
}
