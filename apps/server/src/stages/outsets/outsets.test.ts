import * as api from '@sprig/contracts';
import { patternOf } from '@sprig/core/write';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { select } from '../../db/connect.ts';
import { brief, type FullPlan, fullPlan } from '../../testing/full-plan.ts';
import {
  built,
  planOf,
  type Refused,
  startTestServer,
  type TestServer,
  takeIn,
} from '../../testing/start-test-server.ts';
import { readRules } from './rules-of-plan.ts';

let server: TestServer;
let full: FullPlan;
beforeAll(async () => {
  server = await startTestServer();
  full = await fullPlan(server, 'Teas');
});
afterAll(() => server.stop());

const every = [...api.outsetParts];
const rulesOf = (plan: number) => readRules({ ...server.caller, plan });
const keep = async (plan: number, name: string, parts = every, instead: number | null = null) =>
  (await server.call(api.keepOutset, { params: { plan }, body: { name, parts, instead } })).id;
const tried = (plan: number, outset: number, parts = every) =>
  server.call(api.tryOutset, { params: { plan, outset }, body: { parts } });
const take = (plan: number, outset: number, seen: string, parts = every) =>
  server.call(api.takeOutset, { params: { plan, outset }, body: { parts, seen } });
const refusal = (asked: Promise<unknown>) => asked.catch((error: unknown) => error as Refused);

/** Rules without numbers, which are another plan's own. */
function bare(rules: api.RulesOfPlan) {
  const names = new Map(rules.themes.map(({ id, name }) => [id, name]));
  const { facts, layout, ...rest } = rules;
  return {
    ...rest,
    facts: { ...facts, client: '', offers: [], brands: [], rivals: [] },
    layout: {
      ...layout,
      campaignName: layout.campaignName.replaceAll(rules.name, '*'),
      lanes: layout.lanes.map(({ takes: { sources: _, ...takes }, ...lane }) => ({ ...lane, takes })),
      branches: layout.branches.map((one) => ({ ...one, theme: names.get(one.theme) })),
    },
    name: '',
    sort: { ...rules.sort, dismissed: [] },
    sets: rules.sets.map(({ id: _, ...set }) => set),
    themes: rules.themes.map(({ id: _, parent, ...theme }) => ({ ...theme, parent: names.get(parent ?? 0) })),
    patterns: rules.patterns.map(({ body }) => ({
      ...body,
      groups: { to: body.groups.to, themes: body.groups.themes.map((id) => names.get(id)) },
    })),
    address: {
      ...rules.address,
      themes: rules.address.themes.map((one) => ({ ...one, theme: names.get(one.theme) })),
    },
    outlets: rules.outlets.map(({ body, ...outlet }) => ({ ...outlet, body: { ...body, ticks: [] } })),
  };
}

test('a plan that begins with an outset goes by all the rules of the plan that it was kept of', async () => {
  const outset = await keep(full.plan, 'Agency usual');
  const { id: plan } = await server.call(api.makePlan, {
    body: { name: 'Boilers', currency: 'GBP', language: 'en', site: 'boilers.example', outset },
  });
  expect(bare(await rulesOf(plan))).toEqual(bare(await rulesOf(full.plan)));
  await takeIn(server, plan, 'teapot\t800\ngreen tea\t700\n');
  expect((await built(server, plan)).counts.groups).toBeGreaterThan(0);
  // Nothing is left to be taken in.
  expect(await tried(plan, outset)).toMatchObject({ lines: [] });
});

test('taken into a plan that is there it adds and sets what was shown before, in one step, and nothing goes', async () => {
  const outset = await keep(full.plan, 'For others');
  const plan = await planOf(server, 'Clocks');
  const params = { plan };
  await takeIn(server, plan, 'wall clock\t800\nteapot\t20\n');
  await server.call(api.makePattern, {
    params,
    body: { body: patternOf({ headline1: ['Clocks'] }, 'title', { name: 'Of clocks' }), behind: null },
  });
  await server.call(api.addNegatives, {
    params,
    body: { negatives: [{ text: 'repair', type: 'broad' }], reason: 'hand' },
  });
  await brief(server, plan, { client: 'Tick', rivals: ['Tock'] });
  const before = await rulesOf(plan);
  const { lines, seen } = await tried(plan, outset);
  expect(await rulesOf(plan)).toEqual(before);
  const of = (at: string) => lines.find((line) => line.at === at);
  expect(of('fences')).toMatchObject({ kind: 'set', before: 'off', after: 'exact' });
  expect(of('theme')).toMatchObject({ kind: 'added', names: ['Pots', 'Teas'], count: 2 });
  expect(of('negative')?.names).toContain('recipe');
  await take(plan, outset, seen);
  const after = await rulesOf(plan);
  expect([after.facts.client, after.facts.rivals]).toEqual(['Tick', ['Tock']]);
  expect(after.layout.fences).toBe('exact');
  expect(after.layout.campaignName).toBe(
    (await rulesOf(full.plan)).layout.campaignName.replaceAll('Teas', 'Clocks'),
  );
  expect(after.patterns.map(({ body }) => body.name)).toContain('Of clocks');
  expect(after.negatives.map(({ text }) => text)).toEqual(expect.arrayContaining(['repair', 'recipe']));
  // What it ships to already, it goes on shipping to.
  expect(after.outlets.map(({ key }) => key)).toEqual(['plain', full.outlet, 'fennelwick']);
  expect(after.outlets.every(({ body }) => body.ticks.length === 0)).toBe(true);
  const { undo } = await server.call(api.openPlan, { params });
  expect(undo).toBe('Take in the outset For others');
  await server.call(api.undoChange, { params, body: {} });
  expect(await rulesOf(plan)).toEqual(before);
});

test('only the parts that are chosen are taken, and only those that were kept', async () => {
  const outset = await keep(full.plan, 'Some', ['fences', 'ads', 'lanes']);
  const plan = await planOf(server, 'Lamps');
  const before = await rulesOf(plan);
  const { lines, seen } = await tried(plan, outset, ['fences', 'themes', 'negatives']);
  expect(lines.map(({ part }) => part)).toEqual(['fences']);
  await take(plan, outset, seen, ['fences', 'themes', 'negatives']);
  const after = await rulesOf(plan);
  expect(after).toEqual({ ...before, layout: { ...before.layout, fences: 'exact' } });
  const [row] = await select<{ body: api.RulesOfPlan }>(
    server.database,
    'select body from outsets where id = $1',
    [outset],
  );
  expect([row?.body.negatives, row?.body.facts.client]).toEqual([[], '']);
});

test('what was shown must still be what it does', async () => {
  const outset = await keep(full.plan, 'Moving');
  const plan = await planOf(server, 'Vases');
  const { seen } = await tried(plan, outset);
  await brief(server, plan, { goal: 'leads' });
  expect(await refusal(take(plan, outset, seen))).toMatchObject({
    status: 409,
    failure: { code: 'conflict' },
  });
  expect((await rulesOf(plan)).themes).toEqual([]);
});

test('amounts of another currency, themes, lists and outlets that are not here are told, and left out', async () => {
  const plan = await planOf(server, 'Model');
  const params = { plan };
  await server.call(api.makeThemes, {
    params,
    body: {
      parent: null,
      themes: [api.newThemeOf('Dear', { has: [['dear']], not: [], cpcFrom: 2_000_000 as never })],
    },
  });
  const [theme] = (await rulesOf(plan)).themes;
  await server.call(api.makePattern, {
    params,
    body: {
      body: {
        ...patternOf({ headline1: ['Dear'] }, 'title', { name: 'Dear ones' }),
        groups: { to: 'themes', themes: [theme?.id ?? 0], groups: [], campaigns: [] },
      },
      behind: null,
    },
  });
  const { id: list } = await server.call(api.makeShared, { params, body: { name: 'Going', about: '' } });
  await server.call(api.attachShared, { params: { plan, list }, body: { attach: true } });
  await brief(server, plan, { targetCost: 9_000_000 as never });
  const outset = await keep(plan, 'Other money');
  await server.call(api.attachShared, { params: { plan, list }, body: { attach: false } });
  await select(server.database, 'delete from shared_lists where id = $1 returning id', [list]);
  const abroad = await planOf(server, 'Abroad', 'JPY');
  const told = async (parts: api.OutsetPart[]) =>
    (await tried(abroad, outset, parts)).losses.map(({ part, why, names }) => [part, why, names]);
  expect(await told(every)).toEqual([
    ['campaigns', 'currency', ['targetCost']],
    ['campaigns', 'currency', ['dailyBudget']],
    ['ladder', 'currency', ['ladder.defaultBase', 'ladder.floor', 'ladder.ceiling']],
    ['themes', 'currency', ['Dear']],
    ['lists', 'gone-list', ['Going']],
  ]);
  expect(await told(['ads'])).toEqual([['ads', 'no-theme', ['Dear ones']]]);
  const { seen } = await tried(abroad, outset);
  await take(abroad, outset, seen);
  const { facts, layout, themes } = await rulesOf(abroad);
  expect([facts.targetCost, themes[0]?.sift?.cpcFrom]).toEqual([null, undefined]);
  expect(layout.ladder.floor).not.toBe((await rulesOf(plan)).layout.ladder.floor);
});

test('what has the same name becomes as it is there, and keeps its number', async () => {
  const outset = await keep(full.plan, 'Once more');
  const plan = await planOf(server, 'Jugs');
  const params = { plan };
  const { ids } = await server.call(api.makeThemes, {
    params,
    body: { parent: null, themes: [api.newThemeOf('POTS', { has: [['jug']], not: [] })] },
  });
  const { seen, lines } = await tried(plan, outset);
  expect(lines.filter(({ at }) => at === 'theme').map(({ kind, names }) => [kind, names])).toEqual([
    ['added', ['Teas']],
    ['changed', ['POTS']],
  ]);
  await take(plan, outset, seen);
  const { themes } = await rulesOf(plan);
  expect(themes.map(({ id, name, sift }) => [id === ids[0], name, sift?.has])).toEqual([
    [true, 'POTS', [['teapot']]],
    [false, 'Teas', [['tea']]],
  ]);
});

test('outsets are renamed, one is the default, and one that was removed can be put back', async () => {
  const [one, two] = [await keep(full.plan, 'First'), await keep(full.plan, 'Second')];
  const edit = (outset: number, body: Parameters<typeof JSON.stringify>[0]) =>
    server.call(api.editOutset, { params: { outset }, body });
  const list = async () => (await server.call(api.listOutsets, {})).outsets;
  const of = async (id: number) => (await list()).find((outset) => outset.id === id);
  await edit(one, { isDefault: true });
  await edit(two, { isDefault: true });
  expect([(await of(one))?.isDefault, (await of(two))?.isDefault]).toEqual([false, true]);
  await edit(two, { isDefault: false });
  expect((await of(two))?.isDefault).toBe(false);
  expect(await refusal(edit(two, { name: ' first ' }))).toMatchObject({
    status: 400,
    failure: { at: 'name' },
  });
  expect(await refusal(keep(full.plan, 'FIRST'))).toMatchObject({ status: 400 });
  expect(await keep(full.plan, 'First', ['fences'], one)).toBe(one);
  expect((await of(one))?.parts).toEqual(['fences']);
  await edit(one, { isRemoved: true });
  expect(await of(one)).toBeUndefined();
  expect(await refusal(tried(full.plan, one))).toMatchObject({ status: 404 });
  await edit(two, { name: 'First' });
  expect(await refusal(edit(one, { isRemoved: false }))).toMatchObject({ status: 400 });
  await edit(two, { name: 'Second' });
  await edit(one, { isRemoved: false });
  expect((await of(one))?.name).toBe('First');
});

test('an outset of another workspace is not there', async () => {
  const outset = await keep(full.plan, 'Theirs');
  await select(
    server.database,
    `with w as (insert into workspaces (name) values ('Other') returning id)
     update outsets set workspace_id = (select id from w) where id = $1 returning id`,
    [outset],
  );
  const { outsets } = await server.call(api.listOutsets, {});
  expect(outsets.map(({ name }) => name)).not.toContain('Theirs');
  const body = { name: 'X', currency: 'GBP', language: 'en', site: '' } as const;
  for (const asked of [
    () => tried(full.plan, outset),
    () => take(full.plan, outset, ''),
    () => keep(full.plan, 'Theirs', every, outset),
    () => server.call(api.editOutset, { params: { outset }, body: { name: 'Ours' } }),
    () => server.call(api.makePlan, { body: { ...body, outset } }),
  ])
    expect(await refusal(asked())).toMatchObject({ status: 404 });
});
