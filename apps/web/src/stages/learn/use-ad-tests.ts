import {
  type AdsBy,
  type AdTestGroup,
  keepBetterAd,
  readAdTestGroups,
  readAdTestRows,
  readAdTests,
} from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import { call } from '../../data/call.ts';
import { question } from '../../data/question.ts';
import { useWrite } from '../../data/use-write.ts';
import { counted } from '../../kit/format.ts';
import { useNumberedRows } from './use-numbered-rows.ts';

export const useAdTests = (plan: number, by: AdsBy) =>
  useQuery({
    ...question(readAdTests, { params: { plan }, body: { by } }),
    placeholderData: keepPreviousData,
  });

/** The ad groups of one test as they come into view. */
export function useAdTestGroups(plan: number, by: AdsBy, test: string) {
  const { data } = useQuery({
    ...question(readAdTestGroups, { params: { plan }, body: { by, test } }),
    enabled: test !== '',
    placeholderData: keepPreviousData,
  });
  const page = useCallback(
    (rows: number[]) => call(readAdTestRows, { params: { plan }, body: { by, test, rows } }),
    [plan, by, test],
  );
  return useNumberedRows<AdTestGroup>({
    order: data?.order,
    version: `${by} ${test} ${data?.stamp}`,
    loading: data === undefined,
    page,
  });
}

export const useKeepingBetter = () =>
  useWrite(keepBetterAd, {
    said: ({ ads }, { body }) => {
      const what = counted(ads, 'ad');
      return body?.keep === 'both'
        ? `${what} run again. The next difference ships that.`
        : `${what} paused. Ctrl+Z takes that back; the next difference ships it.`;
    },
  });
