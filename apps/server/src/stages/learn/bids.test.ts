import * as api from '@sprig/contracts';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { bringReports } from '../../testing/reports.ts';
import { built, planOf, startTestServer, type TestServer, takeIn } from '../../testing/start-test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const WORDS = ['garden wall', 'brick wall', 'dry wall', 'wall tie', 'wall cap'];
type Own = { clicks?: number; sold?: number; value?: number; position?: number; seen?: number };

/** A plan of a mason, exact keywords in an ad group each, and what 28 days of November told of them. */
async function walls(days: Record<string, Own>, of: { currency?: string } = {}) {
  const plan = await planOf(server, 'Walls');
  await takeIn(server, plan, WORDS.map((word, at) => `${word}\t${900 - at * 10}\t1.00`).join('\n'));
  await built(server, plan);
  const heads = await server.call(api.readHeads, { params: { plan } });
  const campaign = heads.campaignNames[heads.campaigns[0] ?? 0] ?? '';
  const groupOf = new Map(heads.keywords.map((keyword, at) => [keyword, heads.names[at] ?? '']));
  const lines = [
    'Day,Campaign,Ad group,Keyword,Match type,Impressions,Clicks,Cost,Conversions,Value,Position',
  ];
  for (let day = 1; day <= 28; day++)
    for (const [word, { clicks = 10, sold = 0, value = 0, position = 2, seen = 100 }] of Object.entries(days))
      lines.push(
        `2026-11-${String(day).padStart(2, '0')},${campaign},${groupOf.get(word)},${word},Exact,${seen},${clicks},${clicks}.00,${sold},${value},${position}`,
      );
  await bringReports(server, plan, { text: lines.join('\n'), ...of });
  return plan;
}
const edit = (plan: number, at: string, before: unknown, after: unknown) =>
  server.call(api.editFacts, { params: { plan }, body: { edits: [{ at, before, after }] } });
const ask = (plan: number, from: api.BidsFrom, list: api.ResultBidList = 'change') =>
  server.call(api.readResultBids, { params: { plan }, body: { from, list } });
async function rows(plan: number, from: api.BidsFrom, list: api.ResultBidList = 'change') {
  const { order } = await ask(plan, from, list);
  const found = await server.call(api.readResultBidRows, { params: { plan }, body: { from, rows: order } });
  return new Map(found.rows.map((row) => [row.text, row]));
}
const countsOf = ({ lists }: api.ResultBidsAnswer) =>
  Object.fromEntries(lists.flatMap((one) => (one.rows > 0 ? [[one.list, one.rows]] : [])));
async function take(
  plan: number,
  from: 'aim' | 'bands',
  more: { keys?: string[]; dry?: boolean; stamp?: string } = {},
) {
  const { stamp } = await ask(plan, from);
  return server.call(api.takeResultBids, {
    params: { plan },
    body: { from, keys: null, stamp, until: '2099-01-01', dry: false, ...more },
  });
}
describe('bids to an aim', () => {
  test('are what a click may cost, at most so far at a time, set as one change that is undone', async () => {
    const plan = await walls({
      'garden wall': { clicks: 40, sold: 4 },
      'brick wall': { clicks: 40, sold: 1 },
      'dry wall': { clicks: 0, sold: 0 },
      'wall tie': { clicks: 1, sold: 0 },
    });
    expect((await ask(plan, 'aim')).rest).toBe('no-aim');
    await edit(plan, 'targetCost', null, 12_000_000);
    await built(server, plan);
    const answer = await ask(plan, 'aim');
    expect(countsOf(answer)).toEqual({ change: 3, few: 1 });
    expect(answer.aim.cost).toBe(12_000_000);
    expect(answer.ready.map(({ conversions }) => conversions)).toEqual([28 * 5]);
    const changing = await rows(plan, 'aim');
    // A tenth of the clicks sell: one may cost 1.20, within 30% of what is bid.
    const garden = changing.get('garden wall') as api.ResultBid;
    expect(garden.expected).toBeGreaterThan(0.09);
    expect(garden.expected).toBeLessThan(0.1);
    expect([garden.clicks, garden.conversions]).toEqual([40 * 21, 4 * 21]);
    expect(garden.after).toBe(Math.round((garden.expected ?? 0) * 1_200) * 10_000);
    expect(garden.bound).toBe('none');
    const brick = changing.get('brick wall') as api.ResultBid;
    expect(brick.bound).toBe('most');
    expect(Math.abs(brick.after - brick.before * 0.7)).toBeLessThanOrEqual(5_000);
    const dry = (await rows(plan, 'aim', 'few')).get('dry wall');
    expect(dry?.expected).toBeGreaterThan(0);
    expect(dry?.after).toBe(dry?.before);

    expect((await take(plan, 'aim', { dry: true })).changed).toBe(3);
    expect((await rows(plan, 'aim')).size).toBe(3);
    await take(plan, 'aim', { keys: [brick.key] });
    await built(server, plan);
    // Until clicks have come it is not changed again.
    expect((await rows(plan, 'aim', 'soon')).get('brick wall')?.before).toBe(brick.after);
    const { order } = await server.call(api.readVerdicts, { params: { plan }, body: { list: 'rests' } });
    const body = { rows: order };
    const { rows: resting } = await server.call(api.readVerdictRows, { params: { plan }, body });
    expect(resting.map(({ act }) => act?.act)).toEqual([
      { kind: 'bid', from: 'aim', before: brick.before, after: brick.after },
    ]);
    await server.call(api.undoChange, { params: { plan } });
    await built(server, plan);
    expect((await rows(plan, 'aim')).get('brick wall')).toEqual(brick);
  });

  test('by a return need the value of a conversion; where nothing was sold, or in another currency, they rest', async () => {
    const valued = await walls({
      'garden wall': { sold: 1, value: 60 },
      'brick wall': { sold: 1, value: 20 },
    });
    await edit(valued, 'targetReturn', null, 50_000);
    await edit(valued, 'bids.most', 30, 900);
    const found = await rows(valued, 'aim');
    expect((found.get('garden wall')?.after ?? 0) / (found.get('brick wall')?.after ?? 1)).toBeCloseTo(3, 1);
    const unsold = await walls({ 'garden wall': { sold: 0 } });
    await edit(unsold, 'targetCost', null, 12_000_000);
    expect((await ask(unsold, 'aim')).rest).toBe('nothing-sold');
    const worthless = await walls({ 'garden wall': { sold: 1 } });
    await edit(worthless, 'targetReturn', null, 50_000);
    expect((await ask(worthless, 'aim')).rest).toBe('no-value');
  });

  test('that were not looked at are not set', async () => {
    const plan = await walls({ 'garden wall': { clicks: 40, sold: 4 } });
    await edit(plan, 'targetCost', null, 12_000_000);
    const { stamp } = await ask(plan, 'aim');
    await edit(plan, 'targetCost', 12_000_000, 24_000_000);
    await expect(take(plan, 'aim', { stamp })).rejects.toThrow('have changed since');
    await expect(
      server.call(api.takeResultBids, {
        params: { plan },
        body: {
          from: 'aim',
          keys: null,
          stamp: (await ask(plan, 'aim')).stamp,
          until: '2020-01-01',
          dry: false,
        },
      }),
    ).rejects.toThrow('still to come');
  });
});

test('a campaign whose settings have an aim of their own is held against that', async () => {
  const plan = await walls({ 'garden wall': { clicks: 40, sold: 4 } });
  await edit(plan, 'targetCost', null, 12_000_000);
  await edit(plan, 'bids.most', 30, 900);
  const before = (await rows(plan, 'aim')).get('garden wall');
  const { id } = await server.call(api.makeSettingSet, {
    params: { plan },
    body: { name: 'Dearer', from: null, campaigns: ['c'] },
  });
  const set = (after: number | null, was: number | null) =>
    server.call(api.editSettingSet, {
      params: { plan, set: String(id) },
      body: { edits: [{ at: 'targetCost', before: was, after }] },
    });
  await set(24_000_000, 12_000_000);
  await built(server, plan);
  const answer = await ask(plan, 'aim');
  expect([answer.aim.cost, answer.ownAims]).toEqual([12_000_000, 1]);
  const after = (await rows(plan, 'aim')).get('garden wall');
  expect((after?.after ?? 0) / (before?.after ?? 1)).toBeCloseTo(2, 1);
  // Without one it follows none.
  await set(null, 24_000_000);
  await built(server, plan);
  const none = await ask(plan, 'aim');
  expect([none.rest, countsOf(none)]).toEqual(['no-aim', {}]);
});

describe('bids by bands of positions', () => {
  test('go up by what each band says, where enough was seen', async () => {
    const plan = await walls({
      'garden wall': { position: 2 },
      'brick wall': { position: 5 },
      'dry wall': { position: 9 },
      'wall tie': { position: 9, seen: 10 },
    });
    expect(countsOf(await ask(plan, 'bands'))).toEqual({ change: 2, stay: 1, few: 1 });
    const found = await rows(plan, 'bands');
    const byOf = (word: string) => (found.get(word)?.after ?? 0) / (found.get(word)?.before ?? 1);
    expect(byOf('brick wall')).toBeCloseTo(1.2, 2);
    expect(byOf('dry wall')).toBeCloseTo(1.35, 2);
    await edit(
      plan,
      'bids.bands',
      [
        { from: 3.5, by: 20 },
        { from: 8, by: 35 },
      ],
      [{ from: 1, by: -10 }],
    );
    expect((await rows(plan, 'bands')).get('garden wall')?.after).toBeLessThan(
      found.get('brick wall')?.before ?? 0,
    );
    await expect(
      edit(
        plan,
        'bids.bands',
        [{ from: 1, by: -10 }],
        [
          { from: 2, by: 5 },
          { from: 2, by: 9 },
        ],
      ),
    ).rejects.toThrow('same position');
  });

  test('rest where no position is told, and where nothing is', async () => {
    const plan = await planOf(server, 'Bare');
    expect((await ask(plan, 'bands')).why).toEqual({ none: 'reports' });
    expect((await ask(plan, 'down')).rest).toBe('not-high');
  });
});

test('bids that start high are told before they come down, and after', async () => {
  const plan = await walls({ 'garden wall': {} });
  const layout = async (edits: api.FieldEdit[]) => {
    await server.call(api.editLayout, { params: { plan }, body: { edits } });
    await built(server, plan);
  };
  await layout([
    { at: 'startHigh.on', before: false, after: true },
    { at: 'startHigh.until', before: null, after: '2099-01-10' },
  ]);
  const before = await rows(plan, 'down');
  expect((await ask(plan, 'down')).high).toEqual({ on: true, until: '2099-01-10' });
  expect(before.size).toBe(WORDS.length);
  const one = before.get('brick wall') as api.ResultBid;
  expect(one.before).toBeGreaterThan(one.after);
  // The day has come: they stand where it was said that they would.
  await layout([{ at: 'startHigh.until', before: '2099-01-10', after: '2026-01-10' }]);
  expect((await ask(plan, 'down')).high?.on).toBe(false);
  expect((await rows(plan, 'down')).get('brick wall')).toEqual(one);
  const { rows: bids } = await server.call(api.readResultBidRows, {
    params: { plan },
    body: { from: 'down', rows: [0] },
  });
  expect(bids).toHaveLength(1);
});
