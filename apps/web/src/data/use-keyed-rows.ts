import { keepPreviousData, type QueryKey, type UseQueryOptions, useQuery } from '@tanstack/react-query';
import { useCallback, useMemo, useRef, useState } from 'react';
import type { RowSource } from '../kit/table/row-source.ts';

type Ordered = { builtRevision: number; keys: string[] };
type Asked<Row, K extends QueryKey> = {
  /** The question for the keys in their order. */
  order: UseQueryOptions<Ordered, Error, Ordered, K>;
  /** The rows of some keys; must stay the same function between renders. */
  page: (keys: string[]) => Promise<Row[]>;
  /** Changes when rows are others though the build is the same. */
  stamp?: string;
};

/** Keys are asked for at most so many at a time. */
const PAGE = 500;
const none: string[] = [];

/** Rows of what is built, over HTTP: their ordered keys first, then the rows themselves as they come into view. */
export function useKeyedRows<Row extends { key: string }, K extends QueryKey>({
  order,
  page,
  stamp = '',
}: Asked<Row, K>): {
  source: RowSource<Row, string>;
  data: Ordered | undefined;
  /** The build that the rows which came last are of. */
  seen: number;
} {
  const { data, isFetching, dataUpdatedAt } = useQuery({
    ...order,
    placeholderData: keepPreviousData,
  });
  const [seen, setSeen] = useState(0);
  const newest = useRef(0);
  newest.current = data?.builtRevision ?? 0;
  const fetchPage = useCallback(
    async (keys: string[]) => {
      const asked = newest.current;
      const rows: Row[] = [];
      for (let from = 0; from < keys.length; from += PAGE)
        rows.push(...(await page(keys.slice(from, from + PAGE))));
      setSeen((old) => Math.max(old, asked));
      return rows;
    },
    [page],
  );
  const source = useMemo<RowSource<Row, string>>(
    () => ({
      ids: data?.keys ?? none,
      version: `${data?.builtRevision}:${dataUpdatedAt}:${stamp}`,
      loading: isFetching,
      fetchPage,
      fetchAll: fetchPage,
      keyOf: ({ key }) => key,
    }),
    [data, dataUpdatedAt, stamp, isFetching, fetchPage],
  );
  return { source, data, seen };
}
