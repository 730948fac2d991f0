import { readLanding } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { call } from '../../api/call.ts';
import { planKey } from '../../api/plan.ts';

/** What the page at an address says; asked for again after a minute. */
export const useLanding = (plan: number, address: string) =>
  useQuery({
    queryKey: [...planKey(plan), 'landing', address],
    queryFn: () => call(readLanding, { params: { plan }, query: { address } }),
    enabled: address !== '',
    staleTime: 60_000,
  });
