import * as api from '@sprig/contracts';
import { patternOf } from '@sprig/core/write';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { built, planOf, startTestServer, type TestServer, takeIn } from '../../testing/start-test-server.ts';

let server: TestServer;
let params: { plan: number };
beforeAll(async () => {
  server = await startTestServer();
  params = { plan: await planOf(server) };
  await takeIn(
    server,
    params.plan,
    'blocked drain\t1300\nblocked drain outside\t170\nburst pipe\t700\nboiler\t90\n',
  );
  await server.call(api.makeThemes, {
    params,
    body: {
      parent: null,
      themes: [
        api.newThemeOf('drains', { has: [['drain']], not: [] }),
        api.newThemeOf('pipes', { has: [['pipe']], not: [] }),
      ],
    },
  });
  const body = patternOf(
    { headline1: ['@keyword'], headline2: ['Fixed today'], description1: ['We come to you.'] },
    'title',
  );
  await server.call(api.makePattern, { params, body: { body, behind: null } });
  const negatives = ['course', 'jobs'].map((text) => ({ text, type: 'phrase' as const }));
  await server.call(api.addNegatives, { params, body: { negatives, reason: 'hand' } });
  await built(server, params.plan);
});
afterAll(() => server.stop());

test('the page for the client has the most searched of each, once, with match types, bids and an ad', async () => {
  const page = await server.call(api.readClientPage, { params, query: { groups: 2, keywords: 1 } });
  const [campaign] = page.campaigns;
  expect(page.campaigns).toHaveLength(1);
  expect(campaign).toMatchObject({ groups: 3, keywords: 4, searches: 2_260 });
  const [drains, pipes] = campaign?.shown ?? [];
  expect(campaign?.shown).toHaveLength(2);
  expect(drains).toMatchObject({ name: 'drains', searches: 1_470, keywords: 2 });
  expect(pipes).toMatchObject({ name: 'pipes', keywords: 1 });
  const { rows } = await server.call(api.readGroup, { params: { ...params, group: drains?.key ?? '' } });
  const own = rows.filter(({ text }) => text === 'blocked drain');
  expect(drains?.shown).toEqual([
    {
      text: 'blocked drain',
      searches: 1_300,
      types: own.map(({ type }) => type),
      bidFrom: Math.min(...own.map(({ bid }) => bid)),
      bidTo: Math.max(...own.map(({ bid }) => bid)),
    },
  ]);
  expect(drains?.ads).toEqual([
    expect.objectContaining({
      form: 'plain',
      texts: expect.objectContaining({ headline1: 'Blocked Drain' }),
    }),
  ]);
  expect([page.negatives, page.negativeCount, page.lists]).toEqual([['course', 'jobs'], 2, []]);
});

test('every ad group by its size, with the theme that it was made of', async () => {
  const sizes = await server.call(api.readGroupSizes, { params });
  const themes = new Map(sizes.themeNames.map(({ id, name }) => [id, name]));
  const told = sizes.names.map((name, at) => [
    name,
    themes.get(sizes.themes[at] ?? 0) ?? null,
    sizes.searches[at],
    sizes.keywords[at],
    sizes.campaignKeys[sizes.campaigns[at] ?? -1] !== undefined,
  ]);
  expect(told.sort()).toEqual([
    ['boiler', null, 90, 1, true],
    ['drains', 'drains', 1_470, 2, true],
    ['pipes', 'pipes', 700, 1, true],
  ]);
});
