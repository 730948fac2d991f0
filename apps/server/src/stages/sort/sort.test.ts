import * as api from '@sprig/contracts';
import { asMicros } from '@sprig/core/money';
import { afterAll, beforeAll, expect, test } from 'vitest';
import {
  finished,
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

const theme = (name: string, word: string | null, more: Partial<api.NewTheme> = {}): api.NewTheme => ({
  name,
  sift: word === null ? null : { has: [[word]], not: [] },
  idea: false,
  colour: null,
  stage: null,
  within: null,
  ...more,
});
const make = (plan: number, themes: api.NewTheme[], parent: number | null = null, instead = false) =>
  server.call(api.makeThemes, { params: { plan }, body: { themes, parent, instead } });
const sortOf = (plan: number) => server.call(api.readSort, { params: { plan } });
const names = async (plan: number) =>
  (await sortOf(plan)).themes.map(({ name, parent, id }) => `${id}:${name}${parent ? ` in ${parent}` : ''}`);
const edit = (plan: number, id: number, at: string, before: unknown, after: unknown) =>
  server.call(api.editTheme, { params: { plan, theme: id }, body: { edits: [{ at, before, after }] } });
const undo = (plan: number) => server.call(api.undoChange, { params: { plan }, body: { force: false } });
const redo = (plan: number) => server.call(api.redoChange, { params: { plan }, body: { force: false } });
const move = (plan: number, ids: number[], parent: number | null, before: number | null = null) =>
  server.call(api.moveThemes, { params: { plan }, body: { ids, parent, before } });
const remove = (plan: number, ids: number[]) =>
  server.call(api.removeThemes, { params: { plan }, body: { ids } });
const refusal = (message: string, code = 'invalid') => ({
  failure: { code, message: expect.stringContaining(message) },
});

test('themes are made with what is in them, and a name that is taken gets a number', async () => {
  const plan = await planOf(server);
  const { ids } = await make(plan, [
    theme('Kayaks', 'kayak'),
    theme('Inflatable', 'inflatable', { within: 0 }),
    theme('kayaks', 'kayaks'),
  ]);
  const [kayaks = 0, inflatable = 0, second = 0] = ids;
  expect(await names(plan)).toEqual([
    `${kayaks}:Kayaks`,
    `${inflatable}:Inflatable in ${kayaks}`,
    `${second}:kayaks (2)`,
  ]);
  const inside = await make(plan, [theme('Sea', 'sea'), theme('inflatable', 'blow*')], kayaks);
  expect((await names(plan)).slice(3)).toEqual([
    `${inside.ids[0]}:Sea in ${kayaks}`,
    `${inside.ids[1]}:inflatable (2) in ${kayaks}`,
  ]);
  await undo(plan);
  expect(await names(plan)).toHaveLength(3);
  await redo(plan);
  expect(await names(plan)).toHaveLength(5);
});

test('edits keep to what was seen; a rule that can’t be read, a name that is taken and no name are refused', async () => {
  const plan = await planOf(server);
  const { ids } = await make(plan, [theme('Kayaks', 'kayak'), theme('Canoes', 'canoe')]);
  const [kayaks = 0] = ids;
  const before = { has: [['kayak']], not: [] };
  await edit(plan, kayaks, 'sift', before, { has: [['kayak'], ['sea']], not: ['"sea wall"'] });
  expect((await sortOf(plan)).themes[0]?.sift).toEqual({ has: [['kayak'], ['sea']], not: ['"sea wall"'] });
  await expect(edit(plan, kayaks, 'sift', before, null)).rejects.toMatchObject(
    refusal('changed this meanwhile', 'conflict'),
  );
  await expect(edit(plan, kayaks, 'name', 'Kayaks', ' canoes ')).rejects.toMatchObject(
    refusal('Give it another name'),
  );
  await expect(edit(plan, kayaks, 'name', 'Kayaks', ' ')).rejects.toMatchObject(refusal('needs a name'));
  await expect(edit(plan, kayaks, 'parent', null, kayaks)).rejects.toMatchObject(refusal('no such field'));
  await expect(make(plan, [theme('Bad', 'a*')])).rejects.toMatchObject(refusal('can’t be read'));
  await expect(make(plan, [theme('Late', 'x', { within: 0 })])).rejects.toMatchObject(
    refusal('must come after'),
  );
  await expect(make(plan, [theme('Lost', 'x')], 9_999)).rejects.toMatchObject(
    refusal('no such theme', 'not-found'),
  );
  const many = Array.from({ length: 5_001 }, (_, at) => `w${at}`);
  await expect(make(plan, [{ ...theme('Many', 'x'), sift: { has: [many], not: [] } }])).rejects.toMatchObject(
    { failure: { code: 'invalid' } },
  );
  expect(await names(plan)).toHaveLength(2);
});

test('themes are moved into others and in their order; never into themselves, nor too deep', async () => {
  const plan = await planOf(server);
  const { ids } = await make(
    plan,
    ['a', 'b', 'c', 'd'].map((name) => theme(name, name)),
  );
  const [a = 0, b = 0, c = 0, d = 0] = ids;
  await move(plan, [d, c], null, b);
  expect(await names(plan)).toEqual([`${a}:a`, `${d}:d`, `${c}:c`, `${b}:b`]);
  await move(plan, [b, c], a);
  expect(await names(plan)).toEqual([`${a}:a`, `${d}:d`, `${b}:b in ${a}`, `${c}:c in ${a}`]);
  await expect(move(plan, [a], c)).rejects.toMatchObject(refusal('can’t be in itself'));
  await expect(move(plan, [d], null, c)).rejects.toMatchObject(refusal('moved meanwhile', 'conflict'));
  await undo(plan);
  expect(await names(plan)).toEqual([`${a}:a`, `${d}:d`, `${c}:c`, `${b}:b`]);
  let inside: number | null = a;
  for (let depth = 2; depth <= 12; depth++) {
    const made: { ids: number[] } = await make(plan, [theme(`deep ${depth}`, 'x')], inside);
    inside = made.ids[0] ?? 0;
  }
  await expect(make(plan, [theme('deeper', 'x')], inside)).rejects.toMatchObject(refusal('12 is the most'));
});

test('keywords are held in a theme, out of all, and let go; what is held goes with its theme and comes back', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'kayak\ncanoe\ntent');
  const [kayak = 0, canoe = 0, tent = 0] = (await poolOf(server, plan)).ids;
  const { ids } = await make(plan, [theme('Boats', 'kayak'), theme('Inner', null, { within: 0 })]);
  const [boats = 0, inner = 0] = ids;
  const place = (keywords: number[], to: number | null) =>
    server.call(api.placeByHand, { params: { plan }, body: { keywords, theme: to } });
  const stage = (keywords: number[], to: 'early' | null) =>
    server.call(api.stageByHand, { params: { plan }, body: { keywords, stage: to } });
  await place([kayak, canoe], inner);
  await place([tent], 0);
  await stage([canoe], 'early');
  const held = async () =>
    (await sortOf(plan)).placed.map(({ keyword, theme: at, stage: is }) => [keyword, at, is]);
  const all = [
    [kayak, inner, null],
    [canoe, inner, 'early'],
    [tent, 0, null],
  ];
  expect(await held()).toEqual(all);
  await remove(plan, [boats]);
  expect(await held()).toEqual([
    [canoe, null, 'early'],
    [tent, 0, null],
  ]);
  expect(await names(plan)).toEqual([]);
  await undo(plan);
  expect(await held()).toEqual(all);
  await place([kayak, tent], null);
  await stage([canoe], null);
  expect(await held()).toEqual([[canoe, inner, null]]);
  await expect(place([kayak], 9_999)).rejects.toMatchObject(refusal('no such theme', 'not-found'));
  await expect(place([9_999], boats)).rejects.toMatchObject(refusal('no such keyword', 'not-found'));
});

test('a tree is made in the place of what is there, in one step that is undone as one', async () => {
  const plan = await planOf(server);
  const { ids } = await make(plan, [
    theme('Old', 'a'),
    theme('In it', 'b', { within: 0 }),
    theme('Other', 'c'),
  ]);
  const many = Array.from({ length: 3_000 }, (_, at) =>
    theme(`Theme ${at}`, `w${at}`, { within: at % 10 === 0 ? null : at - (at % 10) }),
  );
  await make(plan, many, null, true);
  const there = (await sortOf(plan)).themes;
  expect(there).toHaveLength(3_000);
  expect(there[11]).toMatchObject({ name: 'Theme 11', parent: there[10]?.id });
  await undo(plan);
  expect((await sortOf(plan)).themes.map(({ id }) => id)).toEqual(ids);
  expect((await server.call(api.openPlan, { params: { plan } })).counts.themes).toBe(3);
});

test('settings are kept; what was seen is the user’s own and leaves no step', async () => {
  const plan = await planOf(server);
  const settings = (at: string, before: unknown, after: unknown) =>
    server.call(api.editSortSettings, { params: { plan }, body: { edits: [{ at, before, after }] } });
  expect((await sortOf(plan)).settings).toEqual(api.usualSortSettings);
  await settings('target', 20, 15);
  await settings('dismissed', [], ['has kayak']);
  await expect(settings('least', 3, 16)).rejects.toMatchObject({ failure: { code: 'invalid' } });
  expect((await sortOf(plan)).settings).toMatchObject({ target: 15, dismissed: ['has kayak'] });
  const { revision } = await server.call(api.lookedAtSort, { params: { plan }, body: { keyword: 7 } });
  await server.call(api.lookedAtSort, { params: { plan }, body: { keyword: 5 } });
  expect(await sortOf(plan)).toMatchObject({ seen: 7 });
  expect((await server.call(api.openPlan, { params: { plan } })).revision).toBe(revision);
  await undo(plan);
  expect((await sortOf(plan)).settings.dismissed).toEqual([]);
});

test('a copy of the plan has its themes and what is held in them; another workspace’s plan is not there', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'kayak');
  const [kayak = 0] = (await poolOf(server, plan)).ids;
  const { ids } = await make(plan, [theme('Boats', 'boat')]);
  await server.call(api.placeByHand, { params: { plan }, body: { keywords: [kayak], theme: ids[0] ?? 0 } });
  const copy = await server.call(api.duplicatePlan, { params: { plan } });
  const [original, copied] = [await sortOf(plan), await sortOf(copy.id)];
  expect(copied.themes).toEqual(original.themes);
  expect(copied.placed).toEqual(original.placed);
  await expect(sortOf(99_999)).rejects.toMatchObject(refusal('no such plan', 'not-found'));
});

test('the whole plan by a job sorts what is unplaced, whatever has placed the rest', async () => {
  const plan = await planOf(server);
  const around = (good: string, cpc: string) =>
    ['X', 'buy X', 'X price', 'best X'].map((words) => `${words.replace('X', good)}\t50\t${cpc}`);
  await takeIn(
    server,
    plan,
    [...around('desk', '3.00'), ...around('lamp', '0.20'), ...around('rug', '0.30')].join('\n'),
  );
  // By CPC all desks have a theme; a rug is kept out of all themes by hand, one lamp is put among the dear ones.
  const { ids } = await make(plan, [
    api.newThemeOf('Dear', { has: [], not: [], cpcFrom: asMicros(1_000_000) }),
  ]);
  const pool = await poolOf(server, plan);
  const idOf = (norm: string) => pool.ids[pool.norms.indexOf(norm)] as number;
  const place = (keywords: number[], to: number) =>
    server.call(api.placeByHand, { params: { plan }, body: { keywords, theme: to } });
  await place([idOf('rug')], 0);
  await place([idOf('best lamp')], ids[0] as number);
  const { job } = await server.call(api.proposeThemes, {
    params: { plan },
    body: { parent: null, instead: false },
  });
  // Three lamps and three rugs are left to be sorted.
  expect((await finished(server, plan, job)).result).toMatchObject({ keywords: 6 });
  const names = (await sortOf(plan)).themes.map(({ name }) => name);
  expect(names).toContain('lamp');
  expect(names.some((name) => name.includes('desk'))).toBe(false);
});

test('the whole plan by a job: for the unplaced, then in the place of what is below a theme, each one step', async () => {
  const plan = await planOf(server);
  const texts = ['desk', 'lamp'].flatMap((good) =>
    ['oak', 'white', ''].flatMap((trait) =>
      ['X', 'buy X', 'X price', 'best X'].map((around) => around.replace('X', `${trait} ${good}`.trim())),
    ),
  );
  await takeIn(server, plan, [...texts, 'zeppelin'].join('\n'));
  const { ids } = await make(plan, [theme('Desks', 'desk')]);
  const [desks = 0] = ids;
  const whole = async (parent: number | null, instead: boolean) => {
    const { job } = await server.call(api.proposeThemes, { params: { plan }, body: { parent, instead } });
    return (await finished(server, plan, job)).result;
  };
  expect(await whole(null, false)).toEqual({ themes: 3, placed: 12, keywords: 13 });
  const after = (await sortOf(plan)).themes;
  expect(after.map(({ name }) => name)).toEqual(['Desks', 'lamp', 'oak lamp', 'white lamp']);
  await undo(plan);
  expect(await names(plan)).toEqual([`${desks}:Desks`]);
  expect(await whole(desks, true)).toEqual({ themes: 2, placed: 8, keywords: 12 });
  expect((await sortOf(plan)).themes.map(({ name, parent }) => [name, parent])).toEqual([
    ['Desks', null],
    ['oak desk', desks],
    ['white desk', desks],
  ]);
});
