import { type Look, readLook, readLookRows, type ShownLook } from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useCallback, useMemo } from 'react';
import { call } from '../../data/call.ts';
import { question } from '../../data/question.ts';
import { useAddress } from '../../kit/address.ts';
import { addressOfLook, lookOfAddress, lookParams } from './look-address.ts';
import { useNumberedRows } from './use-numbered-rows.ts';

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
  const change = useCallback(
    (part: Partial<ShownLook>) => set(addressOfLook({ ...look, ...part })),
    [look, set],
  );
  return { look, change, params, set };
}

/** What a look finds: what it reads, its sums, and its rows as they come into view. */
export function useLooked(plan: number, look: Look) {
  const { data, isFetching, isPlaceholderData, error } = useQuery({
    ...question(readLook, { params: { plan }, body: look }),
    placeholderData: keepPreviousData,
  });
  const page = useCallback(
    (rows: number[]) => call(readLookRows, { params: { plan }, body: { look, rows } }),
    [plan, look],
  );
  const source = useNumberedRows<ShownRow>({
    order: data?.order,
    version: data?.stamp ?? '',
    loading: isFetching,
    page,
  });
  return { found: data, source, isOld: isPlaceholderData, error };
}
