import * as api from '@sprig/contracts';
import { setOf } from '@sprig/core/match';
import { asMicros } from '@sprig/core/money';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { execute, select } from '../../db/connect.ts';
import { rebuild } from '../../plan/rebuild/index.ts';
import { rebuildForTheDay } from '../../plan/rebuild/rebuild-stale.ts';
import {
  built,
  finished,
  planOf,
  startTestServer,
  type TestServer,
  takeIn,
} from '../../testing/start-test-server.ts';
import { costBeyond } from './forecasts.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const LIST = [
  'kayak\t900\t0.50',
  'kayak hire\t400\t0.70',
  'kayak hire wrenport\t40\t0.80',
  'cheap kayak hire\t60\t0.60',
  'canoe\t300\t0.40',
  'canoe hire\t90\t0.50',
  'paddle song\t10\t--',
].join('\n');
const sift = (...has: string[][]) => ({ has, not: [] });

/** A plan with three themes and a keyword that none has. */
async function themedPlan(): Promise<number> {
  const plan = await planOf(server);
  await takeIn(server, plan, LIST);
  await server.call(api.makeThemes, {
    params: { plan },
    body: {
      parent: null,
      themes: [
        api.newThemeOf('Kayak hire', sift(['kayak'], ['hire'])),
        api.newThemeOf('Kayaks', sift(['kayak'])),
        api.newThemeOf('Canoes', sift(['canoe'])),
      ] as never,
    },
  });
  await built(server, plan);
  return plan;
}

type Edits = { at: string; after: unknown }[];
async function edit(plan: number, edits: Edits) {
  const { layout } = await server.call(api.readLayout, { params: { plan } });
  const beforeOf = (at: string) =>
    at.split('.').reduce<unknown>((value, step) => (value as Record<string, unknown>)[step], layout);
  await server.call(api.editLayout, {
    params: { plan },
    body: { edits: edits.map(({ at, after }) => ({ at, before: beforeOf(at), after })) },
  });
  await built(server, plan);
}
const view = (plan: number) => server.call(api.viewBuild, { params: { plan } });
const lane = (id: number, name: string, ...types: Parameters<typeof setOf>[0]) => ({
  id,
  name,
  types: setOf(types),
  step: 10_000,
  takes: { searchesFrom: null, sources: [], stages: [] },
});
const threeLanes = [
  { at: 'lanes', after: [lane(1, 'Broad', 'broad'), lane(2, 'Phrase', 'phrase'), lane(3, 'Exact', 'exact')] },
  { at: 'spread', after: 'by-group' },
];
async function groupsOf(plan: number) {
  const { keys } = await server.call(api.orderGroups, { params: { plan } });
  return (await server.call(api.pageGroups, { params: { plan }, body: { keys } })).groups;
}
const pageOf = (plan: number, group: string) => server.call(api.readGroup, { params: { plan, group } });
async function themeNamed(plan: number, name: string): Promise<number> {
  const { themes } = await server.call(api.readSort, { params: { plan } });
  return themes.find((theme) => theme.name === name)?.id ?? 0;
}
const hold = (
  plan: number,
  rowKey: string,
  field: api.HoldField,
  value: string | number,
  before: unknown = null,
) => server.call(api.holdValue, { params: { plan }, body: { rowKey, field, value, before } as never });
const dump = async (plan: number) =>
  Promise.all(
    ['campaigns', 'ad_groups', 'keyword_rows', 'outlet_groups', 'ads', 'fences'].map((table) =>
      select(server.database, `select * from ${table} where plan_id = $1 order by key`, [plan]),
    ),
  );

describe('from themes to groups', () => {
  test('an ad group per theme, its lead the most searched, the unplaced by themselves', async () => {
    const plan = await themedPlan();
    const groups = await groupsOf(plan);
    expect(
      groups.map(({ name, keyword, keywords, searches, baseFrom }) => [
        name,
        keyword,
        keywords,
        searches,
        baseFrom,
      ]),
    ).toEqual([
      ['paddle song', 'paddle song', 1, 10, 'default'],
      ['Kayak hire', 'kayak hire', 3, 500, 'theme'],
      ['Kayaks', 'kayak', 1, 900, 'theme'],
      ['Canoes', 'canoe', 2, 390, 'theme'],
    ]);
    const { campaigns } = await view(plan);
    expect(campaigns).toMatchObject([{ key: 'c', groups: 4, keywords: 7, rows: 14, searches: 1_800 }]);
    expect(campaigns[0]?.largest.map(({ name }) => name)).toEqual([
      'Kayaks',
      'Kayak hire',
      'Canoes',
      'paddle song',
    ]);
  });

  test('renaming a theme writes its group, its place and its ads alone', async () => {
    const plan = await themedPlan();
    const canoes = await themeNamed(plan, 'Canoes');
    await server.call(api.editTheme, {
      params: { plan, theme: canoes },
      body: { edits: [{ at: 'name', before: 'Canoes', after: 'Boats' }] },
    });
    await built(server, plan);
    const [last] = await select<{ result: { written: number; removed: number } }>(
      server.database,
      `select result from jobs where plan_id = $1 and kind = 'rebuild' and status = 'done' order by ended_at desc limit 1`,
      [plan],
    );
    expect(last?.result).toMatchObject({ written: 2, removed: 0 });
    expect((await groupsOf(plan)).map(({ name }) => name)).toContain('Boats');
  });

  test('rebuilding again changes nothing, also with fences, lanes and holds', async () => {
    const plan = await themedPlan();
    await edit(plan, [...threeLanes, { at: 'fences', after: 'exact' }]);
    const before = await dump(plan);
    await execute(server.database, 'update plans set built_revision = 0 where id = $1', [plan]);
    expect(await rebuild({ ...server.caller, plan })).toMatchObject({ written: 0, removed: 0 });
    await execute(server.database, 'update ad_groups set made_of = 0, hash = 0 where plan_id = $1', [plan]);
    await execute(server.database, 'update build_states set fenced_for = 0 where plan_id = $1', [plan]);
    await execute(server.database, 'update plans set built_revision = 0 where id = $1', [plan]);
    await rebuild({ ...server.caller, plan });
    expect(await dump(plan)).toEqual(before);
  });

  test('undo gives back exactly what was built, and redo the other', async () => {
    const plan = await themedPlan();
    const before = await dump(plan);
    await edit(plan, [...threeLanes, { at: 'fences', after: 'tight' }]);
    const after = await dump(plan);
    expect(after).not.toEqual(before);
    await server.call(api.undoChange, { params: { plan }, body: {} });
    await built(server, plan);
    expect(await dump(plan)).toEqual(before);
    await server.call(api.redoChange, { params: { plan }, body: {} });
    await built(server, plan);
    expect(await dump(plan)).toEqual(after);
  });

  test('a summary says what a rebuild did', async () => {
    const plan = await themedPlan();
    await edit(plan, [{ at: 'ladder.steps.exact', after: 20_000 }]);
    expect((await view(plan)).summary).toEqual({ newGroups: 0, goneGroups: 0, bids: 7, held: 0 });
    await edit(plan, [{ at: 'unplaced', after: 'out' }]);
    expect((await view(plan)).summary).toMatchObject({ newGroups: 0, goneGroups: 1 });
  });

  test('parts are numbered, and stay where they are when the theme grows', async () => {
    const plan = await planOf(server);
    await takeIn(
      server,
      plan,
      Array.from({ length: 30 }, (_, n) => `kayak ${String.fromCharCode(97 + (n % 26))}${n}`).join('\n'),
    );
    await server.call(api.makeThemes, {
      params: { plan },
      body: { parent: null, themes: [api.newThemeOf('Kayaks', sift(['kayak']))] as never },
    });
    await edit(plan, [{ at: 'keywordsPerGroup', after: 10 }]);
    const stood = await select<{ keyword: number; group_key: string }>(
      server.database,
      'select distinct keyword_id as keyword, group_key from keyword_rows where plan_id = $1 order by 1',
      [plan],
    );
    await takeIn(server, plan, 'kayak aa\nkayak zz\n');
    await built(server, plan);
    const now = await select<{ keyword: number; group_key: string }>(
      server.database,
      'select distinct keyword_id as keyword, group_key from keyword_rows where plan_id = $1 order by 1',
      [plan],
    );
    expect(now.slice(0, 30)).toEqual(stood);
    expect((await groupsOf(plan)).map(({ name, keywords }) => [name, keywords])).toEqual([
      ['Kayaks', 10],
      ['Kayaks 2', 10],
      ['Kayaks 3', 10],
      ['Kayaks 4', 2],
    ]);
  });
});

describe('what is held', () => {
  test('survives other lanes, other themes and other grouping; what has lost its row is set aside', async () => {
    const plan = await themedPlan();
    const group = (await groupsOf(plan)).find(({ name }) => name === 'Kayak hire')!;
    const row = (await pageOf(plan, group.key)).rows.find(
      ({ text, type }) => text === 'kayak hire' && type === 'exact',
    )!;
    await hold(plan, row.key, 'bid', 910_000);
    await hold(plan, group.key, 'name', 'Our hire');
    await hold(plan, 'c', 'budget', 33_000_000);
    await edit(plan, threeLanes);
    const { keys } = await server.call(api.orderRows, { params: { plan }, query: { only: 'held' } });
    const { rows } = await server.call(api.pageRows, { params: { plan }, body: { keys } });
    expect(rows).toMatchObject([
      { key: row.key, bid: 910_000, held: true, ruleBid: 1_010_000, groupName: 'Kayak hire · Exact' },
    ]);
    expect((await view(plan)).campaigns[0]).toMatchObject({
      dailyBudget: 33_000_000,
      covered: { budget: 20_000_000 },
    });
    const { holds } = await server.call(api.listHolds, { params: { plan } });
    expect(holds.map(({ rowKey, orphan }) => [rowKey, orphan])).toEqual([
      [row.key, false],
      [group.key, true],
      ['c', false],
    ]);
    await edit(plan, [{ at: 'spread', after: 'together' }]);
    expect((await groupsOf(plan)).map(({ name }) => name)).toContain('Our hire');
  });

  test('statuses and labels of many rows in one change', async () => {
    const plan = await themedPlan();
    const keys = (await groupsOf(plan)).map(({ key }) => key);
    const { held } = await server.call(api.holdMany, {
      params: { plan },
      body: { rowKeys: keys.slice(0, 3), field: 'status', value: 'paused' },
    });
    expect(held).toBe(3);
    const label = (rowKeys: string[], add: string[], remove: string[] = []) =>
      server.call(api.labelMany, { params: { plan }, body: { rowKeys, add, remove } });
    expect((await label(keys, ['spring', 'test'])).held).toBe(4);
    await built(server, plan);
    expect((await groupsOf(plan)).map(({ status }) => status)).toEqual([
      'paused',
      'paused',
      'paused',
      'enabled',
    ]);
    expect((await view(plan)).labels).toEqual(['spring', 'test']);
    const { keys: labelled } = await server.call(api.orderGroups, {
      params: { plan },
      query: { label: 'test', only: 'paused' },
    });
    expect(labelled).toHaveLength(3);

    // Given and taken away, they leave the others as they are.
    expect((await label(keys.slice(0, 1), ['summer'], ['test'])).held).toBe(1);
    expect((await label(keys, [], ['spring'])).held).toBe(4);
    expect((await label(keys, [], ['spring'])).held).toBe(0);
    await built(server, plan);
    expect((await groupsOf(plan)).map(({ labels }) => labels)).toEqual([
      ['summer'],
      ['test'],
      ['test'],
      ['test'],
    ]);
    await label(keys, [], ['test', 'summer']);
    await built(server, plan);
    expect((await groupsOf(plan)).every(({ labels }) => labels.length === 0)).toBe(true);
    const { holds } = await server.call(api.listHolds, { params: { plan } });
    expect(holds.filter(({ field }) => field === 'labels')).toEqual([]);
  });

  test('values of many rows, each its own, in one change; one that can’t be kept refuses them all', async () => {
    const plan = await themedPlan();
    const groups = await groupsOf(plan);
    const [first, second, third] = groups;
    if (!first || !second || !third) throw new Error('too few groups');
    const each = (values: [string, api.HoldField, string | number][]) =>
      server.call(api.holdEach, { params: { plan }, body: { values } });
    // Two may change names with each other, but not take that of one which stays.
    const { held } = await each([
      [first.key, 'name', second.name],
      [second.key, 'name', first.name],
      [first.key, 'bid', 910_000],
      [third.key, 'status', 'paused'],
    ]);
    expect(held).toBe(4);
    await built(server, plan);
    const after = await groupsOf(plan);
    expect(after.find(({ key }) => key === first.key)).toMatchObject({ name: second.name, base: 910_000 });
    expect(after.find(({ key }) => key === second.key)).toMatchObject({ name: first.name });
    expect(after.find(({ key }) => key === third.key)).toMatchObject({ status: 'paused' });
    for (const refused of [
      [[first.key, 'name', third.name.toUpperCase()]],
      [
        [first.key, 'name', 'Same'],
        [second.key, 'name', 'same'],
      ],
      [
        [first.key, 'bid', 500_000],
        [second.key, 'bid', 0],
      ],
    ] as [string, api.HoldField, string | number][][])
      await expect(each(refused)).rejects.toThrow();
    await built(server, plan);
    expect((await groupsOf(plan)).find(({ key }) => key === first.key)).toMatchObject({ base: 910_000 });
    await server.call(api.undoChange, { params: { plan }, body: {} });
    await built(server, plan);
    expect(await groupsOf(plan)).toEqual(groups);
  });

  test('names are told apart without regard to case, within a campaign and within the plan', async () => {
    const plan = await themedPlan();
    const [first, second, third] = await groupsOf(plan);
    if (!first || !second || !third) throw new Error('too few groups');
    const twin = third.name.toUpperCase();
    const told = 'Names are told apart without regard to case.';
    const other = `Another ad group of this campaign is called “${twin}”. ${told}`;
    await expect(hold(plan, first.key, 'name', twin)).rejects.toThrow(other);
    const each = (...values: [string, api.HoldField, string][]) =>
      server.call(api.holdEach, { params: { plan }, body: { values } });
    await expect(each([first.key, 'name', twin])).rejects.toThrow(other);
    await expect(each([first.key, 'name', 'Same'], [second.key, 'name', 'same'])).rejects.toThrow(
      /Two ad groups of one campaign would be called “same”/i,
    );
    await server.call(api.copyBuilt, { params: { plan }, body: { of: 'c', name: 'Second', ads: false } });
    await built(server, plan);
    // The name of a campaign is free for an ad group, and so is its own in other letters.
    await hold(plan, first.key, 'name', 'Second');
    await hold(plan, third.key, 'name', twin);
    await expect(hold(plan, 'c', 'name', 'second')).rejects.toThrow('Another campaign is called “second”.');
  });

  test.each([
    ['a bid of 0', 'k1:e', 'bid', 0],
    ['a negative bid', 'k1:e', 'bid', -10_000],
    ['a bid that is no number', 'k1:e', 'bid', Number.NaN],
    ['a bid over a million', 'k1:e', 'bid', 1e15],
    ['a bid in words', 'k1:e', 'bid', '0,40'],
    ['a step over 1000%', 'k1', 'step', 100_001],
    ['a name of 501 characters', 'k1', 'name', 'x'.repeat(501)],
    ['a name of nothing', 'k1', 'name', '  '],
    ['another status', 'k1', 'status', 'gone'],
    ['a field that it has not', 'k1', 'budget', 10_000],
    ['a key that is none', "k1' or true", 'bid', 10_000],
  ] as [string, string, api.HoldField, string | number][])(
    '%s is refused',
    async (_, rowKey, field, value) => {
      const plan = await planOf(server);
      await takeIn(server, plan, 'kayak\n');
      await built(server, plan);
      const key =
        rowKey.startsWith('k1:') || rowKey === 'k1'
          ? rowKey.replace('k1', (await groupsOf(plan))[0]!.key)
          : rowKey;
      await expect(hold(plan, key, field, value)).rejects.toMatchObject({ status: 400 });
      expect((await server.call(api.listHolds, { params: { plan } })).holds).toEqual([]);
    },
  );
});

describe('fences', () => {
  test('are made, counted before, audited, and ship; a search lands in its own group', async () => {
    const plan = await themedPlan();
    await edit(plan, threeLanes);
    const counts = await server.call(api.countFences, { params: { plan } });
    const loose = await server.call(api.viewAudit, { params: { plan } });
    expect(loose.kept).toBeLessThan(loose.tried);
    expect(loose.failures[0]?.others.length).toBeGreaterThan(0);
    await edit(plan, [{ at: 'fences', after: 'exact' }]);
    const { fences } = await view(plan);
    expect(fences).toMatchObject({ exact: counts.exact, phrase: 0, left: 0, audit: { tried: 7, kept: 7 } });
    expect(await server.call(api.viewAudit, { params: { plan } })).toMatchObject({
      tried: 7,
      kept: 7,
      failures: [],
    });
    const group = (await groupsOf(plan)).find(({ name }) => name === 'Kayaks · Broad')!;
    const page = await pageOf(plan, group.key);
    expect(page.fences.map(({ text, keeperName }) => `${text} for ${keeperName}`)).toEqual([
      'kayak for Kayaks · Exact',
      'kayak hire for Kayak hire · Exact',
      'cheap kayak hire for Kayak hire · Exact',
      'kayak hire wrenport for Kayak hire · Exact',
    ]);
    const tried = await server.call(api.trySearch, {
      params: { plan },
      body: { search: ' Kayak  HIRE Wrenport ' },
    });
    expect(tried.candidates[0]).toMatchObject({
      groupName: 'Kayak hire · Exact',
      type: 'exact',
      standing: 'same-exact',
      blockedBy: null,
    });
    const blocked = tried.candidates.filter(({ blockedBy }) => blockedBy);
    expect(blocked.map(({ blockedBy }) => blockedBy)).toContainEqual({
      text: '-[kayak hire wrenport]',
      type: 'exact',
      level: 'fence',
    });
    expect(tried.wonBy).toBe('alone');
    expect(tried.ad?.texts.headline1).toBe('Kayak Hire');
    const stolen = await server.call(api.viewFences, { params: { plan } });
    expect(stolen.pairs[0]).toMatchObject({
      fromName: 'Kayaks · Broad',
      keeperName: 'Kayaks · Exact',
      searches: 900,
    });
    await edit(plan, [{ at: 'fences', after: 'off' }]);
    expect((await view(plan)).fences).toBeNull();
    expect((await pageOf(plan, group.key)).fences).toEqual([]);
  });

  test('a paused group neither answers nor is fenced', async () => {
    const plan = await themedPlan();
    await edit(plan, [...threeLanes, { at: 'fences', after: 'exact' }]);
    const group = (await groupsOf(plan)).find(({ name }) => name === 'Kayaks · Broad')!;
    await hold(plan, group.key, 'status', 'paused');
    await built(server, plan);
    expect((await pageOf(plan, group.key)).fences).toEqual([]);
    expect((await view(plan)).fences?.audit).toEqual({ tried: 7, kept: 7 });
  });

  test('campaigns that never meet are not fenced against each other; copies there are no doubles', async () => {
    const plan = await themedPlan();
    await server.call(api.copyBuilt, { params: { plan }, body: { of: 'c', name: 'Heronsea', ads: false } });
    await edit(plan, [{ at: 'fences', after: 'exact' }]);
    const [first, second] = (await view(plan)).campaigns;
    expect([first?.name, second?.name, second?.groups]).toEqual(['Kayaks', 'Heronsea', 4]);
    expect((await view(plan)).fences?.audit).toMatchObject({ tried: 14, kept: 0 });
    const { keys } = await server.call(api.orderRows, { params: { plan }, query: { only: 'twice' } });
    expect(keys).toHaveLength(28);
    const twice = async () =>
      (await server.call(api.viewShip, { params: { plan } })).findings.find(
        ({ rule }) => rule === 'keyword-twice',
      );
    expect(await twice()).toMatchObject({ severity: 'warning', count: 14 });
    for (const [campaign, name] of [
      [first!, 'Wrenport'],
      [second!, 'Heronsea'],
    ] as const) {
      const { id } = await server.call(api.makeSettingSet, {
        params: { plan },
        body: { name, from: null, campaigns: [campaign.key] },
      });
      await server.call(api.editSettingSet, {
        params: { plan, set: id },
        body: { edits: [{ at: 'locations', before: [], after: [{ name, level: 'town' }] }] },
      });
    }
    await built(server, plan);
    expect((await view(plan)).fences?.audit).toMatchObject({ tried: 14, kept: 14 });
    expect(await twice()).toBeUndefined();
    await server.call(api.removeCopy, { params: { plan }, body: { key: second!.key } });
    await built(server, plan);
    expect((await view(plan)).campaigns).toHaveLength(1);
  });
});

describe('bids that start high', () => {
  const DAY = 86_400_000;
  const dayOf = (time: number) => new Date(time).toISOString().slice(0, 10);
  const bidsOf = async (plan: number) =>
    select<{ steps: number[] }>(server.database, 'select steps from keyword_rows where plan_id = $1', [plan]);
  const high = async (plan: number) => (await bidsOf(plan)).some(({ steps }) => steps.includes(15_000));

  test('come down by themselves on the day that they are to', async () => {
    const plan = await themedPlan();
    await edit(plan, [
      { at: 'startHigh.on', after: true },
      { at: 'startHigh.until', after: dayOf(Date.now() + 2 * DAY) },
    ]);
    expect(await high(plan)).toBe(true);
    await edit(plan, [{ at: 'startHigh.until', after: dayOf(Date.now() - DAY) }]);
    expect(await high(plan)).toBe(false);
    await edit(plan, [{ at: 'startHigh.until', after: null }]);
    expect(await high(plan)).toBe(true);
  });

  test('a plan is built anew when the day has come, and not where nothing ends with it', async () => {
    const plan = await themedPlan();
    const quiet = await themedPlan();
    await edit(plan, [
      { at: 'startHigh.on', after: true },
      { at: 'startHigh.until', after: dayOf(Date.now() + 2 * DAY) },
    ]);
    const revisions = async () =>
      Promise.all(
        [plan, quiet].map(async (id) => (await server.call(api.openPlan, { params: { plan: id } })).revision),
      );
    const before = await revisions();
    await rebuildForTheDay(server.database, new Date());
    expect(await revisions()).toEqual(before);
    await rebuildForTheDay(server.database, new Date(Date.now() + 2 * DAY));
    expect(await revisions()).toEqual([(before[0] ?? 0) + 1, before[1]]);
    await built(server, plan);
  });
});

describe('try many searches', () => {
  test('where they land, which are blocked, and which nothing answers', async () => {
    const plan = await themedPlan();
    await server.call(api.placeNegatives, {
      params: { plan },
      body: { places: ['c'], negatives: [{ text: 'jobs', type: 'broad' }] },
    });
    await built(server, plan);
    const tried = await server.call(api.trySearches, {
      params: { plan },
      body: { text: 'kayak hire near me\t40\nkayak hire\nkayak jobs\n\ncanoe\nraft\n' },
    });
    expect(tried).toMatchObject({
      searches: 5,
      answered: 3,
      blocked: 1,
      groups: [
        { name: 'Kayak hire', searches: 2, samples: ['kayak hire near me', 'kayak hire'] },
        { name: 'Canoes', searches: 1 },
      ],
      unanswered: ['raft'],
      blockedSamples: ['kayak jobs'],
    });
    await expect(
      server.call(api.trySearches, { params: { plan }, body: { text: '\n \n' } }),
    ).rejects.toMatchObject({ status: 400 });
    await expect(
      server.call(api.trySearch, { params: { plan }, body: { search: ' ' } }),
    ).rejects.toMatchObject({ status: 400 });
  });
});

describe('negatives in place', () => {
  test('of a group and of a campaign: conflicts stop a shipment, and the sheets hold them', async () => {
    const plan = await themedPlan();
    const group = (await groupsOf(plan)).find(({ name }) => name === 'Kayak hire')!;
    const add = (places: string[], ...texts: string[]) =>
      server.call(api.placeNegatives, {
        params: { plan },
        body: { places, negatives: texts.map((text) => ({ text, type: 'phrase' as const })) },
      });
    expect(await add([group.key, 'c'], 'free', 'Free')).toMatchObject({ added: 2 });
    expect(await add([group.key], 'free')).toMatchObject({ added: 0 });
    await add([group.key], 'wrenport');
    await built(server, plan);
    const conflict = (await server.call(api.viewShip, { params: { plan } })).findings.find(
      ({ rule }) => rule === 'own-keyword-blocked',
    );
    expect(conflict).toMatchObject({ severity: 'blocker', count: 1, samples: [{ text: '-"wrenport"' }] });
    const page = await pageOf(plan, group.key);
    expect([page.negatives.map(({ text }) => text), page.campaignNegatives.map(({ text }) => text)]).toEqual([
      ['Free', 'wrenport'],
      ['Free'],
    ]);
    await server.call(api.removePlacedNegatives, {
      params: { plan },
      body: { ids: [page.negatives[1]!.id] },
    });
    for (const [field, line] of [
      ['headline2', 'x'],
      ['description1', 'y'],
    ] as const)
      await server.call(api.editPattern, {
        params: { plan, pattern: 1 },
        body: { edits: [{ at: `fields.${field}.lines`, before: [], after: [line] }] },
      });
    await built(server, plan);
    const { job } = await server.call(api.startShip, {
      params: { plan },
      body: { outlet: 'plain', format: 'csv', sheets: ['negatives'] },
    });
    const { sheetSet } = api.shipResult.parse((await finished(server, plan, job)).result);
    const sheet = await fetch(
      `${server.url}/api/plans/${plan}/sheet-sets/${sheetSet}/files/negative-keywords.csv`,
    );
    expect((await sheet.text()).split('\r\n')).toEqual([
      'Campaign,Ad group,Keyword,Match type,Status',
      'Kayaks,,free,Phrase,Enabled',
      'Kayaks,Kayak hire,free,Phrase,Enabled',
      '',
    ]);
    await expect(add(['k9:e'], 'free')).rejects.toMatchObject({ status: 400 });
    await expect(add(['c'], 'a!b')).rejects.toMatchObject({ status: 400 });
  });

  test('an attached list for some campaigns takes nothing out of the pool', async () => {
    const plan = await themedPlan();
    const { lists } = await server.call(api.listShared, { params: { plan } });
    const list = lists[0]!.id;
    await server.call(api.attachShared, { params: { plan, list }, body: { attach: true } });
    await server.call(api.attachToCampaigns, { params: { plan, list }, body: { campaigns: ['c'] } });
    expect(await server.call(api.listAttached, { params: { plan } })).toMatchObject({
      lists: [{ id: list, campaigns: ['c'] }],
    });
    const state = await built(server, plan);
    expect(state.counts.blocked).toBe(0);
  });
});

describe('bids', () => {
  test('a bulk change: what it would do, then done, then undone in one step', async () => {
    const plan = await themedPlan();
    const change = (dry: boolean) =>
      server.call(api.changeBids, {
        params: { plan },
        body: { scope: { campaign: 'c' }, change: { kind: 'percent', by: -1_000 }, dry },
      });
    const before = await dump(plan);
    const would = await change(true);
    expect(would).toMatchObject({ rows: 14, changed: 14 });
    expect(would.after.cost).toBeLessThan(would.before.cost);
    expect(await dump(plan)).toEqual(before);
    await change(false);
    await built(server, plan);
    const { keys } = await server.call(api.orderRows, { params: { plan }, query: { only: 'held' } });
    expect(keys).toHaveLength(14);
    await server.call(api.undoChange, { params: { plan }, body: {} });
    await built(server, plan);
    expect(await dump(plan)).toEqual(before);
  });

  test('aimed at a position: no match type gets out of order, and what can’t be reached is left as it is', async () => {
    const plan = await themedPlan();
    const aim = (at: number, dry = true) =>
      server.call(api.aimBids, {
        params: { plan },
        body: { scope: { all: true }, aim: { kind: 'position', at }, headroom: 500, dry },
      });
    const [high, low] = [await aim(1), await aim(6)];
    expect(high.after.clicks).toBeGreaterThan(low.after.clicks);
    await edit(plan, [{ at: 'ladder.ceiling', after: asMicros(400_000) }]);
    const capped = await aim(1);
    expect(capped.unreachable['above-ceiling']).toBeGreaterThan(0);
    const aimedTo = (more: object) =>
      server.call(api.aimBids, {
        params: { plan },
        body: { scope: { all: true }, aim: { kind: 'position', at: 1 }, headroom: 0, dry: true, ...more },
      });
    const free = await aimedTo({ ceiling: asMicros(90_000_000) });
    expect(free.unreachable['above-ceiling']).toBe(0);
    expect(free.after.clicks).toBeGreaterThan(capped.after.clicks);
    const third = { aim: { kind: 'position', at: 3 } as const, ceiling: asMicros(90_000_000) };
    const [least, half, whole] = [
      await aimedTo(third),
      await aimedTo({ ...third, headroom: { next: 5_000 } }),
      await aimedTo({ ...third, headroom: { next: 10_000 } }),
    ];
    expect(half.after.cost).toBeGreaterThan(least.after.cost);
    expect(whole.after.cost).toBeGreaterThan(half.after.cost);
    await aim(4, false);
    await built(server, plan);
    const group = (await groupsOf(plan)).find(({ name }) => name === 'Canoes')!;
    const { rows } = await pageOf(plan, group.key);
    for (const text of new Set(rows.map((row) => row.text))) {
      const bids = rows.filter((row) => row.text === text).map(({ bid }) => bid);
      expect([...bids].sort((a, b) => a - b)).toEqual(bids);
    }
    const findings = (await server.call(api.viewShip, { params: { plan } })).findings.map(({ rule }) => rule);
    expect(findings).not.toContain('narrower-bids-less');
  });

  test('bids at partners: by the share of the outlet, changed, aimed and given back; refused where no outlet takes them', async () => {
    const plan = await themedPlan();
    const params = { plan };
    const scope = { campaign: 'c' };
    const raise = (dry: boolean) =>
      server.call(api.changeBids, {
        params,
        body: { scope, change: { kind: 'percent', by: 1_000 }, network: 'partners', dry },
      });
    await expect(raise(true)).rejects.toMatchObject({ failure: { at: 'network' } });
    const steps = { search: 10_000, partners: 5_000, display: 10_000 };
    await server.call(api.chooseOutlet, {
      params: { plan, outlet: 'quillmere' },
      body: { chosen: true, body: { ticks: [], steps } },
    });
    const search = await server.call(api.changeBids, {
      params,
      body: { scope, change: { kind: 'set', to: asMicros(1_000_000) }, dry: false },
    });
    await built(server, plan);
    const would = await raise(true);
    expect(would.samples.map(({ before, after }) => [before, after])).toEqual(
      would.samples.map(() => [500_000, 550_000]),
    );
    expect(would.after).toEqual(would.before);
    expect(would.before).toEqual(search.after);
    await raise(false);
    await built(server, plan);
    const { keys } = await server.call(api.orderRows, { params, query: { campaign: 'c' } });
    const page = async () => (await server.call(api.pageRows, { params, body: { keys } })).rows;
    expect(new Set((await page()).map(({ bid, bidPartners }) => `${bid} ${bidPartners}`))).toEqual(
      new Set(['1000000 550000']),
    );
    const aim = (network: 'search' | 'partners') =>
      server.call(api.aimBids, {
        params,
        body: { scope, aim: { kind: 'position', at: 3 }, headroom: 0, network, dry: true },
      });
    const [inSearch, atPartners] = [await aim('search'), await aim('partners')];
    const after = (answer: api.BidsAnswer) => new Map(answer.samples.map((one) => [one.key, one.after]));
    const half = after(atPartners);
    for (const [key, bid] of after(inSearch))
      if (half.has(key)) expect(Math.abs((half.get(key) ?? 0) - bid / 2)).toBeLessThanOrEqual(10_000);
    expect(half.size).toBeGreaterThan(3);
    const one = keys[0] ?? '';
    await server.call(api.holdEach, { params, body: { values: [[one, 'bidPartners', '']] } });
    await built(server, plan);
    expect((await page()).map(({ bidPartners }) => bidPartners === null)).toEqual(
      keys.map((_, at) => at === 0),
    );
  });

  test('a forecast adds up over its parts, and is held to the budget', async () => {
    const plan = await themedPlan();
    const forecast = (scope: api.BidScope) =>
      server.call(api.viewForecast, { params: { plan }, body: { scope } });
    const whole = await forecast({ all: true });
    const campaign = await forecast({ campaign: 'c' });
    expect(campaign.parts.reduce((sum, { key, cost }) => sum + (key === 'c' ? 0 : cost), 0)).toBeCloseTo(
      whole.now.cost,
      -2,
    );
    expect(whole.keywords).toBe(7);
    const costs = whole.curve.map(({ cost }) => cost);
    expect([...costs].sort((a, b) => b - a)).toEqual(costs);
    await hold(plan, 'c', 'budget', 100_000);
    await built(server, plan);
    const held = await forecast({ all: true });
    expect(held.held.cost).toBe(100_000);
    expect(held.held.reached).toBeLessThan(10_000);
  });

  test('many searches are added up only until they pass a limit', async () => {
    const plan = await planOf(server);
    const texts = Array.from({ length: 12_000 }, (_, at) => `kettle ${at}`);
    await takeIn(
      server,
      plan,
      ['Keyword,Searches,CPC', ...texts.map((text) => `${text},100,0.50`)].join('\n'),
    );
    const caller = { ...server.caller, plan };
    const most = asMicros(Number.MAX_SAFE_INTEGER);
    const entered = texts.map((text, at) => ({ text, bid: asMicros(3_000_000 - at * 100) }));
    const whole = await costBeyond(caller, entered, most);
    const halves = [entered.slice(0, 6_000), entered.slice(6_000)];
    const parts = await Promise.all(halves.map((half) => costBeyond(caller, half, most)));
    expect(whole.isWhole).toBe(true);
    expect(whole.cost).toBeGreaterThan(0);
    expect(Math.abs(whole.cost - parts.reduce((sum, { cost }) => sum + cost, 0))).toBeLessThanOrEqual(2);
    const soon = await costBeyond(caller, entered, asMicros(10_000));
    expect(soon.isWhole).toBe(false);
    expect(soon.cost).toBeGreaterThan(10_000);
    expect(soon.cost).toBeLessThan(whole.cost);
    expect((await costBeyond(caller, entered, whole.cost)).cost).toBe(whole.cost);
  });

  test('a narrower match that bids less than a wider one is a warning, unless the ladder is mended', async () => {
    const plan = await themedPlan();
    await edit(plan, [{ at: 'ladder.steps.exact', after: 5_000 }]);
    const rules = async () => (await server.call(api.viewShip, { params: { plan } })).findings;
    expect((await rules()).find(({ rule }) => rule === 'narrower-bids-less')).toMatchObject({
      severity: 'warning',
      count: 7,
    });
    await edit(plan, threeLanes);
    expect((await rules()).find(({ rule }) => rule === 'narrower-bids-less')).toMatchObject({ count: 7 });
    await edit(plan, [{ at: 'ladder.steps.exact', after: 12_500 }]);
    expect((await rules()).find(({ rule }) => rule === 'narrower-bids-less')).toBeUndefined();
  });
});

test('a copied ad group stops following, has keywords of its own, and follows again', async () => {
  const plan = await themedPlan();
  const kayaks = await themeNamed(plan, 'Kayaks');
  const params = { plan };
  const { key } = await server.call(api.copyBuilt, {
    params,
    body: { of: `t${kayaks}`, name: 'Twin', ads: true },
  });
  await built(server, plan);
  const texts = async (group = key) => {
    await built(server, plan);
    const page = await server.call(api.readGroup, { params: { plan, group } });
    return [...new Set(page.rows.map(({ text }) => text))].sort();
  };
  const followed = await texts();
  expect(followed).toEqual(await texts(`t${kayaks}`));
  const set = (own: 'as-is' | string[] | null) => server.call(api.editCopy, { params, body: { key, own } });
  expect(await set('as-is')).toMatchObject({ keywords: followed.length });
  await takeIn(server, plan, 'kayak quartz\t30\n');
  // The first has what came in; the copy keeps what it had.
  expect(await texts(`t${kayaks}`)).toContain('kayak quartz');
  expect(await texts()).toEqual(followed);
  await set(['Kayak  Quartz', followed[0] ?? '']);
  expect(await texts()).toEqual([followed[0], 'kayak quartz'].sort());
  await expect(set(['no such keyword'])).rejects.toThrow(
    '1 keyword not in the pool, such as “no such keyword”',
  );
  await expect(
    server.call(api.editCopy, { params, body: { key: `t${kayaks}`, own: 'as-is' } }),
  ).rejects.toThrow('This is no copy');
  await set(null);
  expect(await texts()).toEqual(await texts(`t${kayaks}`));
  await server.call(api.undoChange, { params, body: {} });
  expect(await texts()).toEqual([followed[0], 'kayak quartz'].sort());
});

test('after any edit what is built is the same as made from scratch', async () => {
  const plan = await themedPlan();
  const kayaks = await themeNamed(plan, 'Kayaks');
  const { keys } = await server.call(api.orderRows, { params: { plan }, query: { filter: 'canoe' } });
  const canoe = Number(/^k(\d+)/.exec(keys[0] ?? '')?.[1]);
  const renamed = (before: string, after: string) =>
    server.call(api.editTheme, {
      params: { plan, theme: kayaks },
      body: { edits: [{ at: 'name', before, after }] },
    });
  const steps: (() => Promise<unknown>)[] = [
    () => edit(plan, [{ at: 'lanes.0.types', after: 13 }]),
    () => renamed('Kayaks', 'Boats'),
    () => edit(plan, [{ at: 'ladder.steps.exact', after: 15_000 }]),
    () => hold(plan, keys[0]!, 'bid', 330_000),
    () => edit(plan, [...threeLanes, { at: 'fences', after: 'exact' }]),
    () => renamed('Boats', 'Kayak hire 2'),
    () => edit(plan, [{ at: 'themeName.pattern', after: '@branch – @theme' }]),
    () => server.call(api.placeByHand, { params: { plan }, body: { keywords: [canoe], theme: kayaks } }),
    () => edit(plan, [{ at: 'fences', after: 'tight' }]),
    () =>
      server.call(api.copyBuilt, { params: { plan }, body: { of: `t${kayaks}l1`, name: 'Twin', ads: true } }),
    async () => {
      const { copies } = await server.call(api.readStanding, { params: { plan } });
      await server.call(api.editCopy, {
        params: { plan },
        body: { key: `x${copies[0]?.id}.${copies[0]?.of}`, own: ['kayak hire', 'canoe'] },
      });
    },
    () => renamed('Kayak hire 2', 'Vessels'),
    () => takeIn(server, plan, 'kayak hire heronsea\t30\nraft\t5\n'),
    () => edit(plan, [{ at: 'campaignBy', after: 'theme' }]),
    () => server.call(api.undoChange, { params: { plan }, body: {} }),
    () => renamed('Vessels', 'Kayaks'),
  ];
  const whole = async () => [
    await dump(plan),
    await select(server.database, 'select n, body from findings where plan_id = $1 order by n', [plan]),
    await select(server.database, 'select fences from build_states where plan_id = $1', [plan]),
  ];
  for (const [at, step] of steps.entries()) {
    await step();
    await built(server, plan);
    const now = await whole();
    for (const set of ['ad_groups set made_of = 0, hash = 0', 'build_states set fenced_for = 0'])
      await execute(server.database, `update ${set} where plan_id = $1`, [plan]);
    // It stands at another revision than this process remembers: nothing that is remembered is used.
    await execute(server.database, 'update plans set built_revision = built_revision - 1 where id = $1', [
      plan,
    ]);
    await rebuild({ ...server.caller, plan });
    expect(await whole(), `after step ${at}`).toEqual(now);
  }
});

test('a rebuild that is killed in the middle leaves the old rows, and the next one makes it whole', async () => {
  const plan = await themedPlan();
  const before = await dump(plan);
  await server.call(api.editLayout, {
    params: { plan },
    body: { edits: [{ at: 'themeName.pattern', before: '@theme', after: '@theme group' }] },
  });
  await built(server, plan);
  const whole = await dump(plan);
  await execute(server.database, 'update plans set built_revision = 0 where id = $1', [plan]);
  await execute(
    server.database,
    `update ad_groups set made_of = 0, hash = 0, name = 'stale' where plan_id = $1`,
    [plan],
  );
  const stale = await dump(plan);
  let times = 0;
  const killed = rebuild({ ...server.caller, plan }, async (phase) => {
    if (phase === 'building' && ++times === 1) throw new Error('killed');
  });
  await expect(killed).rejects.toThrow('killed');
  expect(await dump(plan)).toEqual(stale);
  await Promise.all([rebuild({ ...server.caller, plan }), rebuild({ ...server.caller, plan })]);
  const mended = await dump(plan);
  const names = (rows: unknown[][]) => (rows[1] as { name: string }[]).map(({ name }) => name);
  expect(names(mended)).toEqual(names(whole));
  expect(names(mended)).not.toEqual(names(before));
});

test('nobody sees or touches the plan of another workspace', async () => {
  const plan = await themedPlan();
  const [other] = await select<{ id: number }>(
    server.database,
    `with w as (insert into workspaces (name) values ('Other') returning id)
     insert into plans (workspace_id, created_by) select w.id, $1 from w returning id`,
    [server.caller.actor],
  );
  const theirs = other!.id;
  for (const ask of [
    () => server.call(api.viewBuild, { params: { plan: theirs } }),
    () => server.call(api.orderRows, { params: { plan: theirs } }),
    () => server.call(api.trySearch, { params: { plan: theirs }, body: { search: 'kayak' } }),
    () => server.call(api.viewForecast, { params: { plan: theirs }, body: { scope: { all: true } } }),
    () => server.call(api.copyBuilt, { params: { plan: theirs }, body: { of: 'c', name: 'x', ads: true } }),
  ])
    await expect(ask()).rejects.toMatchObject({ status: 404 });
  expect((await view(plan)).campaigns).toHaveLength(1);
});
