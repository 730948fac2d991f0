import type { ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import * as api from '@sprig/contracts';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { select } from '../../db/connect.ts';
import { shipping } from '../../testing/shipping.ts';
import { startRunnerProcess } from '../../testing/start-runner-process.ts';
import { built, planOf, startTestServer, type TestServer, upload } from '../../testing/start-test-server.ts';
import { asAdmin } from '../../testing/template.ts';

let server: TestServer;
let runner: ChildProcess;
beforeAll(async () => {
  server = await startTestServer({ runner: false });
  runner = await startRunnerProcess(server.databaseUrl);
});
afterAll(async () => {
  // The same one to the end: it lives through all of this.
  expect([runner.exitCode, runner.signalCode]).toEqual([null, null]);
  runner.kill('SIGTERM');
  await once(runner, 'exit');
  await server.stop();
});
const { shippable, check, receiptsOf } = shipping(() => server);

/** Every connection to the test's database is cut, as when the database is restarted. */
const cutAll = () =>
  asAdmin(
    `select pg_terminate_backend(pid) from pg_stat_activity where datname = '${new URL(server.databaseUrl).pathname.slice(1)}'`,
  );

/** Asked until it is answered: what is asked while the database is away is refused. */
async function patiently<T>(ask: () => Promise<T>, is: (answer: T) => boolean = () => true): Promise<T> {
  for (let times = 0; times < 600; times++) {
    const answer = await ask().catch(() => null);
    if (answer !== null && is(answer)) return answer;
    await new Promise((done) => setTimeout(done, 50));
  }
  throw new Error('it never came');
}

const rebuildOf = (plan: number): Promise<string> =>
  patiently(async () => {
    const { jobs } = await server.call(api.openJobs, { params: { plan } });
    const rebuild = jobs.find(({ kind }) => kind === 'rebuild');
    if (!rebuild) throw new Error('It is not there yet.');
    return rebuild.id;
  });
const ended = (plan: number, job: string) =>
  patiently(
    () => server.call(api.readJob, { params: { plan, job } }),
    ({ status }) => status !== 'queued' && status !== 'running',
  );
const isUnderWay = (plan: number, job: string) =>
  patiently(
    () => server.call(api.readJob, { params: { plan, job } }),
    ({ status, done }) => status === 'running' && done > 0,
  );

describe('the database is away for a moment', () => {
  test('a change after it came back is told to a window once, however often it was away', async () => {
    const plan = await planOf(server);
    const stop = new AbortController();
    const stream = await fetch(`${server.url}/api/plans/${plan}/events`, { signal: stop.signal });
    const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader();
    let told = '';
    const reading = (async () => {
      for (;;) {
        const { value, done } = await reader.read();
        if (done) return;
        told += value;
      }
    })().catch(() => {});
    const name = new URL(server.databaseUrl).pathname.slice(1);
    for (let times = 0; times < 2; times++) {
      // Away for longer than it takes to try again.
      await asAdmin(`alter database ${name} with allow_connections false`);
      await cutAll();
      await new Promise((done) => setTimeout(done, 1_500));
      await asAdmin(`alter database ${name} with allow_connections true`);
      const opened = told.split('"type":"opened"').length;
      await patiently(async () => told.split('"type":"opened"').length > opened, Boolean);
    }
    const rename = (before: string, after: string) =>
      patiently(() =>
        server.call(api.editBrief, { params: { plan }, body: { edits: [{ at: 'name', before, after }] } }),
      );
    const { revision } = await rename('Kayaks', 'Boats');
    const line = `{"type":"revision","plan":${plan},"revision":${revision}}`;
    await patiently(async () => told.includes(line), Boolean);
    await new Promise((done) => setTimeout(done, 300));
    stop.abort();
    await reading;
    expect(told.split(line)).toHaveLength(2);
  });

  test('in the middle of an import: it ends by itself, and is in once', async () => {
    const plan = await shippable();
    const list = Array.from({ length: 15_000 }, (_, at) => `tea ${at} of ${at * 7}`).join('\n');
    const body = {
      upload: await upload(server, plan, list),
      kind: 'file' as const,
      name: 'Teas',
      options: {},
    };
    const { job } = await server.call(api.startImport, { params: { plan }, body });
    await isUnderWay(plan, job);
    await cutAll();
    expect(await ended(plan, job)).toMatchObject({ status: 'done', result: { added: 15_000 } });
    const { sources } = await patiently(() => server.call(api.listSources, { params: { plan } }));
    expect(sources.filter(({ name }) => name === 'Teas')).toHaveLength(1);
    // Again, in the middle of the rebuild behind it.
    await cutAll();
    const state = await patiently(() => built(server, plan));
    expect(state.counts.keywords).toBe(15_004);
    const open = await select<{ kind: string; status: string }>(
      server.database,
      `select kind, status from jobs where plan_id = $1 and status not in ('done', 'stopped')`,
      [plan],
    );
    expect(open).toEqual([]);
  });

  test('in the middle of a shipment: one receipt', async () => {
    const plan = await shippable(Array.from({ length: 3_000 }, (_, at) => `teapot ${at}\t${at}`).join('\n'));
    await check(plan);
    const { job } = await server.call(api.startShip, {
      params: { plan },
      body: { outlet: 'plain', format: 'csv', what: 'all', sheets: ['keywords', 'ads'] },
    });
    await patiently(
      () => server.call(api.readJob, { params: { plan, job } }),
      ({ status }) => status !== 'queued',
    );
    await cutAll();
    expect((await ended(plan, job)).status).toBe('done');
    expect(await patiently(() => receiptsOf(plan))).toHaveLength(1);
  });

  test('jobs that take longer than a look for dead runners go on after the connection was lost', async () => {
    const plan = await shippable();
    await cutAll();
    const list = Array.from({ length: 120_000 }, (_, at) => `cup ${at} of ${at * 3}`).join('\n');
    const given = await patiently(() => upload(server, plan, list));
    const { job } = await patiently(() =>
      server.call(api.startImport, {
        params: { plan },
        body: { upload: given, kind: 'file', name: 'Cups', options: {} },
      }),
    );
    expect(await ended(plan, job)).toMatchObject({ status: 'done', result: { added: 120_000 } });
    const [row] = await select<{ runs: number }>(server.database, 'select runs from jobs where id = $1', [
      job,
    ]);
    expect(row?.runs).toBe(1);
    // What is behind it is of no interest here, and takes its time.
    await server.call(api.stopJob, { params: { plan, job: await rebuildOf(plan) } });
  });
});
