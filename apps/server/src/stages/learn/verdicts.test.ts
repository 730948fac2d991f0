import * as api from '@sprig/contracts';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { execute } from '../../db/connect.ts';
import { bringReports } from '../../testing/reports.ts';
import { built, planOf, startTestServer, type TestServer, takeIn } from '../../testing/start-test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const M = 1_000_000;
const WORDS = [
  'teapot',
  'green tea',
  'tea tray',
  'tea towel',
  'tea caddy',
  'tea strainer',
  'tea cosy',
  'tea urn',
];

/** A plan with an ad group for each of some keywords, and what reports call them. */
async function teas(words: readonly string[] = WORDS) {
  const plan = await planOf(server, 'Teas');
  await takeIn(server, plan, words.map((word, at) => `${word}\t${900 - at * 10}\t0.60`).join('\n'));
  await built(server, plan);
  const heads = await server.call(api.readHeads, { params: { plan } });
  const campaign = heads.campaignNames[heads.campaigns[0] ?? 0] ?? '';
  const groupOf = new Map(heads.keywords.map((keyword, at) => [keyword, heads.names[at] ?? '']));
  return { plan, campaign, groupOf };
}

type Day = {
  seen?: number;
  clicks?: number;
  cost?: number;
  sold?: (day: number) => number;
  position?: number;
};
/** What each keyword had on each of 28 days of November. */
function report(campaign: string, groupOf: ReadonlyMap<string, string>, days: Record<string, Day>): string {
  const lines = ['Day,Campaign,Ad group,Keyword,Match type,Impressions,Clicks,Cost,Conversions,Position'];
  for (let day = 1; day <= 28; day++)
    for (const [word, of] of Object.entries(days)) {
      const { seen = 200, clicks = 20, cost = 10, sold = () => 1, position = 2 } = of;
      const date = `2026-11-${String(day).padStart(2, '0')}`;
      lines.push(
        `${date},${campaign},${groupOf.get(word)},${word},Exact,${seen},${clicks},${cost}.00,${sold(day)},${position}`,
      );
    }
  return lines.join('\n');
}

const bring = (plan: number, text: string) => bringReports(server, plan, { text });
const lists = async (plan: number, by: api.JudgedBy = 'keyword', list: api.VerdictList | null = null) =>
  server.call(api.readVerdicts, { params: { plan }, body: { by, list } });
async function rowsIn(plan: number, list: api.VerdictList, by: api.JudgedBy = 'keyword') {
  const { order } = await lists(plan, by, list);
  const { rows } = await server.call(api.readVerdictRows, { params: { plan }, body: { by, rows: order } });
  return rows;
}
const countsOf = ({ lists: all }: api.VerdictsAnswer) =>
  Object.fromEntries(all.flatMap(({ list, rows }) => (rows > 0 ? [[list, rows]] : [])));
const aimAt = (plan: number, targetCost: number | null) =>
  server.call(api.editFacts, {
    params: { plan },
    body: { edits: [{ at: 'targetCost', before: null, after: targetCost }] },
  });
const act = (plan: number, body: Omit<Parameters<typeof bodyOf>[0], 'by'> & { by?: api.JudgedBy }) =>
  server.call(api.actOnVerdicts, { params: { plan }, body: bodyOf(body) });
const bodyOf = (body: {
  keys: string[];
  act: api.VerdictAct;
  until?: string;
  dry?: boolean;
  by?: api.JudgedBy;
}) => ({
  by: 'keyword' as const,
  until: '2099-01-01',
  ...body,
});

/** One of each: what never pays, what stands too low, what pays, and others as usual. */
async function mixed() {
  const { plan, campaign, groupOf } = await teas();
  const days: Record<string, Day> = Object.fromEntries(WORDS.map((word) => [word, {}]));
  days['green tea'] = { sold: () => 0 };
  days['tea tray'] = { position: 5, clicks: 8 };
  days['tea urn'] = { sold: () => 5 };
  await bring(plan, report(campaign, groupOf, days));
  return { plan, groupOf };
}

describe('verdicts', () => {
  test('rest on what reports tell; those that need an aim say nothing without one', async () => {
    const { plan } = await mixed();
    const bare = await lists(plan);
    expect(bare).toMatchObject({
      range: { from: '2026-11-01', to: '2026-11-28' },
      settledTo: '2026-11-21',
      grain: 'keyword/day',
      why: null,
      aim: { cost: null, return: null },
      notMet: 0,
    });
    expect(countsOf(bare)).not.toHaveProperty('never-pays');
    expect(countsOf(bare)).toHaveProperty('not-sold');
    // The first that asks for something opens.
    expect(bare.list).toBe('not-sold');
    expect(bare.order).toHaveLength(1);
    await aimAt(plan, 12 * M);
    const aimed = await lists(plan);
    expect(aimed.aim.cost).toBe(12 * M);
    expect(countsOf(aimed)).toEqual({ 'never-pays': 1, 'too-low': 1, pays: 1, fine: 5 });
    const [never] = await rowsIn(plan, 'never-pays');
    // Of 28 days 21 are settled: £210 spent, against the £12 that one may cost.
    expect(never).toMatchObject({
      names: ['green tea', 'exact', expect.any(String), expect.any(String)],
      stake: 210 * M,
      evidence: { own: 210 * M, against: 12 * M, by: 'aim' },
      clicks: 560,
      conversions: 0,
      status: 'enabled',
      act: null,
    });
    expect(never?.bid).toBeGreaterThan(0);
    const [low] = await rowsIn(plan, 'too-low');
    expect(low).toMatchObject({
      names: ['tea tray', 'exact', expect.any(String), expect.any(String)],
      position: 5,
    });
    expect((await lists(plan, 'group', 'pays')).order).toHaveLength(1);
    expect((await lists(plan, 'ad')).why).toEqual({ none: 'dimension', missing: ['ad'] });
  });

  test('are acted on many at once, undone in one step, and rest until their day', async () => {
    const { plan } = await mixed();
    await aimAt(plan, 12 * M);
    const [low] = await rowsIn(plan, 'too-low');
    const keys = [low?.key ?? ''];
    const raise = { kind: 'raise', by: 20 } as const;
    const dry = await act(plan, { keys, act: raise, dry: true });
    expect(dry.changed).toBe(1);
    expect(dry.samples[0]).toMatchObject({ text: 'tea tray', before: low?.bid });
    expect(countsOf(await lists(plan))).not.toHaveProperty('rests');

    await act(plan, { keys, act: raise });
    await built(server, plan);
    expect(countsOf(await lists(plan))).toEqual({ 'never-pays': 1, pays: 1, fine: 5, rests: 1 });
    const [resting] = await rowsIn(plan, 'rests');
    expect(resting).toMatchObject({
      bid: dry.samples[0]?.after,
      act: {
        verdict: 'too-low',
        act: raise,
        until: '2099-01-01',
        was: { days: 28, impressions: 5_600, clicks: 224 },
        since: { days: 0, clicks: 0 },
      },
    });
    // No click has come since: it is not raised again.
    expect(await act(plan, { keys, act: raise, dry: true })).toMatchObject({ changed: 0, tooSoon: 1 });
    const { changes } = await server.call(api.planHistory, { params: { plan } });
    expect(changes[0]?.label).toBe('Raise 1 bid by 20%: too low');
    await server.call(api.undoChange, { params: { plan }, body: { force: false } });
    await built(server, plan);
    expect(countsOf(await lists(plan))).toHaveProperty('too-low', 1);

    const [never] = await rowsIn(plan, 'never-pays');
    await act(plan, { keys: [never?.key ?? ''], act: { kind: 'pause' } });
    await built(server, plan);
    expect((await rowsIn(plan, 'rests'))[0]).toMatchObject({ status: 'paused', verdict: 'never-pays' });
    // What is paused already is not paused again.
    expect((await act(plan, { keys: [never?.key ?? ''], act: { kind: 'pause' } })).changed).toBe(0);
    // Its day has come: it is looked at again, with what was counted since.
    await execute(
      server.database,
      `update verdict_acts set body = body || '{"on": "2026-11-20", "until": "2026-11-21"}' where plan_id = $1`,
      [plan],
    );
    await aimAt(plan, 12 * M).catch(() => null);
    await server.call(api.editFacts, {
      params: { plan },
      body: { edits: [{ at: 'category', before: '', after: 'Tea' }] },
    });
    const [again] = await rowsIn(plan, 'again');
    expect(again?.act?.since).toMatchObject({ days: 9, clicks: 180, cost: 90 * M, conversions: 0 });
  });

  test('raise bids to what reaches a position, and say of which none is known', async () => {
    const { plan, campaign, groupOf } = await teas();
    await bring(plan, report(campaign, groupOf, { teapot: { position: 6 }, 'green tea': { position: 6 } }));
    const low = await rowsIn(plan, 'too-low');
    const keys = low.map(({ key }) => key);
    const aim = { kind: 'aim', position: 2 } as const;
    // Their CPC is 0.60, and that is what position 2 costs.
    const done = await act(plan, { keys, act: aim });
    expect([done.changed, done.outOfReach]).toEqual([2, 0]);
    expect(done.samples.map(({ after }) => after)).toEqual([600_000, 600_000]);
    await server.call(api.undoChange, { params: { plan } });
    const { layout } = await server.call(api.readLayout, { params: { plan } });
    const { ceiling } = layout.ladder;
    await server.call(api.editLayout, {
      params: { plan },
      body: { edits: [{ at: 'ladder.ceiling', before: ceiling, after: 550_000 }] },
    });
    await built(server, plan);
    expect(await act(plan, { keys, act: aim, dry: true })).toMatchObject({
      changed: 0,
      outOfReach: 2,
    });
  });

  test('of ad groups raise all their bids; ads have none', async () => {
    const { plan } = await mixed();
    const [low] = await rowsIn(plan, 'too-low', 'group');
    const done = await act(plan, { by: 'group', keys: [low?.key ?? ''], act: { kind: 'raise', by: 10 } });
    expect(done.changed).toBeGreaterThan(0);
    expect(countsOf(await lists(plan, 'group'))).toHaveProperty('rests', 1);
    await expect(act(plan, { by: 'ad', keys: ['x'], act: { kind: 'raise', by: 10 } })).rejects.toThrow();
    await expect(act(plan, { keys: ['x'], act: { kind: 'pause' }, until: '2020-01-01' })).rejects.toThrow(
      /still to come/,
    );
  });

  test('say that it is too early, and how long it will be; of what is gone nothing is said', async () => {
    const { plan, campaign, groupOf } = await teas(['teapot', 'green tea']);
    await bring(
      plan,
      report(campaign, groupOf, { teapot: { seen: 10, clicks: 1, cost: 1, sold: () => 0 } }).replace(
        /teapot,Exact/,
        'kettle,Exact',
      ),
    );
    const answer = await lists(plan);
    expect(countsOf(answer)).toEqual({ 'too-early': 1 });
    expect(answer.notMet).toBe(1);
    const [early] = await rowsIn(plan, 'too-early');
    // 230 of 500 impressions are missing; 10 came a day on 27 of 28 days.
    expect(early).toMatchObject({ evidence: { more: { of: 'impressions', count: 230 } }, days: 24 });
    const other = await planOf(server);
    expect((await lists(other)).why).toEqual({ none: 'reports' });
    expect(await rowsIn(other, 'fine')).toEqual([]);
    await expect(act(other, { keys: ['k1:e'], act: { kind: 'pause' } })).rejects.toThrow(/No report/);
  });
});
