import * as api from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { question } from '../data/question.ts';

export type SortData = {
  themes: api.ThemeRow[];
  placed: api.HandPlaced[];
  settings: api.SortSettings;
  seen: number;
};

/** The plan's themes, what is placed by hand, and how it sorts. */
export const useSort = (plan: number) =>
  useQuery({
    ...question(api.readSort, { params: { plan } }),
    placeholderData: keepPreviousData,
  });
