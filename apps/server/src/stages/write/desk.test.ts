import * as api from '@sprig/contracts';
import { afterAll, beforeAll, beforeEach, describe, expect, test } from 'vitest';
import { execute } from '../../db/connect.ts';
import { shipping } from '../../testing/shipping.ts';
import {
  addActor,
  built,
  finished,
  startTestServer,
  type TestServer,
} from '../../testing/start-test-server.ts';
import { refusal } from '../../testing/visitor.ts';

let server: TestServer;
let standing: api.Standing = { role: 'owner', permissions: [] };
let plan: number;
let writer: TestServer['call'];
let judge: TestServer['call'];
let writerActor: number;
beforeAll(async () => {
  server = await startTestServer({ standing: () => standing });
  writerActor = await addActor(server, 'Tobin');
  writer = server.as(writerActor);
  judge = server.as(await addActor(server, 'Ada'));
});
afterAll(() => server.stop());
const { shippable, ship, check } = shipping(() => server);
beforeEach(async () => {
  standing = { role: 'owner', permissions: [] };
  await ask(false);
});

const ask = (asks: boolean) =>
  execute(server.database, 'update workspaces set asks_acceptance = $1 where id = $2', [
    asks,
    server.caller.workspace,
  ]);
const desk = (only: api.DeskOnly = 'all', filter = '') =>
  server.call(api.listDesk, { params: { plan }, query: { only, filter } });
const named = (groups: readonly api.DeskGroup[]) => groups.map(({ name, state }) => `${name}: ${state}`);
const seen = async (name: string) => {
  const group = (await desk()).groups.find((one) => one.name === name);
  if (!group) throw new Error(`no ad group ${name}`);
  return { key: group.key, stamp: group.stamp };
};
const over = async (...names: string[]) =>
  writer(api.handOver, {
    params: { plan },
    body: { which: { groups: await Promise.all(names.map(seen)) }, state: 'handed' },
  });
const say = async (state: 'accepted' | 'back' | 'open', name: string, reason = '') =>
  judge(api.judgeAds, { params: { plan }, body: { which: { groups: [await seen(name)] }, state, reason } });
/** Writes a headline of an ad group by hand. */
async function rewrite(name: string, text: string) {
  const { key } = await seen(name);
  await server.call(api.holdTexts, {
    params: { plan },
    body: { texts: [[`${key}/a1`, 'headline2', text]] },
  });
  await built(server, plan);
}

describe('the desk', () => {
  beforeAll(async () => {
    plan = await shippable();
  });

  test('has every ad group with its ads, and nothing to do where all fit', async () => {
    const { groups, counts } = await desk();
    expect(groups.map(({ name, ads, misfits }) => [name, ads, misfits])).toEqual([
      ['sea kayak', 1, 0],
      ['kayak hire', 1, 0],
      ['canoe', 1, 0],
      ['paddle board', 1, 0],
    ]);
    expect(counts).toMatchObject({ all: 4, todo: 0, handed: 0 });
    expect((await desk('all', 'HIRE')).groups.map(({ name }) => name)).toEqual(['kayak hire']);
  });

  test('shows those given to who asks first, with their day', async () => {
    const { key } = await seen('canoe');
    const { id } = await server.call(api.addNote, {
      params: { plan },
      body: { about: { kind: 'group', key }, text: 'More about rivers', for: writerActor, due: '2026-12-24' },
    });
    const { groups, counts } = await writer(api.listDesk, { params: { plan }, query: { only: 'todo' } });
    expect(counts.mine).toBe(1);
    expect(groups[0]).toMatchObject({
      name: 'canoe',
      given: { note: id, isYou: true, due: '2026-12-24', text: 'More about rivers' },
    });
    expect((await desk('mine')).total).toBe(0);
    await server.call(api.changeNote, { params: { plan, note: id }, body: { done: true } });
    expect((await writer(api.listDesk, { params: { plan }, query: { only: 'mine' } })).total).toBe(0);
  });

  test('what is handed over waits, is accepted or sent back, and is open again once it says something else', async () => {
    expect(await over('canoe', 'sea kayak')).toEqual({ moved: 2, left: 0 });
    expect(named((await desk('handed')).groups)).toEqual(['sea kayak: handed', 'canoe: handed']);
    await say('accepted', 'canoe');
    await say('back', 'sea kayak', 'Name the bay');
    const [back] = (await desk('todo')).groups;
    expect(back).toMatchObject({ name: 'sea kayak', state: 'back', reason: 'Name the bay', by: 'Ada' });
    await rewrite('canoe', 'Down The River');
    expect((await desk()).groups.find(({ name }) => name === 'canoe')).toMatchObject({
      state: 'open',
      hasChanged: true,
    });
    await rewrite('sea kayak', 'Around The Bay');
    // It is sent back until it is handed over once more.
    expect((await desk('back')).groups[0]).toMatchObject({ state: 'back', hasChanged: true });
    await over('sea kayak');
    expect(named((await desk('handed')).groups)).toEqual(['sea kayak: handed']);
  });

  test('accepts nothing that says something else than was seen', async () => {
    const before = await seen('kayak hire');
    await rewrite('kayak hire', 'By The Hour');
    const answer = await judge(api.judgeAds, {
      params: { plan },
      body: { which: { groups: [before] }, state: 'accepted', reason: '' },
    });
    expect(answer).toEqual({ moved: 0, left: 1 });
    expect((await desk()).groups.find(({ name }) => name === 'kayak hire')?.state).toBe('open');
  });

  test('of a whole list only what was handed over is accepted', async () => {
    await over('canoe', 'kayak hire');
    await rewrite('kayak hire', 'For A Day');
    const answer = await judge(api.judgeAds, {
      params: { plan },
      body: { which: { all: { only: 'all', filter: '' } }, state: 'accepted', reason: '' },
    });
    expect(answer).toEqual({ moved: 2, left: 0 });
    expect(named((await desk()).groups).sort()).toEqual([
      'canoe: accepted',
      'kayak hire: open',
      'paddle board: open',
      'sea kayak: accepted',
    ]);
  });

  test('is judged by those who may approve, and handed over by those who may write', async () => {
    const which = { groups: [await seen('paddle board')] };
    const judging = () =>
      judge(api.judgeAds, { params: { plan }, body: { which, state: 'accepted', reason: '' } });
    const handing = () => writer(api.handOver, { params: { plan }, body: { which, state: 'handed' } });
    standing = { role: 'writer', permissions: ['ship'] };
    expect(await refusal(judging())).toMatchObject({ status: 403 });
    expect(await refusal(handing())).toBeNull();
    standing = { role: 'reader', permissions: ['approve'] };
    expect(await refusal(handing())).toMatchObject({ status: 403 });
    expect(await refusal(judging())).toBeNull();
    const back = judge(api.judgeAds, { params: { plan }, body: { which, state: 'back', reason: '  ' } });
    expect(await refusal(back)).toMatchObject({ status: 400, at: 'reason' });
  });

  test('is where a writer writes ads by hand, and nothing else', async () => {
    const { key } = await seen('paddle board');
    const hold = (rowKey: string, field: 'headline2' | 'status', value: string) =>
      writer(api.holdValue, { params: { plan }, body: { rowKey, field, value, before: null } });
    const letGo = (rowKey: string, field: string) =>
      writer(api.letGo, { params: { plan }, body: { places: [{ rowKey, field }] } });
    standing = { role: 'writer', permissions: [] };
    await hold(`${key}/a1`, 'headline2', 'Stand Up');
    await letGo(`${key}/a1`, 'headline2');
    const refused = [
      hold(key, 'status', 'paused'),
      letGo(key, 'status'),
      writer(api.holdEach, {
        params: { plan },
        body: {
          values: [
            [`${key}/a1`, 'status', 'paused'],
            [key, 'status', 'paused'],
          ],
        },
      }),
      writer(api.holdMany, { params: { plan }, body: { rowKeys: [key], field: 'status', value: 'paused' } }),
      writer(api.labelMany, { params: { plan }, body: { rowKeys: [key], add: ['x'], remove: [] } }),
    ];
    for (const one of await Promise.all(refused.map(refusal))) expect(one).toMatchObject({ status: 403 });
    standing = { role: 'reader', permissions: ['approve'] };
    expect(await refusal(hold(`${key}/a1`, 'headline2', 'Mine'))).toMatchObject({ status: 403 });
  });

  test('hands over no ads that do not fit, and no ad groups without ads', async () => {
    await rewrite('canoe', 'A headline that is much longer than any engine would ever take');
    const { groups, counts } = await desk('todo');
    expect(groups.map(({ name, misfits }) => [name, misfits])).toContainEqual(['canoe', 1]);
    expect(counts.todo).toBeGreaterThan(0);
    expect(await over('canoe')).toEqual({ moved: 0, left: 1 });
    expect(
      await writer(api.handOver, {
        params: { plan },
        body: { which: { groups: [{ key: 'k999', stamp: '' }] }, state: 'handed' },
      }),
    ).toEqual({ moved: 0, left: 1 });
  });
});

describe('where ads ship only once they are accepted', () => {
  beforeAll(async () => {
    plan = await shippable();
  });
  const shipIt = (more: object = {}) => ship(plan, 'plain', more);

  test('what nobody has accepted stops the shipment, and is a finding that names it', async () => {
    await ask(true);
    await over('canoe');
    await say('accepted', 'canoe');
    const view = await check(plan);
    const found = view.findings.find(({ rule }) => rule === 'ads-not-accepted');
    expect(found).toMatchObject({ severity: 'blocker', count: 3, outlet: null });
    const blockers = async () => (await server.call(api.openPlan, { params: { plan } })).counts.blockers;
    expect(await blockers()).toBe(1);
    await ask(false);
    expect(await blockers()).toBe(0);
    await ask(true);
    expect(found?.samples.map(({ text }) => text)).toEqual(['sea kayak', 'kayak hire', 'paddle board']);
    const all = await server.call(api.listFinding, {
      params: { plan },
      query: { rule: 'ads-not-accepted', field: '', outlet: '', from: 0 },
    });
    expect(all.total).toBe(3);
    await expect(shipIt()).rejects.toThrow('The ads of sea kayak and 2 other ad groups are not accepted');
    expect((await desk('todo')).counts.todo).toBe(3);
  });

  test('sheets without ads ship all the same', async () => {
    await ask(true);
    expect((await shipIt({ sheets: ['campaigns', 'groups', 'keywords'] })).files.length).toBe(3);
  });

  test('all that is accepted ships, until it says something else', async () => {
    await ask(true);
    await over('sea kayak', 'kayak hire', 'paddle board');
    const { moved } = await judge(api.judgeAds, {
      params: { plan },
      body: { which: { all: { only: 'handed', filter: '' } }, state: 'accepted', reason: '' },
    });
    expect(moved).toBe(3);
    expect((await check(plan)).findings.map(({ rule }) => rule)).not.toContain('ads-not-accepted');
    expect((await shipIt()).files.length).toBeGreaterThan(3);
    await rewrite('paddle board', 'Stand Up And Go');
    await expect(shipIt()).rejects.toThrow('The ads of paddle board are not accepted');
    expect((await server.call(api.openPlan, { params: { plan } })).counts.blockers).toBe(1);
    await ask(false);
    expect((await shipIt()).files.length).toBeGreaterThan(3);
  });

  test('a part of which all is accepted ships', async () => {
    await ask(true);
    const part = async (...names: string[]) => {
      const { job } = await server.call(api.startShip, {
        params: { plan },
        body: {
          outlet: 'plain',
          format: 'csv',
          what: 'all',
          sheets: ['ads'],
          part: {
            campaigns: [],
            groups: (await Promise.all(names.map(seen))).map(({ key }) => key),
            labels: [],
            kinds: ['ad'],
          },
        } as never,
      });
      const { status, failure } = await finished(server, plan, job);
      return [status, failure?.code ?? null];
    };
    expect(await part('canoe')).toEqual(['done', null]);
    expect(await part('canoe', 'paddle board')).toEqual(['failed', 'blocked']);
  });

  test('is asked by owners alone, and told to the windows of all plans', async () => {
    standing = { role: 'builder', permissions: ['ship', 'approve'] };
    expect(await refusal(server.call(api.askAcceptance, { body: { asks: true } }))).toMatchObject({
      status: 403,
    });
    standing = { role: 'owner', permissions: [] };
    await server.call(api.askAcceptance, { body: { asks: true } });
    expect((await server.call(api.listPeople)).asksAcceptance).toBe(true);
    expect((await desk()).asksAcceptance).toBe(true);
  });
});
