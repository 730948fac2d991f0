import {
  type BidsFrom,
  type ResultBid,
  type ResultBidList,
  readResultBidRows,
  readResultBids,
  takeResultBids,
} from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import { call } from '../../data/call.ts';
import { question } from '../../data/question.ts';
import { useWrite } from '../../data/use-write.ts';
import { counted } from '../../kit/format.ts';
import { useNumberedRows } from './use-numbered-rows.ts';

/** Bids as they follow from results, of one list, and its rows as they come into view. */
export function useResultBids(plan: number, from: BidsFrom, list: ResultBidList) {
  const { data, error, isPlaceholderData } = useQuery({
    ...question(readResultBids, { params: { plan }, body: { from, list } }),
    placeholderData: keepPreviousData,
  });
  const page = useCallback(
    (rows: number[]) => call(readResultBidRows, { params: { plan }, body: { from, rows } }),
    [plan, from],
  );
  const source = useNumberedRows<ResultBid>({
    order: data?.order,
    version: `${from} ${data?.stamp}`,
    loading: data === undefined,
    page,
  });
  return { answer: data, source, error, isOld: isPlaceholderData };
}

export const useTakingBids = () =>
  useWrite(takeResultBids, {
    refusals: 'here',
    said: ({ changed }) =>
      `${counted(changed, 'bid')} set. Ctrl+Z takes ${changed === 1 ? 'it' : 'them'} back; the next difference ships ${changed === 1 ? 'it' : 'them'}.`,
  });
