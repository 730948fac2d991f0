import { Histogram } from 'prom-client';

/** How long the jobs of this process's runner ran, by kind and how they ended. */
export const jobSeconds = new Histogram({
  name: 'sprig_job_seconds',
  help: 'How long jobs ran, by kind and how they ended.',
  labelNames: ['kind', 'how'],
  buckets: [0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10, 30, 60, 300],
  registers: [],
});
