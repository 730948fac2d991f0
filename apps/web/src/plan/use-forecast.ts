import * as api from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { question } from '../data/question.ts';

/** The forecast of a scope; asked again after each rebuild. */
export const useForecast = (plan: number, scope: api.BidScope | null) =>
  useQuery({
    ...question(api.viewForecast, { params: { plan }, body: { scope: scope as api.BidScope } }),
    enabled: scope !== null,
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  });
