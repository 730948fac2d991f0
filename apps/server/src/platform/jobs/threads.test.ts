import { readJob, stopJob } from '@sprig/contracts';
import { afterAll, afterEach, beforeAll, expect, test } from 'vitest';
import { select } from '../../db/connect.ts';
import { finished, planOf, startTestServer, type TestServer } from '../../testing/start-test-server.ts';
import { enqueue } from './enqueue.ts';
import { startRunner } from './runner.ts';
import { JobThreads } from './threads.ts';

let server: TestServer;
let plans: number[];
let end: () => Promise<void> = async () => {};
beforeAll(async () => {
  server = await startTestServer({ runner: false });
  plans = [await planOf(server, 'One'), await planOf(server, 'Two')];
  // What they are built of is of no interest here.
  await server.database.query(`update jobs set status = 'stopped'`);
});
afterEach(() => end());
afterAll(() => server.stop());

const boot = new URL('../../testing/dist/busy-thread.mjs', import.meta.url);
const begin = async (options: ConstructorParameters<typeof JobThreads>[1] = {}) => {
  end = await startRunner(server.databaseUrl, new JobThreads(server.databaseUrl, { boot, ...options }));
};
const give = (plan: number, at = 'nothing') =>
  server.database.transaction((transaction) =>
    enqueue({ ...server.caller, plan }, transaction, 'addresses', { at }),
  );
const stateOf = async (plan: number, job: string) =>
  (await server.call(readJob, { params: { plan, job } })).status;
async function running(plan: number, job: string) {
  for (let times = 0; times < 600 && (await stateOf(plan, job)) !== 'running'; times++)
    await new Promise((go) => setTimeout(go, 25));
  // It has reached what it is at.
  await new Promise((go) => setTimeout(go, 400));
}

test.each(['computing', 'a statement'])('a job at %s holds no other plan, and is stopped', async (at) => {
  await begin();
  const [one, two] = plans as [number, number];
  const busy = await give(one, at);
  await running(one, busy);
  const others = await Promise.all([give(two), give(two)]);
  for (const job of others) expect((await finished(server, two, job)).status).toBe('done');
  expect(await stateOf(one, busy)).toBe('running');
  await server.call(stopJob, { params: { plan: one, job: busy } });
  // The next job of its plan does not begin before it has ended.
  expect((await finished(server, one, await give(one))).status).toBe('done');
  expect(await stateOf(one, busy)).toBe('stopped');
  const left = await select(
    server.database,
    `select query from pg_stat_activity where datname = current_database() and state <> 'idle' and query like '%pg_sleep%' and pid <> pg_backend_pid()`,
  );
  expect(left).toEqual([]);
});

test('jobs of a plan go to the thread that knows it', async () => {
  await begin();
  const threads: unknown[] = [];
  for (const plan of [0, 1, 0, 1, 1, 0].map((at) => plans[at] as number))
    threads.push(((await finished(server, plan, await give(plan))).result as { thread: number }).thread);
  const [first, second] = threads;
  expect(second).not.toBe(first);
  expect(threads).toEqual([first, second, first, second, second, first]);
});

test('a job that takes all memory fails with words, and the server goes on', async () => {
  await begin({ memoryMb: 200 });
  const [one] = plans as [number];
  const done = await finished(server, one, await give(one, 'memory'));
  expect(done).toMatchObject({ status: 'failed', failure: { code: 'too-large' } });
  expect(done.failure?.message).toContain('200 MB');
  expect((await finished(server, one, await give(one))).status).toBe('done');
});

test('a server that ends gives back what goes on, and the next one does it', async () => {
  await begin({ graceMs: 50 });
  const [one] = plans as [number];
  const job = await give(one, 'a statement');
  await running(one, job);
  await end();
  await server.database.query(`update jobs set input = '{}' where id = $1`, { bind: [job] });
  await begin();
  expect((await finished(server, one, job)).status).toBe('done');
  const [row] = await select<{ runs: number }>(server.database, 'select runs from jobs where id = $1', [job]);
  expect(row?.runs).toBe(2);
});
