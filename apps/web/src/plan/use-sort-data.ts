import * as api from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { call } from '../api/call.ts';
import { planKey } from '../api/plan.ts';

export type SortData = {
  themes: api.ThemeRow[];
  placed: api.HandPlaced[];
  settings: api.SortSettings;
  seen: number;
};

const sortKey = (plan: number) => [...planKey(plan), 'sort'];

/** The plan's themes, what is placed by hand, and how it sorts. */
export const useSort = (plan: number) =>
  useQuery({
    queryKey: sortKey(plan),
    queryFn: (): Promise<SortData> => call(api.readSort, { params: { plan } }),
    placeholderData: keepPreviousData,
  });
