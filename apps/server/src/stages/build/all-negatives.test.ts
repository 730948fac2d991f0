import * as api from '@sprig/contracts';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { built, planOf, startTestServer, type TestServer, takeIn } from '../../testing/start-test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

/** Ad groups of single keywords, fenced, with a negative of each level. */
async function fencedPlan() {
  const plan = await planOf(server);
  const params = { plan };
  await takeIn(server, plan, 'tooth crown\t90\ntooth crown price\t40\ntooth filling\t30');
  const { layout } = await server.call(api.readLayout, { params });
  await server.call(api.editLayout, {
    params,
    body: {
      edits: [
        { at: 'grouping', before: layout.grouping, after: { ...layout.grouping, kind: 'single' } },
        { at: 'fences', before: layout.fences, after: 'exact' },
      ],
    },
  });
  await server.call(api.addNegatives, {
    params,
    body: { negatives: [{ text: 'free', type: 'broad' }], reason: 'hand' },
  });
  const { id: list } = await server.call(api.makeShared, { params, body: { name: `Jobs ${plan}` } });
  await server.call(api.addNegatives, {
    params,
    body: { negatives: [{ text: 'wages', type: 'broad' }], reason: 'hand', list },
  });
  await built(server, plan);
  const { campaigns } = await server.call(api.viewBuild, { params });
  const campaign = campaigns[0]?.key ?? '';
  const groups = campaigns[0]?.largest.map(({ key }) => key) ?? [];
  await server.call(api.placeNegatives, {
    params,
    body: { places: [campaign], negatives: [{ text: 'photo', type: 'phrase' }] },
  });
  await server.call(api.placeNegatives, {
    params,
    body: { places: groups.slice(0, 2), negatives: [{ text: 'pain', type: 'broad' }] },
  });
  await built(server, plan);
  return { plan, campaign, groups };
}

async function allOf(
  plan: number,
  query: Partial<Record<'filter' | 'level' | 'sort' | 'down', string>> = {},
) {
  const { keys } = await server.call(api.orderAllNegatives, { params: { plan }, query: query as never });
  return (await server.call(api.pageAllNegatives, { params: { plan }, body: { keys } })).negatives;
}
const said = (rows: api.AllNegative[]) => rows.map(({ level, text, type }) => `${level}: ${text} ${type}`);
const keysOf = (rows: api.AllNegative[], ...texts: string[]) =>
  rows.filter(({ text }) => texts.includes(text)).map(({ key }) => key);
const change = (plan: number, keys: string[], asked: api.NegativesChange) =>
  server.call(api.changeAllNegatives, { params: { plan }, body: { keys, change: asked } });
const undo = (plan: number) => server.call(api.undoChange, { params: { plan }, body: {} });

test('all negatives stand in one list, of whatever level, searched and ordered', async () => {
  const { plan, campaign, groups } = await fencedPlan();
  const rows = await allOf(plan, { sort: 'text' });
  expect(said(rows)).toEqual([
    'plan: free broad',
    'group: pain broad',
    'group: pain broad',
    'campaign: photo phrase',
    'fence: tooth crown price exact',
    'list: wages broad',
  ]);
  expect(rows.find(({ level }) => level === 'campaign')).toMatchObject({ place: campaign });
  expect(rows.find(({ level }) => level === 'fence')).toMatchObject({
    place: groups[0],
    placeName: 'tooth crown',
    note: 'tooth crown price',
  });
  expect(rows.find(({ level }) => level === 'list')).toMatchObject({ placeName: `Jobs ${plan}` });
  expect(said(await allOf(plan, { level: 'group' }))).toHaveLength(2);
  expect(said(await allOf(plan, { filter: 'PHOTO' }))).toEqual(['campaign: photo phrase']);
  expect(said(await allOf(plan, { sort: 'text', down: 'true' }))[0]).toBe('list: wages broad');
  const other = await planOf(server);
  expect(await allOf(other)).toEqual([]);
});

test('types are changed for many at once; what would stand twice stands once; those of lists are left', async () => {
  const { plan, groups } = await fencedPlan();
  await server.call(api.placeNegatives, {
    params: { plan },
    body: { places: groups.slice(0, 1), negatives: [{ text: 'pain', type: 'exact' }] },
  });
  const rows = await allOf(plan);
  const done = await change(
    plan,
    rows.map(({ key }) => key),
    { kind: 'type', type: 'exact' },
  );
  expect(done).toMatchObject({ changed: 4, left: 3 });
  const after = await allOf(plan, { sort: 'text' });
  expect(said(after).filter((one) => !one.startsWith('fence'))).toEqual([
    'plan: free exact',
    'group: pain exact',
    'group: pain exact',
    'campaign: photo exact',
    'list: wages broad',
  ]);
  await undo(plan);
  expect(said(await allOf(plan))).toEqual(said(rows));
});

test('they go up a level, or to chosen places, each once', async () => {
  const { plan, campaign, groups } = await fencedPlan();
  const pain = keysOf(await allOf(plan), 'pain');
  expect(await change(plan, pain, { kind: 'campaign' })).toMatchObject({ changed: 2, left: 0 });
  const up = await allOf(plan, { filter: 'pain' });
  expect(up).toMatchObject([{ level: 'campaign', place: campaign }]);
  await change(plan, keysOf(up, 'pain'), { kind: 'plan' });
  const top = await allOf(plan, { filter: 'pain' });
  expect(top).toMatchObject([{ level: 'plan', blocks: false }]);
  await change(plan, keysOf(top, 'pain'), { kind: 'places', places: groups });
  const down = await allOf(plan, { filter: 'pain' });
  expect(down.map(({ level, place }) => [level, place]).sort()).toEqual(
    [...groups].sort().map((place) => ['group', place]),
  );
  // One that is where it is to go stays there.
  await change(plan, keysOf(down, 'pain'), { kind: 'places', places: groups.slice(0, 1) });
  expect((await allOf(plan, { filter: 'pain' })).map(({ place }) => place)).toEqual(groups.slice(0, 1));
});

test('a fence is taken away for good, with why; the audit shows what it let go; it comes back', async () => {
  const { plan, groups } = await fencedPlan();
  const audit = () => server.call(api.viewAudit, { params: { plan } });
  expect(await audit()).toMatchObject({ failed: 0 });
  const [fence] = await allOf(plan, { level: 'fence' });
  await expect(change(plan, [fence?.key ?? ''], { kind: 'remove', reason: ' ' })).rejects.toThrow('Say why');
  await change(plan, [fence?.key ?? ''], { kind: 'remove', reason: 'The client wants both to show' });
  await built(server, plan);
  expect(await allOf(plan, { level: 'fence' })).toEqual([]);
  expect(await allOf(plan, { level: 'out' })).toMatchObject([
    { text: 'tooth crown price', type: 'exact', place: groups[0], note: 'The client wants both to show' },
  ]);
  expect(await audit()).toMatchObject({ failed: 1, failures: [{ text: 'tooth crown price' }] });
  const { fences } = await server.call(api.viewBuild, { params: { plan } });
  expect(fences).toMatchObject({ exact: 0 });
  // It stays away when the plan is built anew.
  await takeIn(server, plan, 'tooth bridge\t20');
  await built(server, plan);
  expect(keysOf(await allOf(plan, { level: 'fence' }), 'tooth crown price')).toEqual([]);
  const [out] = await allOf(plan, { level: 'out' });
  await change(plan, [out?.key ?? ''], { kind: 'back' });
  await built(server, plan);
  expect(keysOf(await allOf(plan, { level: 'fence' }), 'tooth crown price')).toHaveLength(1);
  expect(await audit()).toMatchObject({ failed: 0 });
});
