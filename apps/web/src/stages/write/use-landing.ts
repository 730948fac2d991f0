import { readLanding } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { question } from '../../data/question.ts';

/** What the page at an address says; asked for again after a minute. */
export const useLanding = (plan: number, address: string) =>
  useQuery({
    ...question(readLanding, { params: { plan }, query: { address } }),
    enabled: address !== '',
    staleTime: 60_000,
  });
