import { type HeldValue, holdValue, letGo, listHolds } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import type { z } from 'zod';
import { call, wordsOf } from '../api/call.ts';
import { planKey } from '../api/plan.ts';
import { queryClient } from '../api/query-client.ts';

type Field = z.input<typeof holdValue.body>['field'];

/** The values set by hand, and how to set and give back one. Answers of both are words of refusal, or null. */
export function useHolds(plan: number) {
  const { data: holds = [] } = useQuery({
    queryKey: [...planKey(plan), 'holds'],
    queryFn: async (): Promise<HeldValue[]> => (await call(listHolds, { params: { plan } })).holds,
  });
  const hold = useCallback(
    async (rowKey: string, field: Field, value: string | number): Promise<string | null> => {
      const before = holds.find((one) => one.rowKey === rowKey && one.field === field)?.value ?? null;
      try {
        await call(holdValue, { params: { plan }, body: { rowKey, field, value: value as never, before } });
        await queryClient.invalidateQueries({ queryKey: planKey(plan) });
        return null;
      } catch (error) {
        return wordsOf(error);
      }
    },
    [holds, plan],
  );
  const release = useCallback(
    async (places: { rowKey: string; field: string }[]): Promise<string | null> => {
      try {
        await call(letGo, { params: { plan }, body: { places } });
        await queryClient.invalidateQueries({ queryKey: planKey(plan) });
        return null;
      } catch (error) {
        return wordsOf(error);
      }
    },
    [plan],
  );
  return { holds, hold, release };
}
