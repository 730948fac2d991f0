import { type HeldValue, holdValue, letGo, listHolds } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import type { z } from 'zod';
import { call } from '../data/call.ts';
import { question } from '../data/question.ts';
import { refusalOf } from '../data/run-change.ts';

type Field = z.input<typeof holdValue.body>['field'];

/** The values set by hand, and how to set and give back one. Answers of both are words of refusal, or null. */
export function useHolds(plan: number) {
  const { data: holds = [] } = useQuery({
    ...question(listHolds, { params: { plan } }),
    select: ({ holds: held }): HeldValue[] => held,
  });
  const hold = useCallback(
    async (rowKey: string, field: Field, value: string | number): Promise<string | null> => {
      const before = holds.find((one) => one.rowKey === rowKey && one.field === field)?.value ?? null;
      return refusalOf(plan, () =>
        call(holdValue, { params: { plan }, body: { rowKey, field, value: value as never, before } }),
      );
    },
    [holds, plan],
  );
  const release = useCallback(
    (places: { rowKey: string; field: string }[]): Promise<string | null> =>
      refusalOf(plan, () => call(letGo, { params: { plan }, body: { places } })),
    [plan],
  );
  return { holds, hold, release };
}
