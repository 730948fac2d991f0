import * as api from '@sprig/contracts';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { shipping } from '../../testing/shipping.ts';
import { built, planOf, startTestServer, type TestServer, takeIn } from '../../testing/start-test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());
const { shippable, choose, check, ship, handIn } = shipping(() => server);

const countsOf = async (plan: number) => (await server.call(api.openPlan, { params: { plan } })).counts;

test('what a new plan has, and what its brief says of those who are to see the ads', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'tea pot\t20\ntea cup\t10\n');
  await built(server, plan);
  expect(await countsOf(plan)).toMatchObject({
    ads: 2,
    misfits: 2,
    locations: 0,
    languages: 0,
    kept: 0,
    unbudgeted: 0,
  });
  await server.call(api.keepWords, { params: { plan }, body: { words: ['tea'], keep: true } });
  const { layout } = await server.call(api.readLayout, { params: { plan } });
  await server.call(api.editLayout, {
    params: { plan },
    body: { edits: [{ at: 'dailyBudget', before: layout.dailyBudget, after: 0 }] },
  });
  await built(server, plan);
  expect(await countsOf(plan)).toMatchObject({ kept: 1, unbudgeted: 1 });
});

test('which outlets have the plan as it is now, and which sets wait for an answer', async () => {
  const plan = await shippable();
  expect(await countsOf(plan)).toMatchObject({
    locations: 1,
    languages: 1,
    outlets: 0,
    shipped: 0,
    unanswered: 0,
  });
  await check(plan);
  await ship(plan, 'plain');
  expect(await countsOf(plan)).toMatchObject({ outlets: 0, shipped: 1, unanswered: 0 });
  // Another outlet is chosen instead: what plain sheets have counts no more.
  await choose(plan, 'harrowlight');
  await choose(plan, 'plain', false);
  expect(await countsOf(plan)).toMatchObject({ outlets: 1, shipped: 0 });
  await check(plan);
  const { sheetSet } = await ship(plan, 'harrowlight');
  expect(await countsOf(plan)).toMatchObject({ shipped: 1, unanswered: 1 });
  await handIn(plan, sheetSet);
  expect(await countsOf(plan)).toMatchObject({ shipped: 1, unanswered: 0 });
  // Any change makes them old.
  await takeIn(server, plan, 'raft\t50\n');
  await built(server, plan);
  expect(await countsOf(plan)).toMatchObject({ shipped: 0, unanswered: 0 });
});
