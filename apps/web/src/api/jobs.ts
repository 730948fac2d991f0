import { type Job, openJobs, readJob } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { CallFailure, call } from './call.ts';
import { planKey } from './plan.ts';
import { queryClient } from './query-client.ts';

export const jobKey = (plan: number, job: string) => [...planKey(plan), 'job', job];

/** A job as it goes on; the plan's events say when to look again. */
export const useJob = (plan: number, job: string | null) =>
  useQuery({
    queryKey: jobKey(plan, job ?? ''),
    queryFn: () => call(readJob, { params: { plan, job: job ?? '' } }),
    enabled: job !== null,
    refetchInterval: (query) => (query.state.data && hasEnded(query.state.data) ? false : 1_000),
  });

/** Jobs under way in a plan, found again after a reload. */
export const useOpenJobs = (plan: number) =>
  useQuery({
    queryKey: [...planKey(plan), 'jobs'],
    queryFn: async () => (await call(openJobs, { params: { plan } })).jobs,
    refetchInterval: (query) => (query.state.data?.length ? 1_000 : false),
  });

export const hasEnded = ({ status }: Job): boolean => status !== 'queued' && status !== 'running';

/** Waits for a job to end; throws its failure in its words. */
export async function finishJob(plan: number, job: string): Promise<Job> {
  for (;;) {
    const now = await call(readJob, { params: { plan, job } });
    queryClient.setQueryData(jobKey(plan, job), now);
    if (now.failure) throw new CallFailure(now.failure);
    if (hasEnded(now)) return now;
    await nextNews(plan, job);
  }
}

const listeners = new Set<(plan: number, job: string) => void>();

/** The plan's event stream tells of a job here. */
export const tellJob = (plan: number, job: string) => {
  for (const listener of listeners) listener(plan, job);
};

/** The next word of the job, or half a second without one. */
function nextNews(plan: number, job: string): Promise<void> {
  return new Promise((done) => {
    const end = () => {
      listeners.delete(listener);
      clearTimeout(timer);
      done();
    };
    const listener = (toldPlan: number, toldJob: string) => {
      if (toldPlan === plan && toldJob === job) end();
    };
    const timer = setTimeout(end, 500);
    listeners.add(listener);
  });
}
