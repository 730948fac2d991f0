import type { PlanEvent } from '@sprig/contracts';
import type { QueryClient } from '@tanstack/react-query';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { forgetChanges, hangsOn, isReadAlready } from '../api/changed.ts';
import { fetchAgain } from '../api/fetch-again.ts';
import { jobKey, tellJob } from '../api/jobs.ts';
import { planKey } from '../api/plan.ts';
import { listen } from './plan-stream.ts';

/** Listens to what happens to the plan, here or in another window, and has what hangs on it fetched again. */
export function usePlanEvents(plan: number): void {
  const client = useQueryClient();
  useEffect(() => {
    const stop = listen(plan, {
      event: (event) => heed(client, plan, event),
      gap: () => {
        tellJob(plan, null);
        void fetchAgain(client, planKey(plan));
      },
    });
    return () => {
      stop();
      forgetChanges(plan);
      // Nobody tells of what happens from here on.
      void client.invalidateQueries({ queryKey: planKey(plan), refetchType: 'none' });
    };
  }, [client, plan]);
}

/** Has fetched again what an event may have changed. */
export function heed(client: QueryClient, plan: number, event: PlanEvent): void {
  const key = planKey(plan);
  if (event.type === 'opened') {
    const state = client.getQueryData<{ revision: number; builtRevision: number }>([...key, 'state']);
    // What became of jobs before anything was heard is read again, whatever the plan's state is.
    tellJob(plan, null);
    for (const name of ['job', 'jobs']) void fetchAgain(client, [...key, name]);
    // All else is asked after the state: it is as new as the state is, or newer.
    if (!state) void fetchAgain(client, [...key, 'state']);
    else if (state.revision !== event.revision || state.builtRevision !== event.builtRevision)
      void fetchAgain(client, key);
    return;
  }
  if (event.type === 'job') {
    tellJob(plan, event.job);
    void fetchAgain(client, jobKey(plan, event.job));
    void fetchAgain(client, [...key, 'jobs']);
    return;
  }
  // What this window has changed itself it has read again with the answer.
  if (event.type === 'revision' && isReadAlready(plan, event.revision)) return;
  for (const name of FRESH[event.type]) void fetchAgain(client, [...key, name]);
}

const built = [
  'state',
  'groups',
  'build',
  'group',
  'rows',
  'bids',
  'aim',
  'fences',
  'fix',
  'ship',
  'holds',
  'ads',
  'addresses',
  'landing',
  'try outlet',
  'next step',
];
/**
 * What no event of the plan's changes: jobs have events of their own, and the market's rivals are not the plan's. The
 * pool and what is learned of it are asked for by the revision that they are of.
 */
export const KEPT = ['job', 'jobs', 'rivals', 'pool', 'learned'];

export const FRESH = { built, revision: hangsOn.plan, shipped: hangsOn.receipts };
