import * as api from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { question } from '../data/question.ts';

export type SortData = {
  themes: api.ThemeRow[];
  placed: api.HandPlaced[];
  settings: api.SortSettings;
  seen: number;
};

const sortOf = (plan: number) => question(api.readSort, { params: { plan } });

/** The plan's themes, what is placed by hand, and how it sorts. */
export const useSort = (plan: number) =>
  useQuery({
    ...sortOf(plan),
    placeholderData: keepPreviousData,
  });
