import { viewBuild } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { call } from '../api/call.ts';
import { planKey } from '../api/plan.ts';

const none: { key: string; name: string }[] = [];

/** The campaigns as they are built, to be chosen from. */
export function useCampaigns(plan: number): { key: string; name: string }[] {
  const { data } = useQuery({
    queryKey: [...planKey(plan), 'campaigns'],
    queryFn: async () => (await call(viewBuild, { params: { plan }, query: {} })).campaigns,
  });
  return data ?? none;
}
