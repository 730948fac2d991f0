import * as api from '@sprig/contracts';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { execute, select } from '../../db/connect.ts';
import {
  built,
  finished,
  planOf,
  poolOf,
  startTestServer,
  type TestServer,
  takeIn,
} from '../../testing/start-test-server.ts';
import { rebuild } from './index.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

async function groupsOf(plan: number) {
  await built(server, plan);
  const { keys } = await server.call(api.orderGroups, { params: { plan } });
  return (await server.call(api.pageGroups, { params: { plan }, body: { keys } })).groups;
}
const holdOf = (
  plan: number,
  rowKey: string,
  field: 'name' | 'bid' | 'headline1',
  value: string | number,
  before: string | number | null = null,
) => server.call(api.holdValue, { params: { plan }, body: { rowKey, field, value: value as never, before } });

test('groups, rows and bids by the rules', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'Kayak hire\t100\t0.58\n[canoe]\t50\t--\n');
  const groups = await groupsOf(plan);
  expect(
    groups.map(({ name, base, baseFrom, rows }) => [
      name,
      base,
      baseFrom,
      rows.map(({ type, bid }) => `${type} ${bid}`),
    ]),
  ).toEqual([
    ['Kayak hire', 580_000, 'estimate', ['phrase 670000', 'exact 830000']],
    ['canoe', 400_000, 'default', ['exact 500000']],
  ]);
});

test('a value held by hand survives new keywords and other rules, is marked, and can be let go', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'kayak\t100\t0.50\ncanoe\t50\t0.40\n');
  const [kayak, canoe] = await groupsOf(plan);
  await holdOf(plan, kayak!.key, 'bid', 900_000);
  await holdOf(plan, kayak!.key, 'name', 'Our kayaks');
  await holdOf(plan, `${canoe!.key}:e`, 'bid', 110_000);
  await takeIn(server, plan, 'raft\nour kayaks\n');
  await server.call(api.editLayout, {
    params: { plan },
    body: { edits: [{ at: 'groupName.style', before: 'as-is', after: 'title' }] },
  });
  const groups = await groupsOf(plan);
  expect(groups.map(({ name }) => name)).toEqual(['Our kayaks', 'Canoe', 'Raft', 'Our Kayaks (2)']);
  expect(groups[0]).toMatchObject({
    base: 900_000,
    baseFrom: 'held',
    covered: { name: 'Kayak', bid: 500_000 },
  });
  expect(groups[0]!.rows.map(({ bid }) => bid)).toEqual([900_000, 1_130_000]);
  expect(groups[1]!.rows[1]).toMatchObject({ bid: 110_000, held: true, ruleBid: 500_000 });
  await expect(holdOf(plan, groups[2]!.key, 'name', 'OUR KAYAKS')).rejects.toMatchObject({ status: 400 });
  await expect(holdOf(plan, kayak!.key, 'bid', 5, 7)).rejects.toMatchObject({
    status: 409,
    failure: { current: 900_000 },
  });
  await server.call(api.letGo, {
    params: { plan },
    body: { places: [{ rowKey: kayak!.key, field: 'bid' }] },
  });
  expect((await groupsOf(plan))[0]).toMatchObject({ base: 500_000, covered: { name: 'Kayak' } });
});

test('a hold whose keyword is cut is set aside, and comes back with it', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'kayak\ncanoe\n');
  const [kayak] = await groupsOf(plan);
  await holdOf(plan, kayak!.key, 'name', 'Mine');
  const { ids } = await poolOf(server, plan);
  const cut = (isCut: boolean) =>
    server.call(api.setCut, { params: { plan }, body: { ids: [ids[0]!], cut: isCut } });
  await cut(true);
  expect((await groupsOf(plan)).map(({ name }) => name)).toEqual(['canoe']);
  const { holds } = await server.call(api.listHolds, { params: { plan } });
  expect(holds).toMatchObject([{ orphan: true, keyword: 'kayak', cut: true, value: 'Mine' }]);
  await cut(false);
  expect((await groupsOf(plan)).map(({ name }) => name)).toEqual(['Mine', 'canoe']);
});

test('rebuilding again writes nothing; a small edit writes only its own rows', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, Array.from({ length: 500 }, (_, n) => `kayak ${n}`).join('\n'));
  const groups = await groupsOf(plan);
  const caller = { ...server.caller, plan };
  await execute(server.database, 'update plans set built_revision = 0 where id = $1', [plan]);
  expect(await rebuild(caller)).toMatchObject({ groups: 500, rows: 1000, written: 0, removed: 0 });
  await holdOf(plan, groups[7]!.key, 'bid', 640_000);
  await built(server, plan);
  const [last] = await select<{ result: { written: number } }>(
    server.database,
    `select result from jobs where plan_id = $1 and kind = 'rebuild' and status = 'done' order by ended_at desc limit 1`,
    [plan],
  );
  // The group, its two rows and its place at the outlet; its ad says no bid.
  expect(last!.result.written).toBe(4);
});

const numbered = (word: string, most: number) =>
  Array.from({ length: most }, (_, at) => `${word} ${at + 1}`).join(',');

const SETTINGS =
  'Networks,Locations,Excluded locations,Shown to,Languages,Schedule,Device bid adjustments,Delivery,Bid strategy,Target cost per conversion,Target return,Counted conversions,Start,End,Ad rotation,Excluded sites,Goal,Kind of site,Audience';

test('findings stop a shipment, and the sheets hold what was built', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, '[kayak]\t\n-free\t\n');
  await built(server, plan);
  const ship = () =>
    server.call(api.startShip, {
      params: { plan },
      body: { outlet: 'plain', format: 'csv', sheets: ['keywords', 'combined'] },
    });
  await expect(ship()).rejects.toMatchObject({ status: 422 });
  const view = await server.call(api.viewShip, { params: { plan } });
  expect(view.findings.map(({ rule, field }) => `${rule} ${field}`)).toEqual([
    'field-unfilled headline2',
    'field-unfilled description1',
    'few-ads null',
    'no-extras null',
  ]);
  const write = (field: string, line: string) =>
    server.call(api.editPattern, {
      params: { plan, pattern: 1 },
      body: { edits: [{ at: `fields.${field}.lines`, before: [], after: [line] }] },
    });
  await write('headline2', 'Saltmarsh, "Paddle"');
  await write('description1', 'On the water.');
  await built(server, plan);
  const job = await finished(server, plan, (await ship()).job);
  const { sheetSet, files } = api.shipResult.parse(job.result);
  expect(files.map(({ name, rows }) => `${name} ${rows}`)).toEqual(['keywords.csv 1', 'combined.csv 5']);
  const text = await (
    await fetch(`${server.url}/api/plans/${plan}/sheet-sets/${sheetSet}/files/combined.csv`)
  ).text();
  expect(text.split('\r\n')).toEqual([
    `Row,Campaign,Ad group,Daily budget,Keyword,Match type,Max CPC,Ad form,${numbered('Headline', 12)},${numbered('Description', 4)},Path 1,Path 2,Kept in place,Final URL,Mobile URL,Extra,Text,Line 1,Line 2,Phone number,Labels,${SETTINGS},Status`,
    `Campaign,Kayaks,,20.00${','.repeat(32)}Search,,,People in,,,,Even,Bids by hand,,,,,,Best ads more often${','.repeat(5)}Enabled`,
    `Negative keyword,Kayaks,,,free,Broad${','.repeat(49)}Enabled`,
    `Ad group,Kayaks,kayak,,,,0.40${','.repeat(48)}Enabled`,
    `Keyword,Kayaks,kayak,,kayak,Exact,0.50${','.repeat(48)}Enabled`,
    `Ad,Kayaks,kayak,,,,,Plain,Kayak,"Saltmarsh, ""Paddle""",,,,,,,,,,,On the water.,,,,,,,https://saltmarshpaddle.example/${','.repeat(27)}Enabled`,
    '',
  ]);
  const zip = async () =>
    new Uint8Array(
      await (await fetch(`${server.url}/api/plans/${plan}/sheet-sets/${sheetSet}/zip`)).arrayBuffer(),
    );
  expect([...(await zip()).subarray(0, 2)]).toEqual([0x50, 0x4b]);
  expect(await zip()).toEqual(await zip());
});

test('the same plan and outlet give the same bytes', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'kayak\ncanoe\nsup\n');
  await server.call(api.editPattern, {
    params: { plan, pattern: 1 },
    body: {
      edits: [
        { at: 'fields.headline2.lines', before: [], after: ['x'] },
        { at: 'fields.description1.lines', before: [], after: ['y'] },
      ],
    },
  });
  await built(server, plan);
  const once = async () => {
    const { job } = await server.call(api.startShip, {
      params: { plan },
      body: { outlet: 'plain', format: 'tsv', sheets: ['combined'] },
    });
    const { sheetSet } = api.shipResult.parse((await finished(server, plan, job)).result);
    return (await fetch(`${server.url}/api/plans/${plan}/sheet-sets/${sheetSet}/files/combined.tsv`)).text();
  };
  expect(await once()).toBe(await once());
});
