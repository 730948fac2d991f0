import * as api from '@sprig/contracts';
import { patternOf } from '@sprig/core/write';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { bringReports } from '../../testing/reports.ts';
import { built, planOf, startTestServer, type TestServer, takeIn } from '../../testing/start-test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const WORDS = ['bread knife', 'paring knife', 'steak knife'];

/** A cutler’s plan with two versions of an ad in each ad group, and what 30 days told of them. */
async function knives(clicksOf: { first: number; second: number }, { from = 1, to = 30 } = {}) {
  const plan = await planOf(server, 'Knives');
  await takeIn(server, plan, WORDS.join('\n'));
  const { patterns } = await server.call(api.readPatterns, { params: { plan } });
  const edit = (edits: api.FieldEdit[]) =>
    server.call(api.editPattern, { params: { plan, pattern: String(patterns[0]?.id) }, body: { edits } });
  const before = patterns[0]?.body;
  await edit([
    { at: 'fields.headline1.lines', before: before?.fields.headline1.lines, after: ['@keyword'] },
    { at: 'fields.headline2.lines', before: before?.fields.headline2.lines, after: ['Forged by hand'] },
    {
      at: 'split',
      before: before?.split,
      after: {
        ...patternOf({}).split,
        by: 'line',
        field: 'headline2',
        lines: ['Sharp for years'],
        labels: ['hand', 'years'],
      },
    },
  ]);
  await built(server, plan);
  const heads = await server.call(api.readHeads, { params: { plan } });
  const campaign = heads.campaignNames[heads.campaigns[0] ?? 0] ?? '';
  const groupOf = new Map(heads.keywords.map((keyword, at) => [keyword, heads.names[at] ?? '']));
  const lines = ['Day,Campaign,Ad group,Ad label,Impressions,Clicks,Cost,Conversions'];
  for (let day = from; day <= to; day++)
    for (const word of WORDS) {
      const date = `2026-11-${String(day).padStart(2, '0')}`;
      const start = `${date},${campaign},${groupOf.get(word)}`;
      lines.push(
        `${start},hand,1000,${clicksOf.first},9.00,1`,
        `${start},years,1000,${clicksOf.second},9.00,1`,
      );
    }
  await bringReports(server, plan, { text: lines.join('\n') });
  return plan;
}
const tests = (plan: number, by: api.AdsBy = 'version') =>
  server.call(api.readAdTests, { params: { plan }, body: { by } });
const keep = (
  plan: number,
  side: 'a' | 'b' | 'both',
  { by = 'version', dry = false }: { by?: api.AdsBy; dry?: boolean } = {},
) =>
  tests(plan, by).then(({ tests: [first] }) =>
    server.call(api.keepBetterAd, {
      params: { plan },
      body: { by, test: first?.id ?? '', keep: side, dry },
    }),
  );
async function statusesOf(plan: number): Promise<Record<string, string>> {
  await built(server, plan);
  const { keys } = await server.call(api.orderAds, { params: { plan }, query: {} as never });
  const { ads } = await server.call(api.pageAds, { params: { plan }, body: { keys } });
  return Object.fromEntries(ads.map(({ key, status }) => [key.endsWith('b') ? 'years' : 'hand', status]));
}

test('the better version is told, kept alone as one change, and both run again when that is undone', async () => {
  const plan = await knives({ first: 30, second: 45 });
  const answer = await tests(plan);
  expect(answer).toMatchObject({
    byDay: true,
    range: { from: '2026-11-01', to: '2026-11-30' },
    settledTo: null,
  });
  const [found] = answer.tests;
  expect(found).toMatchObject({ verdict: 'b', names: ['hand', 'years'], groups: 3, paused: null, told: 1 });
  expect(found?.difference?.by).toBeCloseTo(0.5, 1);
  // Decided as soon as it could be, by the days until then.
  expect(found?.on ?? '').toMatch(/^2026-11-(0\d|1\d)$/);
  const { order } = await server.call(api.readAdTestGroups, {
    params: { plan },
    body: { by: 'version', test: found?.id ?? '' },
  });
  const { rows } = await server.call(api.readAdTestRows, {
    params: { plan },
    body: { by: 'version', test: found?.id ?? '', rows: order },
  });
  expect(rows.map(({ a, b }) => [a.tries, a.hits, b.tries, b.hits])).toEqual(
    WORDS.map(() => [30_000, 900, 30_000, 1_350]),
  );
  expect((await keep(plan, 'b', { dry: true })).ads).toBe(3);
  expect((await keep(plan, 'b')).ads).toBe(3);
  expect(await statusesOf(plan)).toEqual({ hand: 'paused', years: 'enabled' });
  expect((await tests(plan)).tests[0]?.paused).toBe('a');
  await server.call(api.undoChange, { params: { plan } });
  expect(await statusesOf(plan)).toEqual({ hand: 'enabled', years: 'enabled' });
});

test('labels are held against each other; what is paused by hand is let go again', async () => {
  const plan = await knives({ first: 30, second: 45 });
  const { tests: found } = await tests(plan, 'label');
  expect(found.map(({ names, verdict }) => [names, verdict])).toEqual([[['hand', 'years'], 'b']]);
  await keep(plan, 'b', { by: 'label' });
  expect(await statusesOf(plan)).toEqual({ hand: 'paused', years: 'enabled' });
  await keep(plan, 'both', { by: 'label' });
  expect(await statusesOf(plan)).toEqual({ hand: 'enabled', years: 'enabled' });
  expect((await tests(plan, 'pattern')).tests).toEqual([]);
});

test('two alike are told to be alike, and too few to be too few, with what is missing', async () => {
  const alike = await knives({ first: 60, second: 60 });
  expect((await tests(alike)).tests[0]).toMatchObject({ verdict: 'alike', difference: { by: 0 } });
  const few = await knives({ first: 10, second: 11 }, { to: 2 });
  const [found] = (await tests(few)).tests;
  expect(found?.verdict).toBe('few');
  expect(found?.more).toBeGreaterThan(100_000);
  // By conversions only days count whose conversions are in: of two days none.
  await server.call(api.editFacts, {
    params: { plan: few },
    body: { edits: [{ at: 'adTests.by', before: 'clicks', after: 'conversions' }] },
  });
  expect((await tests(few)).tests).toEqual([]);
  expect((await tests(await planOf(server, 'Bare'))).why).toEqual({ none: 'reports' });
});
