import { once } from 'node:events';
import * as api from '@sprig/contracts';
import { manyKeywords } from '@sprig/market';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { execute, select } from '../../db/connect.ts';
import { handlers } from '../../stages/all.ts';
import { startRunnerProcess } from '../../testing/start-runner-process.ts';
import {
  addActor,
  finished,
  planOf,
  poolOf,
  startTestServer,
  type TestServer,
  upload,
} from '../../testing/start-test-server.ts';
import { inProcess } from './in-process.ts';
import { startRunner } from './runner.ts';

/** No runner in this process: the tests start runners of their own, to kill them. */
let server: TestServer;
beforeAll(async () => {
  server = await startTestServer({ runner: false });
});
afterAll(() => server.stop());

const start = async (plan: number, content: string) =>
  (
    await server.call(api.startImport, {
      params: { plan },
      body: { upload: await upload(server, plan, content), kind: 'file', name: 'List', options: {} },
    })
  ).job;

async function until<T>(ask: () => Promise<T | null | undefined | false>): Promise<T> {
  for (let times = 0; times < 2_000; times++) {
    const answer = await ask();
    if (answer) return answer;
    await new Promise((done) => setTimeout(done, 10));
  }
  throw new Error('it never came');
}

test('a process killed in the middle of an import: nothing is half in, and another does it once', async () => {
  const plan = await planOf(server);
  const list = manyKeywords(20_000).map(({ text }) => text);
  const first = await startRunnerProcess(server.databaseUrl);
  const job = await start(plan, list.join('\n'));
  await until(async () => (await server.call(api.readJob, { params: { plan, job } })).status === 'running');
  first.kill('SIGKILL');
  await once(first, 'exit');
  expect((await poolOf(server, plan)).norms).toEqual([]);
  const second = await startRunnerProcess(server.databaseUrl);
  const done = await finished(server, plan, job);
  expect(done).toMatchObject({ status: 'done', result: { added: 20_000 } });
  expect((await poolOf(server, plan)).ids.length).toBe(20_000);
  const [row] = await select<{ runs: number }>(server.database, 'select runs from jobs where id = $1', [job]);
  expect(row?.runs).toBe(2);
  second.kill('SIGTERM');
  await once(second, 'exit');
});

test('a job that was taken by a process which died before it began is taken by another', async () => {
  const plan = await planOf(server);
  const job = await start(plan, 'kayak\ncanoe\n');
  await execute(
    server.database,
    `update graphile_worker._private_job_queues set locked_by = 'gone', locked_at = now() - interval '1 minute' where queue_name = $1`,
    [`plan-${plan}`],
  );
  await execute(
    server.database,
    `update graphile_worker._private_jobs set locked_by = 'gone', locked_at = now() - interval '1 minute', attempts = 1
     where job_queue_id = (select id from graphile_worker._private_job_queues where queue_name = $1)`,
    [`plan-${plan}`],
  );
  const stop = await startRunner(server.databaseUrl, inProcess(server.databaseUrl, handlers));
  await until(async () => (await server.call(api.readJob, { params: { plan, job } })).status === 'done');
  expect((await server.call(api.openPlan, { params: { plan } })).counts.keywords).toBe(2);
  await stop();
});

test('a job that could not say how it ended is done again, and what it did is not', async () => {
  const plan = await planOf(server);
  const { database } = server;
  await database.query(`create table away (since timestamptz);
    insert into away values (now());
    create function refuse_while_away() returns trigger language plpgsql as $$ begin
      if exists (select from away) then raise exception 'the database is away'; end if;
      return new;
    end $$;
    create trigger refuse_while_away before update on jobs for each row
      when (new.status in ('done', 'failed')) execute function refuse_while_away()`);
  const stop = await startRunner(server.databaseUrl, inProcess(server.databaseUrl, handlers));
  try {
    const job = await start(plan, 'kayak\ncanoe\n');
    await until(async () => {
      const tried = await select(
        database,
        `select 1 from graphile_worker._private_jobs where payload->>'job' = $1 and last_error is not null`,
        [job],
      );
      return tried.length > 0;
    });
    expect((await server.call(api.readJob, { params: { plan, job } })).status).toBe('running');
    await database.query('delete from away');
    expect(await finished(server, plan, job)).toMatchObject({ status: 'done', result: { added: 2 } });
    expect((await poolOf(server, plan)).norms).toEqual(['kayak', 'canoe']);
  } finally {
    await database.query('drop table away; drop function refuse_while_away cascade');
    await stop();
  }
});

test('a job that is stopped before its turn never runs', async () => {
  const plan = await planOf(server);
  const job = await start(plan, 'kayak\n');
  expect((await server.call(api.stopJob, { params: { plan, job } })).status).toBe('stopped');
  const stop = await startRunner(server.databaseUrl, inProcess(server.databaseUrl, handlers));
  const after = await start(plan, 'canoe\n');
  await finished(server, plan, after);
  expect((await poolOf(server, plan)).norms).toEqual(['canoe']);
  await stop();
});

test('a job that comes while another of its plan runs begins when that ends, not at the next look into the queue', async () => {
  const plan = await planOf(server);
  // No look into the queue comes within this test: what runs, runs because it was told.
  const stop = await startRunner(server.databaseUrl, inProcess(server.databaseUrl, handlers), {
    pollMs: 3_600_000,
  });
  try {
    const jobs = [];
    for (const text of ['kayak', 'canoe', 'raft', 'dinghy']) jobs.push(await start(plan, `${text}\n`));
    for (const job of jobs) expect((await finished(server, plan, job)).status).toBe('done');
    expect((await poolOf(server, plan)).norms).toEqual(['kayak', 'canoe', 'raft', 'dinghy']);
  } finally {
    await stop();
  }
});

test('open windows are told of changes and of jobs', async () => {
  const plan = await planOf(server);
  const stop = new AbortController();
  const stream = await fetch(`${server.url}/api/plans/${plan}/events`, { signal: stop.signal });
  const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader();
  let text = '';
  const reading = until(async () => {
    text += (await reader.read()).value ?? '';
    // The word of the plan's making may still come first.
    return text.includes('"revision":2}') && text.includes('"type":"job"');
  });
  await server.call(api.editBrief, {
    params: { plan },
    body: { edits: [{ at: 'name', before: 'Kayaks', after: 'Boats' }] },
  });
  await start(plan, 'kayak\n');
  await reading;
  stop.abort();
  expect(text).toContain(`data: {"type":"revision","plan":${plan},"revision":2}`);
  // A window that opens later is told at once where the plan stands.
  const later = new AbortController();
  const opened = await fetch(`${server.url}/api/plans/${plan}/events`, { signal: later.signal });
  const lines = opened.body!.pipeThrough(new TextDecoderStream()).getReader();
  let first = '';
  while (!first.includes('"opened"')) first += (await lines.read()).value ?? '';
  later.abort();
  const state = await server.call(api.openPlan, { params: { plan } });
  expect(first).toContain(
    `data: {"type":"opened","plan":${plan},"revision":${state.revision},"builtRevision":${state.builtRevision}}`,
  );
});

test('where many edit a plan at once its rebuild rests a moment, and takes in what all of them changed', async () => {
  const plan = await planOf(server, 'Kayaks');
  const restsMs = async () => {
    const [job] = await select<{ rests: number }>(
      server.database,
      `select extract(epoch from q.run_at - j.created_at) * 1000 as rests
       from jobs j join graphile_worker._private_jobs q on q.payload->>'job' = j.id::text
       where j.plan_id = $1 and j.kind = 'rebuild' and j.status = 'queued'`,
      [plan],
    );
    return Number(job?.rests);
  };
  // As if it had been taken, so that the next change asks for another.
  const taken = () =>
    execute(server.database, `update jobs set status = 'done' where plan_id = $1 and status = 'queued'`, [
      plan,
    ]);
  const rename = async (before: string, after: string, actor: number) => {
    await taken();
    await server.as(actor)(api.editBrief, {
      params: { plan },
      body: { edits: [{ at: 'name', before, after }] },
    });
  };
  const people: number[] = [];
  for (const name of ['Ada', 'Bo', 'Cy']) people.push(await addActor(server, name));
  let called = 'Kayaks';
  for (const actor of people) {
    await rename(called, `Kayaks of ${actor}`, actor);
    called = `Kayaks of ${actor}`;
    if (actor !== people.at(-1)) expect(await restsMs()).toBeLessThan(100);
  }
  await rename(called, 'Kayaks of all', server.caller.actor);
  expect(await restsMs()).toBeGreaterThan(1_000);
  const waiting = await select(
    server.database,
    `select 1 from jobs where plan_id = $1 and status = 'queued'`,
    [plan],
  );
  await server.call(api.editBrief, {
    params: { plan },
    body: { edits: [{ at: 'name', before: 'Kayaks of all', after: 'Kayaks' }] },
  });
  expect(
    await select(server.database, `select 1 from jobs where plan_id = $1 and status = 'queued'`, [plan]),
  ).toEqual(waiting);
});
