import { planEvent } from '@sprig/contracts';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { jobKey, tellJob } from '../api/jobs.ts';
import { planKey } from '../api/plan.ts';

/** Listens to what happens to the plan, here or in another window, and has what hangs on it fetched again. */
export function usePlanEvents(plan: number): void {
  const client = useQueryClient();
  useEffect(() => {
    const stream = new EventSource(`/api/plans/${plan}/events`);
    stream.onmessage = ({ data }) => {
      const event = planEvent.parse(JSON.parse(data as string));
      const key = planKey(plan);
      if (event.type === 'job') {
        tellJob(plan, event.job);
        client.invalidateQueries({ queryKey: jobKey(plan, event.job) });
        client.invalidateQueries({ queryKey: [...key, 'jobs'] });
        return;
      }
      client.invalidateQueries({ queryKey: [...key, 'state'] });
      const names =
        event.type === 'built'
          ? ['groups', 'build', 'group', 'rows', 'ship', 'holds', 'ads', 'addresses']
          : [
              'document',
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
      for (const name of names) client.invalidateQueries({ queryKey: [...key, name] });
    };
    // After a break in the connection anything may have happened.
    let broken = false;
    stream.onerror = () => {
      broken = true;
    };
    stream.onopen = () => {
      if (broken) client.invalidateQueries({ queryKey: planKey(plan) });
      broken = false;
    };
    return () => stream.close();
  }, [client, plan]);
}
