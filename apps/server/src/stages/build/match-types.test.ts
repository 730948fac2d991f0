import * as api from '@sprig/contracts';
import { type matchTypes, setOf } from '@sprig/core/match';
import { afterAll, beforeAll, expect, test } from 'vitest';
import {
  built,
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

type Types = readonly (typeof matchTypes)[number][];
const set = (types: Types, kind: 'set' | 'add' | 'take' = 'set') => ({ kind, types: setOf(types) });

async function softwarePlan(): Promise<number> {
  const plan = await planOf(server);
  await takeIn(server, plan, '[invoice app]\ntimesheet app\n"payroll app"\ninvoice app free');
  await built(server, plan);
  return plan;
}
const rowsOf = async (plan: number) => {
  const { keys } = await server.call(api.orderRows, {
    params: { plan },
    query: { sort: 'text', down: 'false' },
  });
  const { rows } = await server.call(api.pageRows, { params: { plan }, body: { keys } });
  return rows.map(({ text, type, key, keyword }) => ({ text, type, key, keyword }));
};
const shown = async (plan: number) =>
  (await rowsOf(plan)).map(({ text, type }) => `${text} ${type}`).sort((a, b) => (a < b ? -1 : 1));
const change = (plan: number, scope: api.TypesScope, asked: api.TypesChange, dry = false) =>
  server.call(api.changeTypes, { params: { plan }, body: { scope, change: asked, dry } as never });

test('match types of many keywords are set, added and taken away, shown before, given back, undone', async () => {
  const plan = await softwarePlan();
  const before = [
    'invoice app exact',
    'invoice app free exact',
    'invoice app free phrase',
    'payroll app phrase',
    'timesheet app exact',
    'timesheet app phrase',
  ];
  expect(await shown(plan)).toEqual(before);
  const all = { all: true } as const;
  const would = await change(plan, all, set(['broad'], 'add'), true);
  expect(would).toMatchObject({
    keywords: 4,
    changed: 4,
    bare: 0,
    before: { broad: 0, modified: 0, phrase: 3, exact: 3 },
    after: { broad: 4, modified: 0, phrase: 3, exact: 3 },
  });
  expect(await shown(plan)).toEqual(before);

  await change(plan, all, set(['exact', 'broad']));
  await built(server, plan);
  expect((await shown(plan)).filter((row) => row.endsWith('phrase'))).toEqual([]);
  expect(await shown(plan)).toHaveLength(8);

  // What is taken away leaves at least one.
  const taken = await change(plan, all, set(['exact', 'broad'], 'take'), true);
  expect(taken).toMatchObject({ changed: 0, bare: 4, samples: [] });

  // Whatever the rules say of what was asked for.
  const { layout } = await server.call(api.readLayout, { params: { plan } });
  expect(layout.asAsked).toBe(true);
  await server.call(api.editLayout, {
    params: { plan },
    body: { edits: [{ at: 'asAsked', before: true, after: false }] },
  });
  await built(server, plan);
  expect(await shown(plan)).toHaveLength(8);

  await change(plan, all, { kind: 'as-asked' });
  await built(server, plan);
  expect((await shown(plan)).filter((row) => !/(exact|phrase)$/.test(row))).toEqual([]);
  for (let step = 0; step < 3; step++) await server.call(api.undoChange, { params: { plan }, body: {} });
  await built(server, plan);
  expect(await shown(plan)).toEqual(before);
});

test('what is shown before is what is done, of however many and whatever they stand in', async () => {
  const plan = await planOf(server);
  const lines = Array.from({ length: 150 }, (_, at) => {
    const text = `lens ${at}`;
    return `${[text, `"${text}"`, `[${text}]`][at % 3]}\t${at % 7 === 0 ? '' : (at * 37) % 400}`;
  });
  await takeIn(server, plan, lines.join('\n'));
  await built(server, plan);
  const ids = [...(await poolOf(server, plan)).ids];
  await change(plan, { keywords: ids.slice(10, 30) }, set(['broad', 'exact']));
  await built(server, plan);
  const scopes: api.TypesScope[] = [{ all: true }, { keywords: ids.slice(0, 90) }];
  const changes = [set(['exact'], 'take'), set(['phrase', 'exact']), { kind: 'as-asked' } as const];
  let changed = 0;
  for (const scope of scopes)
    for (const asked of changes) {
      const { revision: _, ...would } = await change(plan, scope, asked, true);
      const { revision: __, ...done } = await change(plan, scope, asked);
      expect(would).toEqual(done);
      changed += would.changed;
      await built(server, plan);
    }
  expect(changed).toBeGreaterThan(300);
});

test('of the keywords of chosen rows, ad groups or of the pool alone; bids of rows that stay stay held', async () => {
  const plan = await softwarePlan();
  const rows = await rowsOf(plan);
  const row = rows.find(({ text, type }) => text === 'timesheet app' && type === 'exact');
  await server.call(api.holdValue, {
    params: { plan },
    body: { rowKey: row?.key ?? '', field: 'bid', value: 1_000_000, before: null },
  });
  await change(plan, { rows: [row?.key ?? ''] }, set(['phrase'], 'take'));
  const payroll = rows.find(({ text }) => text === 'payroll app');
  await change(plan, { keywords: [payroll?.keyword ?? 0] }, set(['modified'], 'add'));
  const free = rows.find(({ text }) => text === 'invoice app free');
  await change(plan, { groups: [`k${free?.keyword}`] }, set(['broad']));
  await built(server, plan);
  expect(await shown(plan)).toEqual([
    'invoice app exact',
    'invoice app free broad',
    'payroll app modified',
    'payroll app phrase',
    'timesheet app exact',
  ]);
  const { holds } = await server.call(api.listHolds, { params: { plan } });
  expect(holds).toMatchObject([{ rowKey: row?.key, value: 1_000_000, orphan: false }]);

  // Set again before the build has caught up, it goes on from what was set.
  await change(plan, { keywords: [payroll?.keyword ?? 0] }, set(['phrase'], 'take'));
  await change(plan, { keywords: [payroll?.keyword ?? 0] }, set(['exact'], 'add'));
  await built(server, plan);
  expect((await shown(plan)).filter((one) => one.startsWith('payroll'))).toEqual([
    'payroll app exact',
    'payroll app modified',
  ]);
});

test('what is written in the notation of a match type when texts are changed is asked for in it', async () => {
  const plan = await softwarePlan();
  const rows = await rowsOf(plan);
  const idOf = (text: string) => rows.find((row) => row.text === text)?.keyword ?? 0;
  const { changed, refused } = await server.call(api.rewriteKeywords, {
    params: { plan },
    body: {
      edits: [
        { id: idOf('timesheet app'), before: 'timesheet app', after: '[timesheet app]' },
        { id: idOf('payroll app'), before: 'payroll app', after: '+payroll +app free' },
        { id: idOf('invoice app free'), before: 'invoice app free', after: '-free' },
      ],
    },
  });
  expect(changed).toBe(2);
  expect(refused).toMatchObject([{ text: '-free', why: expect.stringContaining('negative') }]);
  await server.call(api.editKeyword, {
    params: { plan, keyword: idOf('invoice app') },
    body: { field: 'text', before: 'invoice app', after: '"invoice apps"' },
  });
  await built(server, plan);
  expect(await shown(plan)).toEqual([
    'invoice app free exact',
    'invoice app free phrase',
    'invoice apps phrase',
    'payroll app free modified',
    'timesheet app exact',
  ]);
  const { keys } = await server.call(api.orderRows, { params: { plan }, query: { filter: 'payroll' } });
  const [row] = (await server.call(api.pageRows, { params: { plan }, body: { keys } })).rows;
  expect(row?.marks).toEqual([0, 1]);
});

test('keywords move to a new theme, held there with their bids, as one step', async () => {
  const plan = await softwarePlan();
  const rows = await rowsOf(plan);
  const keywords = [
    ...new Set(rows.filter(({ text }) => text.startsWith('invoice')).map(({ keyword }) => keyword)),
  ];
  await server.call(api.placeByHand, {
    params: { plan },
    body: { keywords, made: { name: 'Invoices', parent: null } },
  });
  await built(server, plan);
  const { keys } = await server.call(api.orderGroups, { params: { plan } });
  const { groups } = await server.call(api.pageGroups, { params: { plan }, body: { keys } });
  expect(groups.find(({ kind }) => kind === 'theme')).toMatchObject({ name: 'Invoices', keywords: 2 });
  await server.call(api.undoChange, { params: { plan }, body: {} });
  const { themes, placed } = await server.call(api.readSort, { params: { plan } });
  expect([themes, placed]).toEqual([[], []]);
});

test('rows are listed by bid, searches, label, stage and theme', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'invoice app\t900\t1.00\nbuy invoice app\t90\t0.50\ntimesheet app\t40\t0.20');
  await server.call(api.makeThemes, {
    params: { plan },
    body: {
      parent: null,
      themes: [
        api.newThemeOf('Invoices', { has: [['invoice']], not: [] }),
        api.newThemeOf('Buying', { has: [['buy']], not: [] }, 0),
      ] as never,
    },
  });
  await built(server, plan);
  const { themes } = await server.call(api.readSort, { params: { plan } });
  const rows = await rowsOf(plan);
  const key = (text: string) => rows.find((row) => row.text === text && row.type === 'exact')?.key ?? '';
  await server.call(api.labelMany, {
    params: { plan },
    body: { rowKeys: [key('timesheet app')], add: ['spring'], remove: [] },
  });
  await built(server, plan);
  const texts = async (query: Record<string, string>) => {
    const { keys } = await server.call(api.orderRows, {
      params: { plan },
      query: { sort: 'text', down: 'false', types: 8, ...query } as never,
    });
    const found = await server.call(api.pageRows, { params: { plan }, body: { keys } });
    return found.rows.map(({ text }) => text);
  };
  const all = await texts({});
  expect(all).toEqual(['buy invoice app', 'invoice app', 'timesheet app']);
  expect(await texts({ bidFrom: '1250000' })).toEqual(['invoice app']);
  expect(await texts({ bidTo: '1249999' })).toEqual(['buy invoice app', 'timesheet app']);
  expect(await texts({ searchesFrom: '90' })).toEqual(['buy invoice app', 'invoice app']);
  expect(await texts({ searchesFrom: '41', searchesTo: '90' })).toEqual(['buy invoice app']);
  expect(await texts({ label: 'spring' })).toEqual(['timesheet app']);
  expect(await texts({ stage: 'ready' })).toEqual(['buy invoice app']);
  expect(await texts({ theme: String(themes[0]?.id) })).toEqual(['buy invoice app', 'invoice app']);
  expect(await texts({ theme: String(themes[1]?.id) })).toEqual(['buy invoice app']);
  expect(await texts({ theme: '0' })).toEqual(['timesheet app']);
  expect(await texts({ theme: '999' })).toEqual([]);
});

test('rows are listed by the position that their bids reach by the forecast, or that they reach none', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'invoice app\t900\t1.00\nbuy invoice app\t90\t0.50\ntimesheet app\t40\t0.20');
  await built(server, plan);
  const bids = { 'invoice app': 3_000_000, 'buy invoice app': 500_000, 'timesheet app': 10_000 };
  const rows = (await rowsOf(plan)).filter(({ type }) => type === 'exact');
  await server.call(api.holdEach, {
    params: { plan },
    body: { values: rows.map(({ key, text }) => [key, 'bid', bids[text as keyof typeof bids]] as never) },
  });
  await built(server, plan);
  const listed = async (query: Record<string, string>) => {
    const { keys } = await server.call(api.orderRows, {
      params: { plan },
      query: { sort: 'bid', types: 8, ...query } as never,
    });
    const found = await server.call(api.pageRows, { params: { plan }, body: { keys } });
    return found.rows.map(({ text, position }): [string, number | null] => [text, position]);
  };
  const [[, top], [, middle], [, none]] = (await listed({})) as [
    [string, number],
    [string, number],
    [string, null],
  ];
  expect(top).toBe(1);
  expect(middle).toBeGreaterThan(1);
  expect(none).toBeNull();
  const texts = async (query: Record<string, string>) => (await listed(query)).map(([text]) => text);
  expect(await texts({ positionTo: '1' })).toEqual(['invoice app']);
  expect(await texts({ positionFrom: '1.01' })).toEqual(['buy invoice app']);
  expect(await texts({ positionTo: '100' })).toEqual(['invoice app', 'buy invoice app']);
  expect(await texts({ only: 'unreached' })).toEqual(['timesheet app']);
  expect(await texts({ only: 'unreached', positionTo: '3' })).toEqual([]);
});

test('a list that comes in later asks for nothing where types were set by hand', async () => {
  const plan = await softwarePlan();
  const [first] = await rowsOf(plan);
  await change(plan, { keywords: [first?.keyword ?? 0] }, set(['broad']));
  const told = await takeIn(server, plan, `"${first?.text}"\n[${first?.text}]`);
  expect(told.result).toMatchObject({ byHand: 1 });
  await built(server, plan);
  expect(
    (await shown(plan)).filter((one) => one.startsWith(`${first?.text} `) && !one.includes('free')),
  ).toEqual([`${first?.text} broad`]);
});
