import * as api from '@sprig/contracts';
import { resultFigures } from '@sprig/core/learn';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { shipping } from '../../testing/shipping.ts';
import { startTestServer, succeeded, type TestServer } from '../../testing/start-test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());
const { shippable, choose, check, ship } = shipping(() => server);

/** A plan at an outlet whose simulated engine has its sheets. */
async function handedIn(outlet: string): Promise<number> {
  const plan = await shippable('sea kayak\t90000\t0.60\nkayak hire\t40000\t0.50\ncanoe\t30000\t0.40\n');
  await choose(plan, outlet, true, ['consent', 'phone', 'funding']);
  const view = await check(plan);
  const blockers = view.findings.filter(({ severity }) => severity === 'blocker');
  expect(blockers).toEqual([]);
  const { sheetSet: set } = await ship(plan, outlet);
  const { job } = await server.call(api.handIn, { params: { plan, set } });
  await succeeded(server, plan, job);
  return plan;
}

async function run(plan: number, outlet: string, days: number, read: api.AccountReport[] = []) {
  const { job } = await server.call(api.runAccount, { params: { plan, outlet }, body: { days, read } });
  const result = api.accountRan.parse((await succeeded(server, plan, job)).result);
  if (result.reading) await succeeded(server, plan, result.reading);
  return result;
}
const clicksOf = (figures: readonly (number | null)[]) => figures[resultFigures.indexOf('clicks')] ?? null;
const look = (plan: number, by: api.Look['by']) =>
  server.call(api.readLook, { params: { plan }, body: { ...api.usualLook(), by, against: 'none' } });

test.each(['fennelwick', 'harrowlight', 'quillmere'])(
  'the account at %s runs, and its reports are met in the plan and tell the same clicks',
  async (outlet) => {
    const plan = await handedIn(outlet);
    const first = await run(plan, outlet, 10);
    const second = await run(plan, outlet, 4, ['campaigns', 'keywords', 'terms', 'ads']);
    expect(second.from).toBe(first.from);
    const { ran } = await server.call(api.viewAccount, { params: { plan, outlet } });
    expect(ran).toEqual({ from: first.from, to: second.to, days: 14 });
    const { readings } = await server.call(api.listReports, { params: { plan } });
    expect(readings).toHaveLength(4);
    for (const reading of readings) {
      expect([reading.name, reading.layout.open, reading.problems.count]).toEqual([reading.name, [], 0]);
      expect([reading.name, reading.account.outlet]).toEqual([reading.name, outlet]);
      // Where the campaign decides how keywords match, each stands there once: which of its rows it is can't be told.
      const unmet = reading.notMet.filter(({ why }) => outlet !== 'quillmere' || why !== 'match-type');
      expect([reading.name, unmet]).toEqual([reading.name, []]);
      expect([reading.name, reading.otherwise.count]).toEqual([reading.name, 0]);
    }
    const body = { readings: readings.map(({ id }) => id) };
    await server.call(api.takeReports, { params: { plan }, body });
    const clicks = first.clicks + second.clicks;
    const campaigns = await look(plan, 'campaign');
    expect(campaigns).toMatchObject({ why: null, days: { of: 14 } });
    expect(clicksOf(campaigns.totals)).toBe(clicks);
    expect(clicks).toBeGreaterThan(50);
    const keywords = await look(plan, 'keyword');
    expect(clicksOf(keywords.totals)).toBe(clicks);
    const terms = await look(plan, 'term');
    expect((clicksOf(terms.totals) ?? 0) + (terms.notBrokenDown?.[1] ?? 0)).toBe(clicks);
    // Exact keywords alone answer no other searches.
    if (outlet !== 'quillmere') expect(terms.all).toBeGreaterThan(keywords.all);
    const networks = await look(plan, 'network');
    expect(networks.why === null).toBe(outlet === 'quillmere');
  },
);

test('an account that has nothing, or has not run, says so', async () => {
  const plan = await shippable();
  const params = { plan, outlet: 'fennelwick' };
  const { job } = await server.call(api.runAccount, { params, body: { days: 3 } });
  await expect(succeeded(server, plan, job)).rejects.toThrow(/Nothing was taken at Fennelwick yet/);
  const answer = await fetch(`${server.url}/api/plans/${plan}/outlets/fennelwick/account/reports/terms`);
  expect(answer.status).toBe(404);
});

test('what it reports can be downloaded in its own encoding', async () => {
  const plan = await handedIn('quillmere');
  await run(plan, 'quillmere', 2);
  const answer = await fetch(`${server.url}/api/plans/${plan}/outlets/quillmere/account/reports/campaigns`);
  expect(answer.headers.get('content-disposition')).toContain('quillmere-campaigns.tsv');
  const bytes = new Uint8Array(await answer.arrayBuffer());
  expect([...bytes.slice(0, 2)]).toEqual([0xff, 0xfe]);
  expect(new TextDecoder('utf-16le').decode(bytes).split('\n')[0]).toContain('Where shown');
});
