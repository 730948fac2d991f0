import { type Job, openJobs, readJob } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { CallFailure, call } from './call.ts';
import { queryClient } from './query-client.ts';
import { question } from './question.ts';

export const jobOf = (plan: number, job: string) => question(readJob, { params: { plan, job } });

/** A job as it goes on: the plan's events say when to look again, and nothing else does. */
export const useJob = (plan: number, job: string | null) =>
  useQuery({
    ...jobOf(plan, job ?? ''),
    enabled: job !== null,
  });

/** Jobs under way in a plan, found again after a reload. */
export const useOpenJobs = (plan: number) =>
  useQuery({
    ...question(openJobs, { params: { plan } }),
    select: ({ jobs }) => jobs,
  });

export const hasEnded = ({ status }: Job): boolean => status !== 'queued' && status !== 'running';

/** Waits for a job to end; throws its failure in its words. */
export async function finishJob(plan: number, job: string): Promise<Job> {
  for (;;) {
    // Heard of from before it is read: what happens in between is not missed.
    const news = listenFor(plan, job);
    try {
      const now = await call(readJob, { params: { plan, job } });
      queryClient.setQueryData(jobOf(plan, job).queryKey, now);
      if (now.failure) throw new CallFailure(now.failure);
      if (hasEnded(now)) return now;
      await news.heard;
    } finally {
      news.forget();
    }
  }
}

type Listener = (plan: number, job: string | null) => void;
const listeners = new Set<Listener>();

/** The plan's events tell of a job here; null: something may have happened to any of them. */
export const tellJob = (plan: number, job: string | null) => {
  for (const listener of [...listeners]) listener(plan, job);
};

/** The next word of the job. */
function listenFor(plan: number, job: string): { heard: Promise<void>; forget: () => void } {
  let forget = () => {};
  const heard = new Promise<void>((done) => {
    const listener: Listener = (toldPlan, toldJob) => {
      if (toldPlan === plan && (toldJob === null || toldJob === job)) done();
    };
    listeners.add(listener);
    forget = () => listeners.delete(listener);
  });
  return { heard, forget };
}
