import type { ReadKind } from '@sprig/contracts';
import type { Query, QueryKey } from '@tanstack/react-query';

declare module '@tanstack/react-query' {
  interface Register {
    queryMeta: { reads: readonly ReadKind[] };
  }
}

/** Below it lies all that is read of a plan. */
export const planKey = (plan: number) => ['plan', plan] as const;

/** Below it lies all that is read of no plan. */
export const workspaceKey = ['workspace'] as const;

const nameOf = ({ method, path }: { method: string; path: string }) => `${method} ${path}`;

/** Below it lies all that is asked of an endpoint: of one plan, or of the workspace. */
export const questionsOf = (endpoint: { method: string; path: string }, plan: number | null): QueryKey => [
  ...(plan === null ? workspaceKey : planKey(plan)),
  nameOf(endpoint),
];

/** The plan that a call speaks of; null: none. */
export const planOf = (told: unknown): number | null => {
  const { plan } = ((told ?? {}) as { params?: { plan?: unknown } }).params ?? {};
  return plan === undefined ? null : Number(plan);
};

/** Whether an answer may be another one after these changes. Of one that does not say it is taken for granted. */
export const hangsOn = ({ meta }: Pick<Query, 'meta'>, kinds: ReadonlySet<ReadKind>): boolean =>
  meta === undefined || meta.reads.some((kind) => kinds.has(kind));

/** Whether an answer is of this plan, or of no plan. */
export const isAbout = ({ queryKey }: Pick<Query, 'queryKey'>, plan: number): boolean =>
  queryKey[0] === workspaceKey[0] || (queryKey[0] === 'plan' && queryKey[1] === plan);
