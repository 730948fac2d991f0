import { editBrief, listPlans, openPlan } from '@sprig/contracts';
import pg from 'pg';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { planOf, type Refused, startTestServer, type TestServer } from '../../testing/start-test-server.ts';
import { inPreparedChange } from './index.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer({ runner: false });
});
afterAll(() => server.stop());

const rename = (plan: number, before: string, after: string) =>
  server.call(editBrief, { params: { plan }, body: { edits: [{ at: 'name', before, after }] } });

/** Holds a plan as a long job does that writes to it. */
async function hold(plan: number): Promise<() => Promise<void>> {
  const client = new pg.Client({ connectionString: server.databaseUrl });
  await client.connect();
  await client.query('begin');
  await client.query('select 1 from plans where id = $1 for no key update', [plan]);
  return async () => {
    await client.query('commit');
    await client.end();
  };
}

test('edits that wait for a job keep nobody else from the database, and are told to come again', async () => {
  const held = await planOf(server, 'Held');
  const free = await planOf(server, 'Free');
  const letGo = await hold(held);
  const waiting = Promise.allSettled(
    Array.from({ length: 30 }, (_, at) => rename(held, 'Held', `Held ${at}`)),
  );
  let haveEnded = false;
  void waiting.then(() => {
    haveEnded = true;
  });
  await new Promise((go) => setTimeout(go, 200));
  // Whoever had to wait for them would be answered after they have ended, and not even once before.
  let answered = 0;
  for (let at = 0; at < 5; at++) {
    await server.call(listPlans);
    await server.call(openPlan, { params: { plan: held } });
    await rename(free, at === 0 ? 'Free' : `Free ${at - 1}`, `Free ${at}`);
    if (!haveEnded) answered++;
  }
  expect((await fetch(`${server.url}/api/health`)).status).toBe(200);
  expect(answered).toBeGreaterThan(0);
  for (const edit of await waiting) {
    expect(edit.status).toBe('rejected');
    expect((edit as PromiseRejectedResult & { reason: Refused }).reason.failure.code).toBe('busy');
  }
  await letGo();
  await rename(held, 'Held', 'Let go');
});

test('an edit that waits is done as soon as the plan is let go, in the order in which it came', async () => {
  const plan = await planOf(server, 'a');
  const letGo = await hold(plan);
  const edits: ReturnType<typeof rename>[] = [];
  for (const [before, after] of ['ab', 'bc', 'cd'] as const) {
    edits.push(rename(plan, before as string, after as string));
    // It has come before the next is sent.
    await new Promise((go) => setTimeout(go, 100));
  }
  await letGo();
  const revisions = (await Promise.all(edits)).map(({ revision }) => revision);
  expect(revisions).toEqual([...revisions].sort((a, b) => a - b));
  expect((await server.call(openPlan, { params: { plan } })).brief.name).toBe('d');
});

test('what is read before a change keeps nobody from the plan', async () => {
  const plan = await planOf(server, 'a');
  let go = (_: string) => {};
  const reading = new Promise<string>((done) => {
    go = done;
  });
  const job = inPreparedChange(
    { ...server.caller, plan, isJob: true },
    () => reading,
    'Read',
    async (change, read) => {
      await change.derive('update plans set changed_at = now() where id = $1');
      return [read, change.revision];
    },
    { always: true },
  );
  const { revision } = await rename(plan, 'a', 'b');
  go('read');
  expect((await job).result).toEqual(['read', revision + 1]);
});

test('one that gives up waiting does not let those behind it pass before their turn', async () => {
  const plan = await planOf(server, 'a');
  const letGo = await hold(plan);
  const early = rename(plan, 'a', 'b').catch((error: Refused) => error.failure.code);
  await new Promise((done) => setTimeout(done, 1_200));
  const late = rename(plan, 'a', 'c');
  expect(await early).toBe('busy');
  await letGo();
  await late;
  expect((await server.call(openPlan, { params: { plan } })).brief.name).toBe('c');
});
