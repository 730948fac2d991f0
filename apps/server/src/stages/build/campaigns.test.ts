import * as api from '@sprig/contracts';
import { noRewriting } from '@sprig/core/gather';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { z } from 'zod';
import { built, planOf, startTestServer, type TestServer, takeIn } from '../../testing/start-test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const sift = (...has: string[][]) => ({ has, not: [] });

/** A plan of two campaigns, for teeth and for gums, and the keys of these. */
async function dentist(): Promise<{ plan: number; teeth: string; gums: string }> {
  const plan = await planOf(server);
  await takeIn(server, plan, 'tooth filling\t90\t0.50\ntooth crown\t40\t--\ngum care\t30\t--');
  await server.call(api.makeThemes, {
    params: { plan },
    body: {
      parent: null,
      themes: [api.newThemeOf('Teeth', sift(['tooth'])), api.newThemeOf('Gums', sift(['gum']))] as never,
    },
  });
  const { layout } = await server.call(api.readLayout, { params: { plan } });
  await server.call(api.editLayout, {
    params: { plan },
    body: {
      edits: [
        { at: 'campaignBy', before: layout.campaignBy, after: 'theme' },
        { at: 'campaignName', before: layout.campaignName, after: '@theme' },
        { at: 'grouping', before: layout.grouping, after: { ...layout.grouping, kind: 'single' } },
      ],
    },
  });
  await built(server, plan);
  const { campaigns } = await view(plan);
  const keyOf = (name: string) => campaigns.find((one) => one.name === name)?.key ?? '';
  return { plan, teeth: keyOf('Teeth'), gums: keyOf('Gums') };
}

const revisionOf = async (plan: number) => (await server.call(api.openPlan, { params: { plan } })).revision;
const view = (plan: number) => server.call(api.viewBuild, { params: { plan } });
const setsOf = async (plan: number) =>
  (await server.call(api.listSettingSets, { params: { plan } })).sets.map(
    ({ name, networks, rotation, ends }) => ({
      name,
      display: networks.display,
      rotation,
      ends,
    }),
  );
const none = { values: [], settings: [], dry: false };
type Body = Partial<z.input<(typeof api.changeCampaigns)['body']>>;
const change = (plan: number, body: Body) =>
  server.call(api.changeCampaigns, { params: { plan }, body: { ...none, ...body } });
const everywhere = { search: true, partners: true, display: true };

describe('many campaigns at once', () => {
  test('get their budgets, names, statuses, labels and default bids as one change, undone as one', async () => {
    const { plan, teeth, gums } = await dentist();
    const before = await view(plan);
    const { held } = await change(plan, {
      values: [
        [teeth, 'budget', 50_000_000],
        [gums, 'budget', 25_000_000],
        [teeth, 'name', 'All teeth'],
        [gums, 'status', 'paused'],
        [gums, 'labels', 'spring, test'],
        [teeth, 'bid', 900_000],
      ],
    });
    expect(held).toBe(6);
    await built(server, plan);
    const { campaigns } = await view(plan);
    expect(
      campaigns.map(({ name, dailyBudget, defaultBid, status, labels, covered }) => ({
        name,
        dailyBudget,
        defaultBid,
        status,
        labels,
        covered,
      })),
    ).toEqual([
      {
        name: 'All teeth',
        dailyBudget: 50_000_000,
        defaultBid: 900_000,
        status: 'enabled',
        labels: [],
        covered: { budget: 20_000_000, bid: 400_000, name: 'Teeth' },
      },
      {
        name: 'Gums',
        dailyBudget: 25_000_000,
        defaultBid: 400_000,
        status: 'paused',
        labels: ['spring', 'test'],
        covered: { budget: 20_000_000, status: 'enabled' },
      },
    ]);
    const { keys } = await server.call(api.orderGroups, { params: { plan } });
    const { groups } = await server.call(api.pageGroups, { params: { plan }, body: { keys } });
    expect(groups.map(({ name, base, baseFrom }) => [name, base, baseFrom])).toEqual([
      ['tooth filling', 500_000, 'estimate'],
      ['tooth crown', 500_000, 'theme'],
      ['gum care', 400_000, 'default'],
    ]);
    await server.call(api.undoChange, { params: { plan }, body: { force: false } });
    await built(server, plan);
    expect((await view(plan)).campaigns).toEqual(before.campaigns);
  });

  test('change what they are set to and nobody else: settings are made, changed, shared or given back', async () => {
    const { plan, teeth, gums } = await dentist();
    const both = [{ campaigns: [teeth, gums], values: { networks: everywhere } }];
    const { sets: would } = await change(plan, { settings: both, dry: true });
    expect(would).toEqual([{ id: null, name: 'Settings', how: 'made', campaigns: 2 }]);
    expect(await setsOf(plan)).toEqual([]);
    await change(plan, { settings: both });
    expect(await setsOf(plan)).toEqual([{ name: 'Settings', display: true, rotation: 'best', ends: null }]);

    // Of one of the two that have them: it gets its own, though the build has not caught up.
    const { sets } = await change(plan, { settings: [{ campaigns: [gums], values: { rotation: 'even' } }] });
    expect(sets).toEqual([{ id: expect.any(Number), name: 'Gums', how: 'made', campaigns: 1 }]);
    await built(server, plan);
    const { campaigns } = await view(plan);
    expect(new Set(campaigns.map(({ settings }) => settings)).size).toBe(2);
    expect((await setsOf(plan)).map(({ name, rotation }) => [name, rotation])).toEqual([
      ['Settings', 'best'],
      ['Gums', 'even'],
    ]);

    // By its name, and by the brief's.
    const [first] = (await server.call(api.listSettingSets, { params: { plan } })).sets;
    await change(plan, { settings: [{ campaigns: [gums], set: first?.id ?? 0 }] });
    await built(server, plan);
    expect((await view(plan)).campaigns.map(({ settings }) => settings)).toEqual([first?.id, first?.id]);
    await expect(change(plan, { settings: [{ campaigns: [gums], set: 999 }] })).rejects.toThrow(
      'no such set',
    );

    const back = { networks: { search: true, partners: false, display: false }, rotation: 'best' as const };
    const { sets: given } = await change(plan, { settings: [{ campaigns: [gums], values: back }] });
    expect(given).toEqual([{ id: null, name: '', how: 'there', campaigns: 1 }]);
    await built(server, plan);
    expect((await view(plan)).campaigns.map(({ settings }) => settings === null)).toEqual([false, true]);
    await change(plan, { settings: [{ campaigns: [teeth], set: null }] });
    await built(server, plan);
    expect((await view(plan)).campaigns.map(({ settings }) => settings)).toEqual([null, null]);
  });

  test('are refused whole where something can’t be: no network, an end before the start, a campaign that is gone', async () => {
    const { plan, teeth } = await dentist();
    const refused = async (body: Body) => {
      const revision = await revisionOf(plan);
      await expect(change(plan, { values: [[teeth, 'budget', 70_000_000]], ...body })).rejects.toThrow();
      expect(await revisionOf(plan)).toBe(revision);
    };
    const settings = (values: api.SettingValues, campaign = teeth) => ({
      settings: [{ campaigns: [campaign], values }],
    });
    await refused(settings({ networks: { search: false, partners: false, display: false } }));
    await refused(settings({ starts: '2027-03-01', ends: '2027-02-01' }));
    await refused(settings({ rotation: 'even' }, 'ct999'));
    const made = await server.call(api.makeSettingSet, {
      params: { plan },
      body: { name: 'Own', from: null, campaigns: [] },
    });
    const edit = { at: 'networks.search', before: true, after: false };
    await expect(
      server.call(api.editSettingSet, { params: { plan, set: made.id }, body: { edits: [edit] } }),
    ).rejects.toThrow('At least one network');
    await refused({ values: [[teeth, 'budget', 0]] });
    await refused({ values: [[teeth, 'name', 'gums']] });
  });
});

describe('names of many', () => {
  const rewriting = (of: Partial<typeof noRewriting>) => ({ ...noRewriting, ...of });
  const rewrite = (plan: number, scope: object, of: Partial<typeof noRewriting>, dry = false) =>
    server.call(api.rewriteNames, {
      params: { plan },
      body: { scope, rewriting: rewriting(of), dry } as never,
    });
  const names = async (plan: number) => {
    const { keys } = await server.call(api.orderGroups, { params: { plan } });
    const { groups } = await server.call(api.pageGroups, { params: { plan }, body: { keys } });
    return groups.map(({ name }) => name);
  };

  test('of ad groups are found and replaced, shown before, held from then on, undone in one step', async () => {
    const { plan } = await dentist();
    const all = { all: 'groups' };
    const would = await rewrite(plan, all, { find: 'tooth', replace: 'dental', style: 'title' }, true);
    expect(would).toMatchObject({ names: 3, changed: 3, refusedCount: 0 });
    expect(would.samples).toContainEqual(expect.objectContaining({ before: 'gum care', after: 'Gum Care' }));
    expect(await names(plan)).toEqual(['tooth filling', 'tooth crown', 'gum care']);
    await rewrite(plan, all, { find: 'tooth', replace: 'dental', style: 'title' });
    await built(server, plan);
    expect(await names(plan)).toEqual(['Dental Filling', 'Dental Crown', 'Gum Care']);
    await server.call(api.undoChange, { params: { plan }, body: { force: false } });
    await built(server, plan);
    expect(await names(plan)).toEqual(['tooth filling', 'tooth crown', 'gum care']);
  });

  test('that would be the same stay and are told; the others change', async () => {
    const { plan } = await dentist();
    const { changed, refused } = await rewrite(plan, { all: 'groups' }, { find: ' .*', isPattern: true });
    expect(changed).toBe(2);
    expect(refused).toEqual([
      expect.objectContaining({
        before: 'tooth crown',
        after: 'tooth',
        why: 'Another one is called that, or becomes it.',
      }),
    ]);
    await built(server, plan);
    expect(await names(plan)).toEqual(['tooth', 'tooth crown', 'gum']);
  });

  test('of chosen campaigns; an expression that can’t be read is told', async () => {
    const { plan, teeth } = await dentist();
    await rewrite(plan, { keys: [teeth] }, { suffix: ' 2027' });
    await built(server, plan);
    expect((await view(plan)).campaigns.map(({ name }) => name)).toEqual(['Teeth 2027', 'Gums']);
    await expect(rewrite(plan, { keys: [teeth] }, { find: '(', isPattern: true }, true)).rejects.toThrow(
      'missing closing )',
    );
  });
});

describe('labels and final URLs of many', () => {
  const rewrite = (plan: number, of: 'labels' | 'urls', keys: string[], find: string, replace: string) =>
    server.call(api.rewriteNames, {
      params: { plan },
      body: { scope: { keys }, of, rewriting: { ...noRewriting, find, replace }, dry: false },
    });
  const groupsOf = async (plan: number) => {
    await built(server, plan);
    const { keys } = await server.call(api.orderGroups, { params: { plan } });
    return (await server.call(api.pageGroups, { params: { plan }, body: { keys } })).groups;
  };

  test('labels are found and replaced each by itself, of campaigns, ad groups and keyword rows', async () => {
    const { plan, teeth } = await dentist();
    const [first, second] = await groupsOf(plan);
    const row = first?.rows[0]?.key ?? '';
    const label = (rowKeys: string[], add: string[]) =>
      server.call(api.labelMany, { params: { plan }, body: { rowKeys, add, remove: [] } });
    await label([teeth, first?.key ?? '', row], ['spring 2026', 'test']);
    await label([second?.key ?? ''], ['summer']);
    await built(server, plan);
    const keys = [teeth, first?.key ?? '', second?.key ?? '', row];
    expect(await rewrite(plan, 'labels', keys, ' 2026', '')).toMatchObject({ names: 4, changed: 3 });
    const [one, other] = await groupsOf(plan);
    expect([one?.labels, other?.labels, one?.rows[0]?.labels]).toEqual([
      ['spring', 'test'],
      ['summer'],
      ['spring', 'test'],
    ]);
    expect((await view(plan)).campaigns.find(({ key }) => key === teeth)?.labels).toEqual(['spring', 'test']);
    // One of which nothing is left goes, and two that become the same are one.
    await rewrite(plan, 'labels', [teeth], 'test', 'spring');
    await rewrite(plan, 'labels', [second?.key ?? ''], 'summer', '');
    await built(server, plan);
    expect((await view(plan)).campaigns.find(({ key }) => key === teeth)?.labels).toEqual(['spring']);
    expect((await groupsOf(plan))[1]?.labels).toEqual([]);
  });

  test('final URLs of the ads of ad groups, and of keywords that lead to a page of their own; what is no address stays', async () => {
    const { plan } = await dentist();
    const { patterns } = await server.call(api.readPatterns, { params: { plan } });
    await server.call(api.editPattern, {
      params: { plan, pattern: patterns[0]?.id ?? 1 },
      body: {
        edits: [
          {
            at: 'fields.headline1.lines',
            before: patterns[0]?.body.fields.headline1.lines,
            after: ['@keyword'],
          },
        ],
      },
    });
    const [first] = await groupsOf(plan);
    const row = first?.rows[0]?.key ?? '';
    await server.call(api.holdEach, {
      params: { plan },
      body: { values: [[row, 'finalUrl', 'https://dentist.example/spring/offer']] },
    });
    await built(server, plan);
    const ads = async () => {
      await built(server, plan);
      const { keys } = await server.call(api.orderAds, { params: { plan } });
      return (await server.call(api.pageAds, { params: { plan }, body: { keys } })).ads;
    };
    const before = await ads();
    const own = before.find(({ group }) => group === first?.key);
    const url = own?.finalUrl ?? '';
    const replaced = await rewrite(plan, 'urls', [first?.key ?? '', row], '.example/', '.example/new/');
    expect(replaced).toMatchObject({ names: 2, changed: 2, refusedCount: 0 });
    const after = await ads();
    expect(after.find(({ key }) => key === own?.key)?.finalUrl).toBe(
      url.replace('.example/', '.example/new/'),
    );
    expect(after.filter(({ group }) => group !== first?.key).map(({ finalUrl }) => finalUrl)).toEqual(
      before.filter(({ group }) => group !== first?.key).map(({ finalUrl }) => finalUrl),
    );
    expect((await groupsOf(plan))[0]?.rows[0]?.heldUrl).toBe('https://dentist.example/new/spring/offer');
    const refused = await rewrite(plan, 'urls', [row], 'https://dentist.example/new/spring/offer', 'nowhere');
    expect(refused).toMatchObject({ changed: 0, refusedCount: 1 });
    expect(refused.refused[0]?.why).toContain('no web address');
  });
});

describe('extras of many', () => {
  test('are given to places and taken away from them, elsewhere as they were, as one step', async () => {
    const { plan, teeth, gums } = await dentist();
    const make = async (text: string, at: string[]) =>
      (await server.call(api.makeExtra, { params: { plan }, body: { at, body: { kind: 'callout', text } } }))
        .id;
    const [sunday, check, station] = [
      await make('Open on Sunday', [teeth, gums]),
      await make('Free check', [gums, 't99']),
      await make('By the station', []),
    ];
    const placesOf = async () =>
      (await server.call(api.listExtras, { params: { plan } })).extras.map(({ at }) => at);
    const place = (body: { places: string[]; give: number[]; take: number[] }) =>
      server.call(api.placeExtras, { params: { plan }, body });
    expect(await place({ places: [teeth, gums], give: [check, station], take: [sunday] })).toMatchObject({
      changed: 3,
    });
    expect(await placesOf()).toEqual([[], [gums, 't99', teeth], [teeth, gums]]);
    await server.call(api.undoChange, { params: { plan }, body: {} });
    expect(await placesOf()).toEqual([[teeth, gums], [gums, 't99'], []]);
    await expect(place({ places: ['no place'], give: [check], take: [] })).rejects.toThrow('no such place');
    await expect(place({ places: [teeth], give: [999], take: [] })).rejects.toThrow('no such extra');
    await expect(place({ places: [teeth], give: [], take: [] })).rejects.toThrow('Choose an extra');
  });
});
