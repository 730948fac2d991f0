import { type PlanEvent, planEvent } from '@sprig/contracts';
import type { QueryClient } from '@tanstack/react-query';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { fetchAgain } from '../api/fetch-again.ts';
import { jobKey, tellJob } from '../api/jobs.ts';
import { planKey } from '../api/plan.ts';

/** Listens to what happens to the plan, here or in another window, and has what hangs on it fetched again. */
export function usePlanEvents(plan: number): void {
  const client = useQueryClient();
  useEffect(() => {
    let stream = new EventSource(`/api/plans/${plan}/events`);
    let again: ReturnType<typeof setTimeout> | undefined;
    const listen = () => {
      stream.onmessage = ({ data }) => heed(client, plan, planEvent.parse(JSON.parse(data as string)));
      // After a break in the connection anything may have happened, to jobs too.
      let broken = again !== undefined;
      stream.onerror = () => {
        broken = true;
        if (stream.readyState !== EventSource.CLOSED) return;
        // It was refused, and does not come back by itself: until it does the window looks for itself.
        clearTimeout(again);
        again = setTimeout(() => {
          fetchAgain(client, planKey(plan));
          stream = new EventSource(`/api/plans/${plan}/events`);
          listen();
        }, REFUSED_MS);
      };
      stream.onopen = () => {
        if (broken) fetchAgain(client, planKey(plan));
        broken = false;
      };
    };
    listen();
    return () => {
      clearTimeout(again);
      stream.close();
      // Nobody tells of what happens from here on.
      void client.invalidateQueries({ queryKey: planKey(plan), refetchType: 'none' });
    };
  }, [client, plan]);
}

/** How often a window that hears of nothing looks by itself. */
const REFUSED_MS = 10_000;

/** Has fetched again what an event may have changed. */
export function heed(client: QueryClient, plan: number, event: PlanEvent): void {
  const key = planKey(plan);
  if (event.type === 'opened') {
    const state = client.getQueryData<{ revision: number; builtRevision: number }>([...key, 'state']);
    // All else is asked after the state: it is as new as the state is, or newer.
    if (!state) fetchAgain(client, [...key, 'state']);
    else if (state.revision !== event.revision || state.builtRevision !== event.builtRevision)
      fetchAgain(client, key);
    return;
  }
  if (event.type === 'job') {
    tellJob(plan, event.job);
    fetchAgain(client, jobKey(plan, event.job));
    fetchAgain(client, [...key, 'jobs']);
    return;
  }
  for (const name of FRESH[event.type]) fetchAgain(client, [...key, name]);
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
];
const revision = [
  'state',
  'document',
  'facts',
  'ideas',
  'read-back',
  'sources',
  'negatives',
  'verdicts',
  'shared',
  'problems',
  'history',
  'holds',
  'mix',
  'cuts',
  'sort',
  'setting-sets',
  'attached',
  'negatives of',
  'assets',
  'refused',
  'ads',
  'ship',
  'outlets',
];

/** What hangs on receipts, and on what became of them. */
export const shipped = ['ship', 'receipts', 'outlets', 'account', 'refusals'];

/** What no event of the plan's changes: jobs have events of their own, and the market's rivals are not the plan's. */
export const KEPT = ['job', 'jobs', 'rivals', 'pool'];

export const FRESH = { built, revision, shipped };
