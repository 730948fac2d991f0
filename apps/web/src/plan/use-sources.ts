import { listSources } from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { call } from '../api/call.ts';
import { planKey } from '../api/plan.ts';

/** Where the plan's keywords came from. */
export const useSources = (plan: number) =>
  useQuery({
    queryKey: [...planKey(plan), 'sources'],
    queryFn: async () => (await call(listSources, { params: { plan } })).sources,
    placeholderData: keepPreviousData,
  });
