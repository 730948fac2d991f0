import { threadId } from 'node:worker_threads';
import { select } from '../db/connect.ts';
import type { JobContext } from '../platform/jobs/context.ts';
import { serveJobs } from '../platform/jobs/thread.ts';
import { handlers } from '../stages/all.ts';

/** A thread whose jobs do what their input says, for tests that stop them in the middle of it. */
const work = async ({ caller, input }: JobContext) => {
  const { at = 'nothing' } = input as { at?: string };
  if (at === 'computing') for (;;);
  if (at === 'a statement') await select(caller.database, 'select pg_sleep(600)');
  if (at === 'memory') for (const kept: number[][] = []; ; ) kept.push(new Array(100_000).fill(1.5));
  return { thread: threadId };
};
serveJobs({ ...handlers, addresses: work });
