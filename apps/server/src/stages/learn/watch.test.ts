import * as api from '@sprig/contracts';
import { resultFigures } from '@sprig/core/learn';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { bringReports } from '../../testing/reports.ts';
import { built, planOf, startTestServer, type TestServer, takeIn } from '../../testing/start-test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const DAY_MS = 86_400_000;
const LAST = Date.parse('2026-11-29');
const iso = (before: number) => new Date(LAST - before * DAY_MS).toISOString().slice(0, 10);

/** A software maker’s two campaigns over 84 days, weekends weaker; the second is but three weeks old. */
async function tools() {
  const plan = await planOf(server, 'Tools');
  const lines = ['Day,Campaign,Impressions,Clicks,Cost,Conversions'];
  for (let before = 83; before >= 0; before--) {
    const weekend = [0, 6].includes(new Date(LAST - before * DAY_MS).getUTCDay());
    const usual = (weekend ? 40 : 90) + ((before * 7) % 11);
    const clicks = before === 10 ? 12 : before === 3 ? 260 : usual;
    lines.push(`${iso(before)},Invoices,${usual * 20},${clicks},${clicks}.00,${before === 2 ? 0 : 4}`);
    if (before < 21) lines.push(`${iso(before)},Payroll,200,${before === 5 ? 0 : 20},20.00,1`);
  }
  await bringReports(server, plan, { text: lines.join('\n') });
  return plan;
}

test('days that are unlike the same weekdays before are told, with what was to be expected', async () => {
  const plan = await tools();
  const found = await server.call(api.readUnlikeDays, { params: { plan }, body: {} });
  expect(found.range).toEqual({ from: iso(27), to: iso(0) });
  const own = found.days.filter(({ campaign, figure }) => campaign === 'Invoices' && figure === 'clicks');
  expect(own.map(({ day, seen }) => [day, seen])).toEqual([
    [iso(3), 260],
    [iso(10), 12],
  ]);
  for (const { expected, low, high } of own) {
    expect(expected).toBeGreaterThan(35);
    expect(low).toBeLessThan(expected);
    expect(high).toBeGreaterThan(expected);
  }
  // All together stand out with it; what has too short a past says nothing, and neither do late conversions.
  expect(found.days.some(({ campaign, day }) => campaign === null && day === iso(3))).toBe(true);
  expect(found.days.some(({ campaign }) => campaign === 'Payroll')).toBe(false);
  expect(found.silent).toBe(1);
  expect(found.days.some(({ figure }) => figure === 'conversions')).toBe(false);
});

test('where no campaigns are told by day that is said', async () => {
  const plan = await planOf(server, 'Bare');
  expect((await server.call(api.readUnlikeDays, { params: { plan }, body: {} })).why).toEqual({
    none: 'reports',
  });
  await bringReports(server, plan, {
    text: 'Campaign,Impressions,Clicks\nInvoices,100,5',
    choices: { range: { from: iso(27), to: iso(0) } },
  });
  expect((await server.call(api.readUnlikeDays, { params: { plan }, body: {} })).why).not.toBeNull();
});

test('match types that sell are told apart from those that do not, by more than chance', async () => {
  const plan = await planOf(server, 'Sellers');
  const lines = ['Day,Campaign,Ad group,Keyword,Match type,Impressions,Clicks,Cost,Conversions,Value'];
  for (let before = 27; before >= 0; before--)
    lines.push(
      `${iso(before)},Invoices,Bills,send bills,Exact,200,40,40.00,4,200`,
      `${iso(before)},Invoices,Bills,bills,Broad,200,40,40.00,1,50`,
      `${iso(before)},Invoices,Bills,send a bill,Phrase,20,1,1.00,0,0`,
    );
  await bringReports(server, plan, { text: lines.join('\n') });
  const { rows, settledTo } = await server.call(api.readSellers, { params: { plan }, body: { by: 'match' } });
  expect(settledTo).toBe(iso(7));
  expect(rows.map(({ name, clicks, conversions, than }) => [name, clicks, conversions, than])).toEqual([
    ['exact', 840, 84, 'better'],
    ['broad', 840, 21, 'worse'],
    ['phrase', 21, 0, null],
  ]);
});

test('what was forecast stands against what came; what was measured takes the place of what is assumed', async () => {
  const plan = await planOf(server, 'Measured');
  const words = ['send bills', 'bill maker', 'bill app', 'paid on time'];
  await takeIn(server, plan, words.map((word) => `${word}\t3000\t1.00`).join('\n'));
  await built(server, plan);
  const heads = await server.call(api.readHeads, { params: { plan } });
  const groupOf = new Map(heads.keywords.map((keyword, at) => [keyword, heads.names[at] ?? '']));
  const campaign = heads.campaignNames[heads.campaigns[0] ?? 0] ?? '';
  const lines = ['Day,Campaign,Ad group,Keyword,Match type,Impressions,Clicks,Cost,Position'];
  for (let before = 27; before >= 0; before--)
    for (const [at, word] of words.entries()) {
      const clicks = [24, 18, 12, 9][at] ?? 0;
      const cost = clicks * ([1.5, 1.2, 1, 0.8][at] ?? 0);
      lines.push(
        `${iso(before)},${campaign},${groupOf.get(word)},${word},Exact,100,${clicks},${cost.toFixed(2)},${at + 1}.0`,
      );
    }
  await bringReports(server, plan, { text: lines.join('\n') });
  const { layout } = await server.call(api.readLayout, { params: { plan } });
  const budget = (before: number, after: number) =>
    server.call(api.editLayout, {
      params: { plan },
      body: { edits: [{ at: 'dailyBudget', before, after }] },
    });
  await budget(layout.dailyBudget, 5_000_000);
  await built(server, plan);
  const held = await server.call(api.readForecastAgainst, { params: { plan }, body: {} });
  expect(held.rows[0]?.forecast.cost).toBe(5_000_000);
  await budget(5_000_000, 900_000_000);
  await built(server, plan);
  const found = await server.call(api.readForecastAgainst, { params: { plan }, body: {} });
  expect(found.rows).toHaveLength(1);
  expect(found.rows[0]?.came.clicks).toBeCloseTo(63, 6);
  expect(found.rows[0]?.came.cost).toBeCloseTo((36 + 21.6 + 12 + 7.2) * 1e6, -2);
  expect(found.rows[0]?.forecast.clicks).toBeGreaterThan(0);
  const { measured, assumed } = found;
  expect(measured?.ctr?.[0]).toBeCloseTo(0.24, 1);
  expect(measured?.price?.[0]).toBeCloseTo(1.5, 1);
  expect(assumed.ctr[0]).toBeCloseTo(0.08, 6);
  expect(assumed.price[1]).toBeCloseTo(1, 6);
  await server.call(api.editFacts, {
    params: { plan },
    body: { edits: [{ at: 'assumptions.measured', before: null, after: measured }] },
  });
  const after = await server.call(api.readForecastAgainst, { params: { plan }, body: {} });
  // Three times as many are clicked as was assumed.
  expect((after.rows[0]?.forecast.clicks ?? 0) / (found.rows[0]?.forecast.clicks ?? 1)).toBeGreaterThan(2);
  expect(after.assumed).toEqual(assumed);
});

test('a device that sells worse is told, with the bid adjustment that this comes to', async () => {
  const plan = await planOf(server, 'Devices');
  const lines = ['Day,Campaign,Device,Impressions,Clicks,Cost,Conversions'];
  for (let before = 27; before >= 0; before--)
    lines.push(
      `${iso(before)},Invoices,Computers,400,40,40.00,4`,
      `${iso(before)},Invoices,Mobile phones,400,40,40.00,2`,
      `${iso(before)},Invoices,Television screens,40,4,4.00,3`,
    );
  await bringReports(server, plan, { text: lines.join('\n') });
  const { rows } = await server.call(api.readSellers, { params: { plan }, body: { by: 'device' } });
  const of = (name: string) => rows.find((row) => row.name === name);
  // 5% against 10.7% of all: by at most 30% at a time.
  expect(of('Mobile phones')).toMatchObject({
    than: 'worse',
    adjust: { device: 'phone', now: 0, after: -3_000 },
  });
  expect(of('Television screens')).toMatchObject({ than: 'better', adjust: null });
  await server.call(api.editFacts, {
    params: { plan },
    body: { edits: [{ at: 'devices.phone', before: 0, after: -3_000 }] },
  });
  const { rows: again } = await server.call(api.readSellers, { params: { plan }, body: { by: 'device' } });
  expect(again.find(({ name }) => name === 'Mobile phones')?.adjust).toEqual({
    device: 'phone',
    now: -3_000,
    after: -5_100,
  });
});

test('accounts stand side by side; those of one currency are added, others are not', async () => {
  const plan = await planOf(server, 'Accounts');
  const bring = async (name: string, currency: string, clicks: number) => {
    const lines = ['Day,Campaign,Impressions,Clicks,Cost'];
    for (let before = 27; before >= 0; before--)
      lines.push(`${iso(before)},Invoices,1000,${clicks},${clicks}.00`);
    const account = { outlet: null, name, currency, timeZone: 'UTC' };
    await bringReports(server, plan, { text: lines.join('\n'), account });
  };
  await bring('Spring', 'GBP', 10);
  await bring('Autumn', 'GBP', 30);
  await bring('Winter', 'EUR', 90);
  const { rows, together, range } = await server.call(api.readAccounts, { params: { plan }, body: {} });
  expect(range).toEqual({ from: iso(27), to: iso(0) });
  const at = (name: (typeof resultFigures)[number]) => resultFigures.indexOf(name);
  expect(rows.map(({ account, figures }) => [account.name, figures?.[at('clicks')]])).toEqual([
    ['Spring', 280],
    ['Autumn', 840],
    ['Winter', 2_520],
  ]);
  expect(together.map(({ currency, accounts }) => [currency, accounts])).toEqual([['GBP', 2]]);
  const [both] = together;
  expect(both?.figures[at('clicks')]).toBe(1_120);
  expect(both?.figures[at('ctr')]).toBeCloseTo(0.02, 9);
  expect(both?.figures[at('position')]).toBeNull();
  expect(both?.figures[at('conversions')]).toBeNull();
  expect([rows[0]?.before, rows[0]?.daysBefore]).toEqual([null, null]);

  const asked = { range: { from: iso(6), to: iso(0) }, against: { from: iso(13), to: iso(11) } };
  const week = await server.call(api.readAccounts, { params: { plan }, body: asked });
  expect(week).toMatchObject({ ...asked, told: { from: iso(27), to: iso(0) } });
  const clicks = week.rows.map((row) => [row.figures?.[at('clicks')], row.before?.[at('clicks')]]);
  expect(clicks).toEqual([
    [70, 30],
    [210, 90],
    [630, 270],
  ]);
  const alone = await server.call(api.readAccounts, { params: { plan }, body: { against: 'none' } });
  expect([alone.against, alone.rows[0]?.before]).toEqual([null, null]);
});
