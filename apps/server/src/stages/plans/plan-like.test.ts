import * as api from '@sprig/contracts';
import { defaultLayout } from '@sprig/core/build';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { type FullPlan, fullPlan } from '../../testing/full-plan.ts';
import {
  built,
  poolOf,
  type Refused,
  startTestServer,
  type TestServer,
  takeIn,
} from '../../testing/start-test-server.ts';

let server: TestServer;
let full: FullPlan;
beforeAll(async () => {
  server = await startTestServer();
  full = await fullPlan(server, 'Teas');
});
afterAll(() => server.stop());

const brief = { name: 'Boilers', currency: 'GBP', language: 'en' as const, site: 'boilers.example' };

test('a plan like another has its rules and lines, and nothing of its keywords or its client', async () => {
  const before = { plan: full.plan };
  const { id: plan } = await server.call(api.makePlan, { body: { ...brief, like: full.plan } });
  const params = { plan };
  const [kept, facts, themes, patterns, negatives, layout] = await Promise.all([
    server.call(api.readFacts, { params: before }),
    server.call(api.readFacts, { params }),
    Promise.all([before, params].map((one) => server.call(api.readSort, { params: one }))),
    Promise.all([before, params].map((one) => server.call(api.readPatterns, { params: one }))),
    Promise.all([before, params].map((one) => server.call(api.listNegatives, { params: one }))),
    Promise.all([before, params].map((one) => server.call(api.readLayout, { params: one }))),
  ]);
  const none = api.noFacts();
  expect(kept.facts.client).toBe('Leaf by Leaf');
  expect(facts.facts).toEqual({
    ...kept.facts,
    client: none.client,
    offers: none.offers,
    brands: none.brands,
    rivals: none.rivals,
  });
  const named = (one?: { themes: api.ThemeRow[] }) => one?.themes.map(({ name, sift }) => [name, sift]);
  expect(named(themes[1])).toEqual(named(themes[0]));
  expect(themes[0]?.themes.length).toBeGreaterThan(0);
  expect([themes[1]?.placed, (await poolOf(server, plan)).norms]).toEqual([[], []]);
  const bodies = (one?: { patterns: api.NumberedPatternView[] }) => one?.patterns.map(({ body }) => body);
  expect(bodies(patterns[1])).toEqual(bodies(patterns[0]));
  expect(patterns[1]?.address).toEqual(patterns[0]?.address);
  const texts = (list?: { negatives: api.Negative[] }) =>
    list?.negatives.map(({ text, type }) => [text, type]);
  expect(texts(negatives[1])).toEqual(texts(negatives[0]));
  expect(negatives[1]?.negatives.every(({ source }) => source === null)).toBe(true);
  expect(layout[1]?.layout.campaignName).toBe(layout[0]?.layout.campaignName.replaceAll('Teas', 'Boilers'));
  const state = await server.call(api.openPlan, { params });
  expect([state.counts.sources, state.counts.keywords, state.undo]).toEqual([0, 0, null]);
  expect((await server.call(api.listHolds, { params })).holds).toEqual([]);
});

test('it goes on as any plan does: what is gathered is built by those rules', async () => {
  const { id: plan } = await server.call(api.makePlan, {
    body: { ...brief, name: 'Teas too', like: full.plan },
  });
  await takeIn(server, plan, 'teapot\t800\ngreen tea\t700\n');
  const state = await built(server, plan);
  expect(state.counts.groups).toBeGreaterThan(0);
  const { id } = await server
    .call(api.makeThemes, {
      params: { plan },
      body: { parent: null, themes: [api.newThemeOf('pots', { has: [['teapot']], not: [] })] },
    })
    .then(({ ids }) => ({ id: ids[0] }));
  // Numbers go on behind those of the other plan's: none is given twice.
  const { themes } = await server.call(api.readSort, { params: { plan } });
  expect(themes.filter((theme) => theme.id === id)).toHaveLength(1);
});

test('amounts of another currency are left out; a plan that is not there is none', async () => {
  const { id: plan } = await server.call(api.makePlan, {
    body: { ...brief, name: 'Boilers abroad', currency: 'CHF', like: full.plan },
  });
  const [here, there] = await Promise.all(
    [plan, full.plan].map((one) => server.call(api.readLayout, { params: { plan: one } })),
  );
  const usual = defaultLayout('Boilers abroad', 'CHF');
  expect(here?.layout.ladder.floor).toBe(usual.ladder.floor);
  expect(here?.layout.dailyBudget).toBe(usual.dailyBudget);
  expect(here?.layout.fences).toBe(there?.layout.fences);
  const refused = server
    .call(api.makePlan, { body: { ...brief, like: 999_999 } })
    .catch((error: unknown) => error as Refused);
  expect(await refused).toMatchObject({ status: 404 });
});
