import { listPlanPeople } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { question } from '../../data/question.ts';

export type Reader = { actor: number; name: string };

/** Who sees the plan: those whom notes may speak to. */
export function useReaders(plan: number): readonly Reader[] {
  const { data } = useQuery(question(listPlanPeople, { params: { plan } }));
  return data?.people.filter(({ role, here }) => role === 'owner' || here !== 'none') ?? nobody;
}

const nobody: readonly Reader[] = [];
