import type { ChangeKind } from '@sprig/contracts';
import { fetchAgain, fetchChanged } from './fetch-again.ts';
import { queryClient } from './query-client.ts';
import { planKey } from './query-key.ts';

/** What own calls have changed of a plan, and nobody has read again yet. */
const noted = new Map<number, Set<ChangeKind>>();
/** The newest revision that an own call has made of a plan, and the newest that was read again after it. */
const made = new Map<number, number>();
const read = new Map<number, number>();

/** What earlier calls have changed, events tell of: from here on only what comes next is noted. */
export function noteAnew(plan: number): void {
  noted.delete(plan);
}

/** Notes what a call that was answered has changed; `revision`: what it has made of the plan. */
export function noteChanged(plan: number, changes: readonly ChangeKind[], revision: number | null): void {
  noted.set(plan, new Set([...(noted.get(plan) ?? []), ...changes]));
  if (revision !== null) made.set(plan, Math.max(revision, made.get(plan) ?? 0));
}

/**
 * Reads again what hangs on what own calls have changed, and waits for what is on the screen. Where a job was begun,
 * or no call has said what it changed, all of the plan is read.
 */
export async function readChanged(plan: number): Promise<void> {
  const kinds = noted.get(plan) ?? new Set();
  noted.delete(plan);
  const revision = made.get(plan);
  if (revision !== undefined) read.set(plan, revision);
  if (kinds.size === 0 || kinds.has('jobs')) return fetchAgain(queryClient, { queryKey: planKey(plan) });
  await fetchChanged(queryClient, plan, kinds);
}

/** Whether what hangs on a revision has been read again since it was made, or is being read. */
export const isReadAlready = (plan: number, revision: number): boolean => (read.get(plan) ?? -1) >= revision;

/** Nobody listens to the plan any more: what is shown of it next is read anew. */
export function forgetChanges(plan: number): void {
  for (const known of [noted, made, read]) known.delete(plan);
}
