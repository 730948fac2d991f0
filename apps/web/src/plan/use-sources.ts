import { listSources } from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { question } from '../data/question.ts';

/** Where the plan's keywords came from. */
export const useSources = (plan: number) =>
  useQuery({
    ...question(listSources, { params: { plan } }),
    select: ({ sources }) => sources,
    placeholderData: keepPreviousData,
  });
