import { editBrief, listPlans } from '@sprig/contracts';
import { afterAll, afterEach, beforeAll, describe, expect, test, vi } from 'vitest';
import { connectForRequests, select } from '../db/connect.ts';
import { asFailure } from '../platform/failure.ts';
import { log } from '../platform/log.ts';
import {
  planOf,
  type Refused,
  startTestServer,
  type TestServer,
  takeIn,
} from '../testing/start-test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());
afterEach(() => {
  vi.restoreAllMocks();
});

const get = async (path: string, at = server) => {
  const answer = await fetch(`${at.url}${path}`);
  return { status: answer.status, body: await answer.text() };
};

describe('health', () => {
  test('in short: whether the database answers', async () => {
    expect(await get('/api/health')).toEqual({ status: 200, body: '{"status":"ok","database":"up"}' });
  });

  test('in full: what works beside it', async () => {
    const plan = await planOf(server);
    await takeIn(server, plan, 'kayak');
    const stop = new AbortController();
    await fetch(`${server.url}/api/plans/${plan}/events`, { signal: stop.signal });
    const { body } = await get('/api/health?full');
    stop.abort();
    expect(JSON.parse(body)).toMatchObject({
      status: 'ok',
      database: 'up',
      runners: 1,
      listener: 'up',
      windows: 1,
      jobs: { running: expect.any(Number), waiting: expect.any(Number) },
    });
  });

  test('without a runner, with jobs that wait, it is degraded and says which', async () => {
    const idle = await startTestServer({ runner: false });
    await planOf(idle);
    await idle.database.query(`update jobs set created_at = now() - interval '10 minutes'`);
    const { status, body } = await get('/api/health?full', idle);
    await idle.stop();
    expect(status).toBe(200);
    expect(JSON.parse(body)).toMatchObject({ status: 'degraded', runners: 0, jobs: { waiting: 1 } });
    expect(JSON.parse(body).jobs.oldestWaitsSeconds).toBeGreaterThanOrEqual(600);
  });
});

test('metrics tell of requests by route, of jobs, of the queue, of connections and of memory', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'canoe');
  await get(`/api/plans/${plan}/sources`);
  await get(`/api/plans/${plan}/nothing`);
  const { body } = await get('/metrics');
  expect(body).toMatch(
    /sprig_request_seconds_count\{method="GET",route="\/api\/plans\/:plan\/sources",status="200"\} 1\n/,
  );
  expect(body).toMatch(/sprig_request_seconds_count\{[^}]*route="none",status="404"\} 1\n/);
  expect(body).toMatch(/sprig_job_seconds_count\{kind="import",how="done"\} \d/);
  expect(body).toMatch(/sprig_queue_oldest_seconds \d/);
  expect(body).toMatch(/sprig_pool_connections_used \d/);
  expect(body).toMatch(/sprig_windows_open \d/);
  expect(body).toMatch(/process_resident_memory_bytes \d/);
  expect(body).not.toContain(`/${plan}/`);
});

test('metrics are for programs on this machine: through a proxy they are not there', async () => {
  const far = await fetch(`${server.url}/metrics`, { headers: { 'x-forwarded-for': '203.0.113.7' } });
  expect([far.status, await far.text()]).toEqual([404, expect.not.stringContaining('sprig_')]);
});

test('what nobody expected has a number that stands in the log beside its cause', async () => {
  const plan = await planOf(server);
  const told = vi.spyOn(log, 'error').mockImplementation(() => {});
  await server.database.query(`create function no_brief() returns trigger language plpgsql as $$ begin
      raise exception 'the moon is full'; end $$;
    create trigger no_brief before update on briefs for each row execute function no_brief()`);
  const edit = { at: 'name', before: 'Kayaks', after: 'Boats' };
  const refused = (await server
    .call(editBrief, { params: { plan }, body: { edits: [edit] } })
    .catch((error: unknown) => error)) as Refused;
  await server.database.query('drop function no_brief cascade');
  const { number } = refused.failure;
  expect(refused.status).toBe(500);
  expect(number).toMatch(/^[A-Z0-9]{7}$/);
  expect(refused.failure.message).toContain(`error ${number}`);
  expect(refused.failure.message).not.toContain('moon');
  expect(told).toHaveBeenCalledWith(
    expect.objectContaining({ number, error: expect.objectContaining({ message: 'the moon is full' }) }),
    'a request failed',
  );
});

describe('limits', () => {
  test('who asks too much is put off, and told when to come again', async () => {
    const small = await startTestServer({ runner: false, requestsPerMinute: 20 });
    const answers = await Promise.all(Array.from({ length: 25 }, () => fetch(`${small.url}/api/plans`)));
    const refused = answers.filter(({ status }) => status === 429);
    expect(refused).toHaveLength(5);
    expect(Number(refused[0]?.headers.get('retry-after'))).toBeGreaterThan(0);
    expect(await refused[0]?.json()).toMatchObject({ code: 'too-many' });
    expect((await get('/api/health', small)).status).toBe(200);
    await small.stop();
  });

  test('one user has a hundred windows open, and no more; a window that goes makes room', async () => {
    const plan = await planOf(server);
    const stops = Array.from({ length: 100 }, () => new AbortController());
    const open = (signal: AbortSignal) => fetch(`${server.url}/api/plans/${plan}/events`, { signal });
    const opened = await Promise.all(stops.map(({ signal }) => open(signal)));
    expect(opened.every(({ status }) => status === 200)).toBe(true);
    const last = new AbortController();
    expect((await open(last.signal)).status).toBe(429);
    stops[0]?.abort();
    await vi.waitFor(async () => expect((await open(last.signal)).status).toBe(200), 5_000);
    for (const stop of [...stops, last]) stop.abort();
    await vi.waitFor(
      async () => expect((await get('/metrics')).body).toContain('sprig_windows_open 0'),
      5_000,
    );
  });

  test('a statement of a request ends after a minute, and says so', async () => {
    const asked = connectForRequests(server.databaseUrl);
    const [row] = await select<{ most: string }>(
      asked,
      `select current_setting('statement_timeout') as most`,
    );
    expect(row?.most).toBe('1min');
    const slow = asked.transaction(async (transaction) => {
      await asked.query('set local statement_timeout = 50', { transaction });
      await asked.query('select pg_sleep(5)', { transaction });
    });
    expect(asFailure(await slow.catch((error: unknown) => error)).toAnswer()).toMatchObject({
      code: 'unavailable',
      message: expect.stringContaining('took too long'),
    });
    await asked.close();
    expect((await server.call(listPlans)).plans.length).toBeGreaterThan(0);
  });
});
