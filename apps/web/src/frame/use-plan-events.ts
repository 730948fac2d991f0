import { openJobs, type PlanEvent, type ReadKind, readJob, readMe } from '@sprig/contracts';
import type { QueryClient } from '@tanstack/react-query';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { forgetChanges, isReadAlready } from '../data/changed.ts';
import { fetchAgain, fetchChanged } from '../data/fetch-again.ts';
import { jobOf, tellJob } from '../data/jobs.ts';
import { stateOf } from '../data/plan.ts';
import { planKey, questionsOf } from '../data/query-key.ts';
import { listen } from './plan-stream.ts';
import { heardOf, hearsNoMore, listensBy, othersAt } from './presence.ts';
import { Spaced } from './spaced.ts';

/** Listens to what happens to the plan, here or in another window, and has what hangs on it fetched again. */
export function usePlanEvents(plan: number): void {
  const client = useQueryClient();
  useEffect(() => {
    const stop = listen(plan, {
      event: (event) => heed(client, plan, event),
      gap: () => {
        tellJob(plan, null);
        void fetchAgain(client, { queryKey: planKey(plan) });
        // A stream breaks off too where one may do something else than before.
        void fetchAgain(client, { queryKey: questionsOf(readMe, null) });
      },
    });
    return () => {
      stop();
      hearsNoMore(plan);
      forgetChanges(plan);
      spaced.get(client)?.get(plan)?.stop();
      spaced.get(client)?.delete(plan);
      // Nobody tells of what happens from here on.
      void client.invalidateQueries({ queryKey: planKey(plan), refetchType: 'none' });
    };
  }, [client, plan]);
}

/** By plan, what was told and is to be read again. */
const spaced = new WeakMap<QueryClient, Map<number, Spaced<ReadKind>>>();

function spacedOf(client: QueryClient, plan: number): Spaced<ReadKind> {
  const plans = spaced.get(client) ?? new Map<number, Spaced<ReadKind>>();
  spaced.set(client, plans);
  const read = (kinds: ReadonlySet<ReadKind>) => void fetchChanged(client, plan, kinds);
  const known = plans.get(plan) ?? new Spaced(read, () => othersAt(plan));
  plans.set(plan, known);
  return known;
}

/** Has fetched again what an event may have changed. */
export function heed(client: QueryClient, plan: number, event: PlanEvent): void {
  if (event.type === 'opened') {
    const state = client.getQueryData(stateOf(plan).queryKey);
    // What became of jobs before anything was heard is read again, whatever the plan's state is.
    tellJob(plan, null);
    for (const endpoint of [readJob, openJobs])
      void fetchAgain(client, { queryKey: questionsOf(endpoint, plan) });
    // All else is asked after the state: it is as new as the state is, or newer.
    if (!state) void fetchAgain(client, { queryKey: stateOf(plan).queryKey });
    else if (state.revision !== event.revision || state.builtRevision !== event.builtRevision)
      void fetchAgain(client, { queryKey: planKey(plan) });
    return;
  }
  if (event.type === 'job') {
    tellJob(plan, event.job);
    void fetchAgain(client, { queryKey: jobOf(plan, event.job).queryKey });
    void fetchAgain(client, { queryKey: questionsOf(openJobs, plan) });
    return;
  }
  if (event.type === 'listening') {
    listensBy(plan, event.stream);
    return;
  }
  if (event.type === 'here') {
    heardOf(plan, event);
    return;
  }
  // What this window has changed itself it has read again with the answer.
  if (event.type === 'revision' && isReadAlready(plan, event.revision)) return;
  spacedOf(client, plan).add(CHANGED[event.type]);
}

const CHANGED = { built: 'built', revision: 'plan', shipped: 'receipts', work: 'work' } satisfies Partial<
  Record<PlanEvent['type'], ReadKind>
>;
