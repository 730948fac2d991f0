import * as api from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { call } from '../api/call.ts';

/** The forecast of a scope; asked again after each rebuild. */
export const useForecast = (plan: number, builtRevision: number, scope: api.BidScope | null) =>
  useQuery({
    queryKey: ['forecast', plan, builtRevision, scope],
    queryFn: () => call(api.viewForecast, { params: { plan }, body: { scope: scope as api.BidScope } }),
    enabled: scope !== null,
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  });
