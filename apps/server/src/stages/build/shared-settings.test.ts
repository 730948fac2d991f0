import * as api from '@sprig/contracts';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import {
  built,
  followed,
  planOf,
  startTestServer,
  type TestServer,
  takeIn,
} from '../../testing/start-test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

async function planWithCampaign(): Promise<number> {
  const plan = await planOf(server);
  await takeIn(server, plan, 'drill\t100\nsaw\t50\n');
  await built(server, plan);
  return plan;
}
const setsOf = async (plan: number) =>
  (await server.call(api.listSettingSets, { params: { plan } })).sets.map(
    ({ id, name, delivery, shared }) => ({
      id,
      name,
      delivery,
      shared,
    }),
  );
const sharedOf = async (plan: number) =>
  (await server.call(api.listSharedSettings, { params: { plan } })).shared;
const make = async (plan: number, name: string) =>
  (
    await server.call(api.makeSettingSet, {
      params: { plan },
      body: { name, from: null, campaigns: ['c'] },
    })
  ).id;
const share = (plan: number, set: number, shared = true) =>
  server.call(api.shareSettingSet, { params: { plan, set }, body: { shared } });
const edit = (plan: number, set: number, at: string, before: unknown, after: unknown) =>
  server.call(api.editSettingSet, { params: { plan, set }, body: { edits: [{ at, before, after }] } });

describe('settings that belong to the workspace', () => {
  test('another plan takes them and follows; what is taken back is taken back there too', async () => {
    const [ours, theirs] = [await planWithCampaign(), await planWithCampaign()];
    const set = await make(ours, 'Weekends');
    await share(ours, set);
    const [kept] = await sharedOf(theirs);
    expect(kept).toMatchObject({ name: 'Weekends', plans: 1, here: null });
    const shared = kept?.id ?? 0;
    const taken = await server.call(api.takeSharedSettings, {
      params: { plan: theirs, shared },
      body: { campaigns: ['c'] },
    });
    expect(await setsOf(theirs)).toEqual([{ id: taken.id, name: 'Weekends', delivery: 'even', shared }]);
    expect(await sharedOf(ours)).toMatchObject([{ plans: 2, here: set }]);
    await edit(ours, set, 'delivery', 'even', 'fast');
    await followed(server);
    expect(await setsOf(theirs)).toMatchObject([{ delivery: 'fast' }]);
    await server.call(api.undoChange, { params: { plan: ours }, body: {} });
    await followed(server);
    expect(await setsOf(theirs)).toMatchObject([{ delivery: 'even' }]);
    // The change came from elsewhere: here there is only the taking to take back.
    const { undo } = await server.call(api.openPlan, { params: { plan: theirs } });
    expect(undo).toBe('Take settings of the workspace');
    // From the other side, too.
    await edit(theirs, taken.id, 'name', 'Weekends', 'Saturdays');
    await followed(server);
    expect(await setsOf(ours)).toMatchObject([{ name: 'Saturdays' }]);
  });

  test('what is changed of one campaign alone makes settings of its own; a plan can have them as its own again', async () => {
    const [ours, theirs] = [await planWithCampaign(), await planWithCampaign()];
    const set = await make(ours, 'Nights');
    await share(ours, set);
    const shared = (await sharedOf(ours)).find(({ name }) => name === 'Nights')?.id ?? 0;
    await server.call(api.takeSharedSettings, {
      params: { plan: theirs, shared },
      body: { campaigns: ['c'] },
    });
    await server.call(api.changeCampaigns, {
      params: { plan: ours },
      body: { values: [], settings: [{ campaigns: ['c'], values: { delivery: 'fast' } }], dry: false },
    });
    expect((await setsOf(ours)).map(({ delivery, shared: of }) => [delivery, of])).toEqual([
      ['even', shared],
      ['fast', null],
    ]);
    await share(theirs, (await setsOf(theirs))[0]?.id ?? 0, false);
    expect(await setsOf(theirs)).toMatchObject([{ shared: null }]);
    await edit(ours, set, 'delivery', 'even', 'fast');
    await followed(server);
    expect(await setsOf(theirs)).toMatchObject([{ delivery: 'even' }]);
    // The last plan that has them takes them along.
    await server.call(api.removeSettingSet, { params: { plan: ours, set }, body: {} });
    expect((await sharedOf(ours)).map(({ name }) => name)).not.toContain('Nights');
    await server.call(api.undoChange, { params: { plan: ours }, body: {} });
    expect((await sharedOf(ours)).find(({ name }) => name === 'Nights')).toMatchObject({ here: set });
  });

  test('refused: a name that the workspace has, making them away from under others, somebody else’s', async () => {
    const [ours, theirs] = [await planWithCampaign(), await planWithCampaign()];
    const set = await make(ours, 'Towns');
    await share(ours, set);
    const shared = (await sharedOf(ours)).find(({ name }) => name === 'Towns')?.id ?? 0;
    await server.call(api.takeSharedSettings, { params: { plan: theirs, shared }, body: { campaigns: [] } });
    const third = await planWithCampaign();
    await expect(share(third, await make(third, 'towns'))).rejects.toThrow(/called “towns”/);
    await expect(
      server.call(api.takeSharedSettings, { params: { plan: third, shared }, body: { campaigns: [] } }),
    ).rejects.toThrow(/another name/);
    await expect(
      server.call(api.undoChange, { params: { plan: ours }, body: { force: true } }),
    ).rejects.toThrow(/other plans use/);
    await expect(edit(ours, set, 'shared', shared, null)).rejects.toThrow();
    await expect(
      server.call(api.takeSharedSettings, {
        params: { plan: ours, shared: 99_999 },
        body: { campaigns: [] },
      }),
    ).rejects.toThrow(/no such set/);
  });
});
