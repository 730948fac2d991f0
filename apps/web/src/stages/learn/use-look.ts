import { type Look, readLook, readLookRows } from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useCallback, useMemo } from 'react';
import { call } from '../../data/call.ts';
import { question } from '../../data/question.ts';
import { useAddress } from '../../kit/address.ts';
import type { RowSource } from '../../kit/table/row-source.ts';
import { addressOfLook, lookOfAddress, lookParams } from './look-address.ts';

export type ShownRow = {
  n: number;
  names: string[];
  figures: (number | null)[];
  before: (number | null)[] | null;
};

/** What is looked at: it stands in the address, so that it can be sent and come back to. */
export function useLook() {
  const [params, set] = useAddress();
  const said = lookParams.map((name) => params.get(name) ?? '').join('\n');
  // biome-ignore lint/correctness/useExhaustiveDependencies: the same words are the same look
  const look = useMemo(() => lookOfAddress(params), [said]);
  const change = useCallback((part: Partial<Look>) => set(addressOfLook({ ...look, ...part })), [look, set]);
  return { look, change, params, set };
}

const none: number[] = [];
/** Rows are asked for at most so many at a time. */
const PAGE = 1_000;

/** What a look finds: what it reads, its sums, and its rows as they come into view. */
export function useLooked(plan: number, look: Look) {
  const { data, isFetching, isPlaceholderData, error } = useQuery({
    ...question(readLook, { params: { plan }, body: look }),
    placeholderData: keepPreviousData,
  });
  const fetchPage = useCallback(
    async (keys: number[]) => {
      const rows: ShownRow[] = [];
      for (let from = 0; from < keys.length; from += PAGE) {
        const body = { look, rows: keys.slice(from, from + PAGE) };
        rows.push(...(await call(readLookRows, { params: { plan }, body })).rows);
      }
      return rows;
    },
    [plan, look],
  );
  const source = useMemo<RowSource<ShownRow, number>>(
    () => ({
      ids: data?.order ?? none,
      version: data?.stamp ?? '',
      loading: isFetching,
      fetchPage,
      fetchAll: fetchPage,
      keyOf: ({ n }) => n,
    }),
    [data, isFetching, fetchPage],
  );
  return { found: data, source, isOld: isPlaceholderData, error };
}
