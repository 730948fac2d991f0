import * as api from '@sprig/contracts';
import { afterAll, beforeAll, expect, test } from 'vitest';
import {
  askStandIn,
  built,
  finished,
  planOf,
  poolOf,
  startTestServer,
  type TestServer,
  takeIn,
} from '../../testing/start-test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const find = (plan: number, request: object, filters: object = {}) =>
  server.call(api.findIdeas, { params: { plan }, body: { request: request as never, filters } });

const asking = async (): Promise<number> => {
  const plan = await planOf(server);
  await askStandIn(server, plan);
  return plan;
};

test('ideas around seeds, filtered, and told which are in the pool', async () => {
  const plan = await asking();
  await takeIn(server, plan, 'Kayak Hire\n');
  const { ideas, provider, total } = await find(plan, { from: 'seeds', seeds: ['kayak hire', ' '] });
  expect(provider).toEqual({ name: 'Stand-in market', isStandIn: true });
  expect(total).toBeGreaterThan(80);
  expect(ideas.find(({ text }) => text === 'kayak hire')).toMatchObject({ inPool: true });
  expect(ideas.filter(({ inPool }) => inPool)).toHaveLength(1);
  const filters = { contains: 'wrenport', excludes: 'in', leastSearches: 20 };
  const { ideas: few } = await find(plan, { from: 'seeds', seeds: ['kayak hire'] }, filters);
  expect(few.length).toBeGreaterThan(0);
  for (const { text, searches } of few) {
    expect(text).toMatch(/wrenport/);
    expect(text).not.toMatch(/in/);
    expect(searches).toBeGreaterThanOrEqual(20);
  }
});

test('ideas from a page, a rival, a half-typed search and the pool; refusals say what to do', async () => {
  const plan = await asking();
  expect((await find(plan, { from: 'page', address: 'saltmarshpaddle.example/hire' })).seeds).toContain(
    'kayak hire',
  );
  expect((await find(plan, { from: 'page', address: '/stand-in/rival/' })).seeds).toContain('touring kayak');
  const { ideas } = await find(plan, { from: 'completions', typed: 'fishing k' });
  expect(ideas.every(({ text }) => text.startsWith('fishing k'))).toBe(true);
  for (const request of [
    { from: 'page', address: 'http://169.254.1.1/secret' },
    { from: 'pool' },
    { from: 'seeds', seeds: [' '] },
    { from: 'nowhere' },
  ])
    await expect(find(plan, request)).rejects.toMatchObject({ status: 400 });
  await takeIn(server, plan, 'canoe hire\n');
  expect((await find(plan, { from: 'pool' })).seeds).toEqual(['canoe hire']);
});

test('taken ideas are a source with the market’s figures, undone in one step', async () => {
  const plan = await asking();
  await takeIn(server, plan, 'kayak\t10\t0.10\n');
  const { ideas } = await find(plan, { from: 'seeds', seeds: ['kayak'] });
  const texts = ideas.slice(0, 5).map(({ text }) => text);
  const result = await server.call(api.takeIdeas, {
    params: { plan },
    body: { name: 'Around kayak', texts: [...texts, 'no [sound keyword'] },
  });
  expect(result).toMatchObject({ added: 4, alreadyThere: 1 });
  const pool = await poolOf(server, plan);
  for (const idea of ideas.slice(0, 5)) {
    const at = pool.norms.indexOf(idea.text);
    expect([pool.madeSearches[at], pool.madeCpc[at], pool.madeCompetition[at]]).toEqual([
      idea.searches,
      idea.cpc,
      idea.competition,
    ]);
  }
  const { sources } = await server.call(api.listSources, { params: { plan } });
  expect(sources[1]).toMatchObject({ kind: 'ideas', name: 'Around kayak', keywords: 5, onlyHere: 4 });
  await server.call(api.undoChange, { params: { plan }, body: {} });
  const after = await poolOf(server, plan);
  expect([after.norms, [...after.searches], [...after.cpc]]).toEqual([['kayak'], [10], [100_000]]);
});

test('made-up figures are asked for keywords without any, and never stand over told ones', async () => {
  const plan = await asking();
  await takeIn(server, plan, 'Kayak Hire\t\ncanoe\t77\n');
  const ask = (ids: number[] | null) => server.call(api.askFigures, { params: { plan }, body: { ids } });
  expect(await ask(null)).toMatchObject({ added: 0, alreadyThere: 1 });
  const pool = await poolOf(server, plan);
  expect([...pool.searches]).toEqual([-1, 77]);
  expect(pool.madeSearches[0]).toBeGreaterThan(0);
  expect(pool.texts[0]).toBe('Kayak Hire');
  await ask([...pool.ids]);
  const again = await poolOf(server, plan);
  expect([again.searches[1], again.cpc[1]]).toEqual([77, -1]);
  expect(again.madeSearches[1]).toBeGreaterThan(0);
  await built(server, plan);
  const known = await server.call(api.lookUp, { params: { plan }, query: { text: 'KAYAK hire' } });
  expect(known).toMatchObject({
    text: 'kayak hire',
    inPool: true,
    searches: pool.madeSearches[0],
    from: { searches: 'made-up', cpc: 'made-up' },
  });
  expect(known.months).toHaveLength(12);
  expect(known.positions).toHaveLength(8);
});

test('a plan that asks no market is told so, and no figure is made up for it', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'kayak hire\t\n');
  await expect(find(plan, { from: 'seeds', seeds: ['kayak'] })).rejects.toMatchObject({ status: 400 });
  await expect(server.call(api.askFigures, { params: { plan }, body: { ids: null } })).rejects.toMatchObject({
    status: 400,
  });
  expect(await server.call(api.lookUp, { params: { plan }, query: { text: 'kayak hire' } })).toMatchObject({
    searches: null,
    cpc: null,
    from: { searches: null },
    months: null,
    positions: [],
  });
});

test('the stand-in sites are served as pages', async () => {
  const page = await fetch(`${server.url}/stand-in/site/hire`);
  expect(await page.text()).toContain('<h2>Kayak hire</h2>');
  expect((await fetch(`${server.url}/stand-in/site/none`)).status).toBe(404);
});

test('ideas that are taken bring no figures where no market is asked', async () => {
  const plan = await planOf(server);
  const result = await server.call(api.takeIdeas, {
    params: { plan },
    body: { name: 'Gaps', texts: ['Cast iron mug', 'glass mug'] },
  });
  expect(result).toMatchObject({ added: 2 });
  const pool = await poolOf(server, plan);
  expect([pool.norms, [...pool.searches], [...pool.madeSearches]]).toEqual([
    ['cast iron mug', 'glass mug'],
    [-1, -1],
    [-1, -1],
  ]);
});

test('what is dismissed is kept, once, and can come again', async () => {
  const plan = await planOf(server);
  const dismiss = (texts: string[], dismissed = true) =>
    server.call(api.dismissIdeas, { params: { plan }, body: { texts, dismissed } });
  const dismissed = async () => (await server.call(api.listDismissed, { params: { plan } })).texts;
  await dismiss(['Red mug', 'blue mug']);
  const { revision } = await dismiss(['red mug']);
  expect(await dismissed()).toEqual(['red mug', 'blue mug']);
  await dismiss(['red mug', 'never there'], false);
  expect(await dismissed()).toEqual(['blue mug']);
  await server.call(api.undoChange, { params: { plan }, body: {} });
  expect(await dismissed()).toEqual(['blue mug', 'red mug'].sort().reverse());
  expect(revision).toBeGreaterThan(0);
});

test('a site is read by a job; what can’t be read is told as its failure', async () => {
  const plan = await planOf(server);
  const readings = async (address: string) => {
    const { job } = await server.call(api.startSiteReading, { params: { plan }, body: { address } });
    return finished(server, plan, job);
  };
  const { status, result, failure } = await readings('saltmarshpaddle.example');
  expect(failure).toBeNull();
  expect(status).toBe('done');
  const reading = api.siteReading.parse(result);
  expect(reading.pages.length).toBeGreaterThan(3);
  expect(reading.phrases.map(({ text }) => text)).toContain('inflatable kayaks');
  expect(await readings('http://10.0.0.1/')).toMatchObject({
    status: 'failed',
    failure: { message: expect.stringMatching(/private network/) },
  });
});
