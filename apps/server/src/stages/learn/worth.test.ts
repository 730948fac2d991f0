import * as api from '@sprig/contracts';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { bringReports } from '../../testing/reports.ts';
import { built, planOf, startTestServer, type TestServer, takeIn } from '../../testing/start-test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

/** A dentist’s plan; what was searched for and what keywords had over 28 days. */
async function teeth() {
  const plan = await planOf(server, 'Teeth');
  await takeIn(server, plan, 'tooth implant\ntooth crown');
  await built(server, plan);
  const heads = await server.call(api.readHeads, { params: { plan } });
  const campaign = heads.campaignNames[heads.campaigns[0] ?? 0] ?? '';
  const groupOf = new Map(heads.keywords.map((keyword, at) => [keyword, heads.names[at] ?? '']));
  const rows = ['Day,Campaign,Ad group,Keyword,Match type,Impressions,Clicks,Cost,Conversions'];
  const terms = ['Day,Campaign,Ad group,Search term,Impressions,Clicks,Cost,Conversions'];
  for (let day = 1; day <= 28; day++) {
    const date = `2026-11-${String(day).padStart(2, '0')}`;
    const of = (word: string) => `${date},${campaign},${groupOf.get(word)}`;
    rows.push(`${of('tooth implant')},tooth implant,Exact,200,20,40.00,2`);
    rows.push(`${of('tooth crown')},tooth crown,Exact,200,20,40.00,0`);
    terms.push(`${of('tooth implant')},tooth implant free,20,2,4.00,0`);
  }
  await bringReports(server, plan, { text: rows.join('\n') }, { text: terms.join('\n'), name: 'terms.csv' });
  await built(server, plan);
  return plan;
}
const worth = (plan: number) => server.call(api.readWorth, { params: { plan } });
const openOf = async (plan: number) => new Map((await worth(plan)).open.map((one) => [one.code, one]));
const edit = async (plan: number, at: string, before: unknown, after: unknown) => {
  await server.call(api.editFacts, { params: { plan }, body: { edits: [{ at, before, after }] } });
  await built(server, plan);
};
const mark = (
  plan: number,
  code: api.WorthItem['code'],
  account: string,
  said: { until: string | null; count: number } | null,
) => server.call(api.markWorth, { params: { plan }, body: { code, account, mark: said } });

test('what is worth doing hangs on results and on the plan, by the money at stake', async () => {
  const plan = await teeth();
  const before = await openOf(plan);
  expect(before.get('terms')).toMatchObject({ count: 1, stake: 28 * 4_000_000, currency: 'GBP' });
  expect(before.get('never-pays')).toBeUndefined();
  expect(before.get('misfits')?.account).toBe('');
  await edit(plan, 'targetCost', null, 20_000_000);
  const { open } = await worth(plan);
  const after = new Map(open.map((one) => [one.code, one]));
  // Twenty-one days’ cost of what has sold nothing.
  expect(after.get('never-pays')).toMatchObject({ count: 1, stake: 21 * 40_000_000 });
  expect(after.get('bids-to-aim')?.count).toBe(2);
  const codes = open.map(({ code }) => code);
  expect(codes.indexOf('misfits')).toBeLessThan(codes.indexOf('never-pays'));
  expect(codes.indexOf('never-pays')).toBeLessThan(codes.indexOf('terms'));
  expect(codes.indexOf('terms')).toBeLessThan(codes.indexOf('bids-to-aim'));
});

test('it is put off, done, taken back and undone; a term that is judged is gone', async () => {
  const plan = await teeth();
  const { account = '' } = (await openOf(plan)).get('terms') ?? {};
  await mark(plan, 'terms', account, { until: '2099-01-01', count: 1 });
  const off = await worth(plan);
  expect(off.open.map(({ code }) => code)).not.toContain('terms');
  expect(off.away).toEqual([
    expect.objectContaining({ mark: { code: 'terms', account, until: '2099-01-01', count: 1 } }),
  ]);
  await server.call(api.undoChange, { params: { plan } });
  expect((await openOf(plan)).has('terms')).toBe(true);
  await mark(plan, 'terms', account, { until: '2020-01-01', count: 1 });
  expect((await openOf(plan)).has('terms')).toBe(true);
  await mark(plan, 'terms', account, { until: null, count: 1 });
  expect((await openOf(plan)).has('terms')).toBe(false);
  await mark(plan, 'terms', account, null);
  expect((await openOf(plan)).has('terms')).toBe(true);
  await server.call(api.judgeTerms, {
    params: { plan },
    body: { terms: ['tooth implant free'], judgement: { kind: 'leave' } },
  });
  expect((await openOf(plan)).has('terms')).toBe(false);
});

test('over all plans it is what was seen last, and says where something has changed since', async () => {
  const plan = await teeth();
  const listed = async () => {
    const { plans } = await server.call(api.listWorth);
    return plans.find((one) => one.plan === plan);
  };
  expect(await listed()).toMatchObject({ name: 'Teeth', open: null, isOld: true });
  const { open } = await worth(plan);
  expect(await listed()).toEqual({ plan, name: 'Teeth', open, isOld: false });
  await edit(plan, 'targetCost', null, 20_000_000);
  expect(await listed()).toMatchObject({ open, isOld: true });
  await worth(plan);
  expect((await listed())?.open?.map(({ code }) => code)).toContain('never-pays');
  await server.call(api.editBrief, {
    params: { plan },
    body: { edits: [{ at: 'archived', before: false, after: true }] },
  });
  expect(await listed()).toBeUndefined();
});

test('negatives are missed where something is clicked, once reports tell of ad groups', async () => {
  const plan = await planOf(server, 'Three');
  await takeIn(server, plan, 'tooth implant\ntooth crown\ntooth bridge');
  await built(server, plan);
  const params = { plan };
  // One campaign and three ad groups.
  await server.call(api.startCheck, { params });
  await built(server, plan);
  const count = async () => (await openOf(plan)).get('few-negatives')?.count ?? 0;
  const heads = await server.call(api.readHeads, { params });
  const campaign = heads.campaignNames[0] ?? '';
  const row = (at: number, clicks: number) =>
    `2026-11-01,${campaign},${heads.names[at]},100,${clicks},${clicks}.00,0`;
  const head = 'Day,Campaign,Ad group,Impressions,Clicks,Cost,Conversions';
  await bringReports(server, plan, { text: [head, row(0, 9), row(1, 4), row(2, 0)].join('\n') });
  await built(server, plan);
  expect(await count()).toBe(2);
  await server.call(api.placeNegatives, {
    params,
    body: { places: [heads.keys[0] ?? ''], negatives: [{ text: 'free', type: 'broad' }] },
  });
  await built(server, plan);
  expect(await count()).toBe(1);
});
