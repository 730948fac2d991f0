import * as api from '@sprig/contracts';
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
  expect(themes[1]?.themes.map(({ id, name }) => [id, name])).toEqual(
    themes[0]?.themes.map(({ id, name }) => [id, name]),
  );
  expect(themes[0]?.themes.length).toBeGreaterThan(0);
  expect([themes[1]?.placed, (await poolOf(server, plan)).norms]).toEqual([[], []]);
  expect(patterns[1]).toEqual(patterns[0]);
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

test('amounts of another currency are no beginning; a plan that is not there is none', async () => {
  const refused = (body: object) =>
    server.call(api.makePlan, { body: { ...brief, ...body } }).catch((error: unknown) => error as Refused);
  expect(await refused({ currency: 'EUR', like: full.plan })).toMatchObject({
    status: 400,
    failure: { code: 'invalid', at: 'currency' },
  });
  expect(await refused({ like: 999_999 })).toMatchObject({ status: 404 });
});
