import * as api from '@sprig/contracts';
import { emptyRecipe, type Recipe } from '@sprig/core/mix';
import { afterAll, beforeAll, expect, test } from 'vitest';
import {
  askStandIn,
  built,
  finished,
  followed,
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

const recipe: Recipe = {
  ...emptyRecipe('Hire in towns'),
  lists: [
    { id: 1, kind: 'own', name: 'Things', text: 'kayak\ncanoe', takes: [] },
    { id: 2, kind: 'own', name: 'Places', text: 'wrenport', takes: [] },
  ],
  patterns: [
    {
      id: 1,
      slots: [
        { kind: 'list', list: 1, optional: false },
        { kind: 'word', text: 'hire' },
        { kind: 'list', list: 2, optional: true },
      ],
      flip: false,
    },
  ],
};
const THERE = ['kayak hire wrenport', 'kayak hire', 'canoe hire wrenport', 'canoe hire'];

const make = async (plan: number, body: Recipe = recipe, cutsOf: number | null = null) =>
  (await server.call(api.makeRecipe, { params: { plan }, body: { recipe: body, cutsOf } })).id;
const pool = (plan: number, id: number, inPool = true) =>
  server.call(api.poolRecipe, { params: { plan, recipe: id }, body: { inPool } });
const edit = (plan: number, id: number, at: string, before: unknown, after: unknown) =>
  server.call(api.editRecipe, { params: { plan, recipe: id }, body: { edits: [{ at, before, after }] } });
const words = (plan: number, id: number, before: string, after: string, list = 0) =>
  edit(plan, id, `lists.${list}.text`, before, after);
const cut = (plan: number, id: number, texts: string[], isCut = true) =>
  server.call(api.cutCombinations, { params: { plan, recipe: id }, body: { texts, cut: isCut } });
const mixOf = (plan: number) => server.call(api.readMix, { params: { plan } });
const rowOf = async (plan: number, id: number) =>
  (await mixOf(plan)).recipes.find((one) => one.id === id) as api.RecipeRow;
const undo = (plan: number, force = false) =>
  server.call(api.undoChange, { params: { plan }, body: { force } });
const redo = (plan: number) => server.call(api.redoChange, { params: { plan }, body: { force: false } });

/** The pool as keyword → id, searches and sources, in the order of their ids. */
async function wholePool(plan: number): Promise<Record<string, unknown>> {
  const { ids, norms, searches, cpc, flags, foldedInto, blockedBy, sources } = await poolOf(server, plan);
  return Object.fromEntries(
    norms.map((norm, at) => [
      norm,
      [ids[at], searches[at], cpc[at], flags[at], foldedInto[at], blockedBy[at], sources[at]],
    ]),
  );
}
const texts = async (plan: number) => {
  await followed(server);
  return Object.keys(await wholePool(plan));
};

test('a recipe goes into the pool as a source, and out again', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'kayak hire\t900\nraft\t10\n');
  const id = await make(plan);
  expect(await texts(plan)).toEqual(['kayak hire', 'raft']);
  await pool(plan, id);
  expect(await texts(plan)).toEqual(['kayak hire', 'raft', ...THERE.filter((text) => text !== 'kayak hire')]);
  const row = await rowOf(plan, id);
  expect(row).toMatchObject({ keywords: 4, held: 0, cuts: 0 });
  const { ids, norms, searches, madeSearches, sources } = await poolOf(server, plan);
  expect(sources[norms.indexOf('kayak hire')]).toEqual([2, row.source]);
  expect(sources[norms.indexOf('canoe hire')]).toEqual([row.source]);
  // What a list said of a keyword stands; of new ones nobody said anything.
  expect(searches[norms.indexOf('kayak hire')]).toBe(900);
  expect([searches[norms.indexOf('canoe hire')], madeSearches[norms.indexOf('canoe hire')]]).toEqual([
    -1, -1,
  ]);
  expect(ids.length).toBe(5);
  expect((await built(server, plan)).counts).toMatchObject({ groups: 5, recipes: 1, recipesOut: 0 });
  await pool(plan, id, false);
  expect(await texts(plan)).toEqual(['kayak hire', 'raft']);
  expect((await server.call(api.listSources, { params: { plan } })).sources).toHaveLength(1);
});

test('when a list changes the pool follows; undo and redo are exact, numbers of keywords included', async () => {
  const plan = await planOf(server);
  const id = await make(plan);
  await pool(plan, id);
  const before = await wholePool(plan);
  await words(plan, id, 'kayak\ncanoe', 'kayak\nsup|paddle board');
  const after = await wholePool(plan);
  expect(Object.keys(after).sort()).toEqual([
    'kayak hire',
    'kayak hire wrenport',
    'paddle board hire',
    'paddle board hire wrenport',
    'sup hire',
    'sup hire wrenport',
  ]);
  expect(after['kayak hire']).toEqual(before['kayak hire']);
  await undo(plan);
  expect(await wholePool(plan)).toEqual(before);
  await redo(plan);
  expect(await wholePool(plan)).toEqual(after);
  await undo(plan);
  await undo(plan);
  expect(await texts(plan)).toEqual([]);
  expect((await server.call(api.listSources, { params: { plan } })).sources).toEqual([]);
  await redo(plan);
  expect(await wholePool(plan)).toEqual(before);
});

test('what another source brings stays, with that source’s figures only', async () => {
  const plan = await planOf(server);
  const id = await make(plan);
  await pool(plan, id);
  await takeIn(server, plan, 'canoe hire\t77\ncanoe hire wrenport\n');
  const withBoth = await wholePool(plan);
  await words(plan, id, 'kayak\ncanoe', 'kayak');
  const { norms, searches, sources } = await poolOf(server, plan);
  expect(norms.toSorted()).toEqual([...THERE].sort());
  expect(searches[norms.indexOf('canoe hire')]).toBe(77);
  expect(searches[norms.indexOf('canoe hire wrenport')]).toBe(-1);
  expect(sources[norms.indexOf('canoe hire')]).toHaveLength(1);
  await undo(plan);
  expect(await wholePool(plan)).toEqual(withBoth);
});

test('two recipes that make the same: what the stand-in market made up stays while one of them is there', async () => {
  const plan = await planOf(server);
  await askStandIn(server, plan);
  const one = await make(plan);
  const two = await make(plan, { ...recipe, name: 'Again' });
  await pool(plan, one);
  const alone = await poolOf(server, plan);
  await pool(plan, two);
  const both = await wholePool(plan);
  await server.call(api.removeRecipe, { params: { plan, recipe: one } });
  const left = await poolOf(server, plan);
  expect([...left.norms]).toEqual([...alone.norms]);
  expect([...left.madeSearches]).toEqual([...alone.madeSearches]);
  expect([...left.madeCpc]).toEqual([...alone.madeCpc]);
  expect(Math.min(...left.madeCpc)).toBeGreaterThan(0);
  expect([...new Set(left.searches)]).toEqual([-1]);
  await undo(plan);
  expect(await wholePool(plan)).toEqual(both);
});

test('what something was set by hand of stays and is told; made again it is a keyword like the others', async () => {
  const plan = await planOf(server);
  const id = await make(plan);
  await pool(plan, id);
  await built(server, plan);
  const { ids, norms } = await poolOf(server, plan);
  const idOf = (norm: string) => ids[norms.indexOf(norm)] ?? 0;
  await server.call(api.holdValue, {
    params: { plan },
    body: { rowKey: `k${idOf('canoe hire')}`, field: 'bid', value: 500_000, before: null },
  });
  await server.call(api.editKeyword, {
    params: { plan, keyword: idOf('canoe hire wrenport') },
    body: { field: 'text', before: 'canoe hire wrenport', after: 'canoe hire in wrenport' },
  });
  // A renamed keyword is not made anew under its old text.
  await words(plan, id, 'kayak\ncanoe', 'kayak\ncanoe\nraft');
  expect(await texts(plan)).not.toContain('canoe hire wrenport');
  await words(plan, id, 'kayak\ncanoe\nraft', 'kayak');
  expect((await texts(plan)).sort()).toEqual([
    'canoe hire',
    'canoe hire in wrenport',
    'kayak hire',
    'kayak hire wrenport',
  ]);
  expect(await rowOf(plan, id)).toMatchObject({ keywords: 4, held: 2 });
  await words(plan, id, 'kayak', 'kayak\ncanoe');
  expect(await rowOf(plan, id)).toMatchObject({ keywords: 4, held: 0 });
});

test('cuts leave the pool, survive changes of the recipe, and are put back', async () => {
  const plan = await planOf(server);
  const id = await make(plan);
  await pool(plan, id);
  await cut(plan, id, ['kayak hire', 'canoe hire']);
  expect((await texts(plan)).sort()).toEqual(['canoe hire wrenport', 'kayak hire wrenport']);
  await words(plan, id, 'kayak\ncanoe', 'canoe');
  await words(plan, id, 'canoe', 'kayak\ncanoe\nraft');
  expect((await texts(plan)).sort()).toEqual([
    'canoe hire wrenport',
    'kayak hire wrenport',
    'raft hire',
    'raft hire wrenport',
  ]);
  const copy = await make(plan, { ...recipe, name: 'Copy' }, id);
  expect((await server.call(api.readCuts, { params: { plan, recipe: copy } })).cuts).toEqual([
    'kayak hire',
    'canoe hire',
  ]);
  await cut(plan, id, ['kayak hire', 'never made'], false);
  expect(await texts(plan)).toContain('kayak hire');
  await undo(plan);
  expect(await texts(plan)).not.toContain('kayak hire');
  expect((await rowOf(plan, id)).cuts).toBe(2);
});

test('states of keywords that leave come back with them: cut, folded, blocked by what blocks now', async () => {
  const plan = await planOf(server);
  const id = await make(plan);
  await pool(plan, id);
  const { ids, norms } = await poolOf(server, plan);
  const idOf = (norm: string) => ids[norms.indexOf(norm)] ?? 0;
  await server.call(api.setCut, {
    params: { plan },
    body: { ids: [idOf('canoe hire wrenport')], cut: true },
  });
  await server.call(api.foldKeywords, {
    params: { plan },
    body: { folds: [{ keeper: idOf('canoe hire'), others: [idOf('kayak hire')] }] },
  });
  const before = await wholePool(plan);
  await words(plan, id, 'kayak\ncanoe', 'kayak');
  // The keyword that was folded into one that left stands for itself.
  expect((await wholePool(plan))['kayak hire']).toEqual([
    idOf('kayak hire'),
    expect.anything(),
    expect.anything(),
    0,
    0,
    0,
    expect.anything(),
  ]);
  await server.call(api.addNegatives, {
    params: { plan },
    body: { negatives: [{ text: 'wrenport', type: 'broad' }], reason: 'block' },
  });
  await words(plan, id, 'kayak', 'kayak\ncanoe');
  const { blockedBy, flags, norms: now } = await poolOf(server, plan);
  expect(blockedBy[now.indexOf('canoe hire wrenport')]).toBeGreaterThan(0);
  expect(flags[now.indexOf('canoe hire wrenport')]).toBe(api.CUT);
  await undo(plan);
  await undo(plan);
  await undo(plan);
  expect(await wholePool(plan)).toEqual(before);
});

test('switched off a recipe brings nothing and keeps everything; removed it takes its source with it', async () => {
  const plan = await planOf(server);
  const id = await make(plan);
  await pool(plan, id);
  const before = await wholePool(plan);
  await edit(plan, id, 'on', true, false);
  expect(await texts(plan)).toEqual([]);
  await edit(plan, id, 'on', false, true);
  expect(await wholePool(plan)).toEqual(before);
  await cut(plan, id, ['canoe hire']);
  await server.call(api.removeRecipe, { params: { plan, recipe: id } });
  expect(await texts(plan)).toEqual([]);
  expect((await mixOf(plan)).recipes).toEqual([]);
  await undo(plan);
  await undo(plan);
  expect(await wholePool(plan)).toEqual(before);
});

test('removed and renamed as a source in Gather', async () => {
  const plan = await planOf(server);
  const id = await make(plan);
  await pool(plan, id);
  const before = await wholePool(plan);
  const source = (await rowOf(plan, id)).source ?? 0;
  await server.call(api.renameSource, {
    params: { plan, source },
    body: { name: 'Hire', before: 'Hire in towns' },
  });
  expect((await rowOf(plan, id)).recipe.name).toBe('Hire');
  await edit(plan, id, 'name', 'Hire', 'Hire by town');
  expect((await server.call(api.listSources, { params: { plan } })).sources[0]).toMatchObject({
    kind: 'recipe',
    name: 'Hire by town',
    lines: 4,
    keywords: 4,
  });
  await server.call(api.removeSource, { params: { plan, source } });
  expect(await rowOf(plan, id)).toMatchObject({ source: null, keywords: 0 });
  await undo(plan);
  expect(await wholePool(plan)).toEqual(before);
});

test('a shared list is edited once, and every plan that uses it follows', async () => {
  const one = await planOf(server, 'One');
  const two = await planOf(server, 'Two');
  const id = await make(one);
  const { id: towns } = await server.call(api.makeWordList, {
    params: { plan: one },
    body: { name: 'Towns', text: 'wrenport', takes: [], from: { recipe: id, list: 2 } },
  });
  expect((await rowOf(one, id)).recipe.lists[1]).toEqual({ id: 2, kind: 'shared', list: towns });
  const { id: coast } = await server.call(api.makeWordList, {
    params: { plan: one },
    body: { name: 'Coast', text: 'heronsea', takes: [] },
  });
  const other = await make(two, {
    ...recipe,
    lists: [
      { id: 1, kind: 'own', name: 'Things', text: 'raft', takes: [] },
      { id: 2, kind: 'own', name: 'Places', text: '', takes: [towns] },
    ],
  });
  await pool(one, id);
  await pool(two, other);
  expect(await texts(two)).toEqual(['raft hire wrenport', 'raft hire']);
  const listed = (await mixOf(one)).shared;
  expect(listed.find((list) => list.id === towns)).toMatchObject({
    recipes: ['Hire in towns'],
    otherPlans: 1,
  });
  const editList = (list: number, at: string, before: unknown, after: unknown) =>
    server.call(api.editWordList, { params: { plan: one, list }, body: { edits: [{ at, before, after }] } });
  await editList(towns, 'takes', [], [coast]);
  expect((await texts(one)).sort()).toContain('kayak hire heronsea');
  expect(await texts(two)).toEqual(['raft hire wrenport', 'raft hire', 'raft hire heronsea']);
  // The list that is taken in counts as used, and its own change reaches both.
  await editList(coast, 'text', 'heronsea', 'pellanby');
  expect(await texts(two)).toEqual(['raft hire wrenport', 'raft hire', 'raft hire pellanby']);
  await undo(one);
  expect(await texts(two)).toEqual(['raft hire wrenport', 'raft hire', 'raft hire heronsea']);
  expect((await server.call(api.openPlan, { params: { plan: two } })).undo).toMatch(/^Put/);
});

test('a loop of shared lists, a twin, a used list: refused with the remedy, nothing changed', async () => {
  const plan = await planOf(server);
  const list = async (name: string, takes: number[] = []) =>
    (await server.call(api.makeWordList, { params: { plan }, body: { name, text: 'a', takes } })).id;
  const east = await list('East');
  const west = await list('West', [east]);
  const takes = (id: number, after: number[]) =>
    server.call(api.editWordList, {
      params: { plan, list: id },
      body: { edits: [{ at: 'takes', before: [], after }] },
    });
  await expect(takes(east, [west])).rejects.toMatchObject({
    status: 400,
    failure: {
      message: '“East” takes in “West” takes in “East”: a list can’t take itself in. Leave one of them out.',
    },
  });
  await expect(takes(east, [east])).rejects.toMatchObject({ status: 400 });
  await expect(takes(east, [9_999])).rejects.toMatchObject({ status: 404 });
  await expect(list('west')).rejects.toThrow('Another shared list is called “west”.');
  const remove = (id: number) => server.call(api.removeWordList, { params: { plan, list: id } });
  await expect(remove(east)).rejects.toThrow('It is used in “West”. Take it out there first.');
  const id = await make(plan, {
    ...recipe,
    lists: [recipe.lists[0] as Recipe['lists'][number], { id: 2, kind: 'shared', list: west }],
  });
  await expect(remove(west)).rejects.toThrow('It is used in “Hire in towns”');
  await server.call(api.removeRecipe, { params: { plan, recipe: id } });
  await remove(west);
  await remove(east);
  expect((await mixOf(plan)).shared.filter(({ name }) => name === 'East' || name === 'West')).toEqual([]);
});

test('lists of the brief follow the brief', async () => {
  const plan = await planOf(server);
  const lists: Recipe['lists'] = [
    recipe.lists[0] as Recipe['lists'][number],
    { id: 2, kind: 'brief', fact: 'places' },
  ];
  const id = await make(plan, { ...recipe, lists });
  await pool(plan, id);
  expect((await texts(plan)).sort()).toEqual(['canoe hire', 'kayak hire']);
  await server.call(api.editFacts, {
    params: { plan },
    body: { edits: [{ at: 'places', before: [], after: [['Heronsea', 'Heron Sea']] }] },
  });
  expect((await texts(plan)).sort()).toEqual([
    'canoe hire',
    'canoe hire heron sea',
    'canoe hire heronsea',
    'kayak hire',
    'kayak hire heron sea',
    'kayak hire heronsea',
  ]);
  await undo(plan);
  expect((await texts(plan)).sort()).toEqual(['canoe hire', 'kayak hire']);
});

test('recipes keep the order they are put in; a copy of the plan has them all', async () => {
  const plan = await planOf(server);
  const ids = [
    await make(plan),
    await make(plan, { ...recipe, name: 'Second' }),
    await make(plan, { ...recipe, name: 'Third' }),
  ];
  const order = [ids[2], ids[0], ids[1]] as number[];
  await server.call(api.orderRecipes, { params: { plan }, body: { ids: order } });
  expect((await mixOf(plan)).recipes.map(({ id }) => id)).toEqual(order);
  await expect(server.call(api.orderRecipes, { params: { plan }, body: { ids: [1] } })).rejects.toMatchObject(
    { status: 409 },
  );
  await pool(plan, ids[0] ?? 0);
  await cut(plan, ids[0] ?? 0, ['kayak hire']);
  const { id: copy } = await server.call(api.duplicatePlan, { params: { plan } });
  expect(
    (await mixOf(copy)).recipes.map(({ recipe: { name }, cuts, keywords }) => [name, cuts, keywords]),
  ).toEqual([
    ['Third', 0, 0],
    ['Hire in towns', 1, 3],
    ['Second', 0, 0],
  ]);
  await words(copy, ids[0] ?? 0, 'kayak\ncanoe', 'raft');
  expect(await texts(copy)).toEqual(['raft hire wrenport', 'raft hire']);
  expect(await texts(plan)).toHaveLength(3);
});

test('nobody writes over what they have not seen; what is not sound is refused', async () => {
  const plan = await planOf(server);
  const id = await make(plan);
  await expect(words(plan, id, 'something else', 'kayak')).rejects.toMatchObject({ status: 409 });
  await expect(edit(plan, id, 'patterns.0.slots.0.list', 1, 99)).rejects.toMatchObject({
    status: 400,
    failure: { message: 'A pattern, a pair or a rule uses a list that the recipe has not.' },
  });
  await expect(edit(plan, id, 'name', recipe.name, '  ')).rejects.toMatchObject({ status: 400 });
  await expect(edit(plan, 9_999, 'name', recipe.name, 'X')).rejects.toMatchObject({ status: 404 });
  const other = await planOf(server, 'Other');
  await expect(edit(other, id + 50, 'name', recipe.name, 'X')).rejects.toMatchObject({ status: 404 });
  expect((await rowOf(plan, id)).recipe).toEqual(recipe);
});

const many = (name: string, count: number) =>
  Array.from({ length: count }, (_, at) => `${name}${at}`).join('\n');
const largeRecipe = (things: number, places: number): Recipe => ({
  ...recipe,
  lists: [
    { id: 1, kind: 'own', name: 'Things', text: many('thing', things), takes: [] },
    { id: 2, kind: 'own', name: 'Places', text: many('place', places), takes: [] },
  ],
});

test('a recipe that makes much is followed by a job; over the cap the pool keeps what it has', async () => {
  const plan = await planOf(server);
  const id = await make(plan, largeRecipe(210, 99));
  await pool(plan, id);
  const jobs = async () =>
    (await server.call(api.openJobs, { params: { plan } })).jobs.filter(({ kind }) => kind === 'mix');
  for (const job of await jobs()) await finished(server, plan, job.id);
  expect(await rowOf(plan, id)).toMatchObject({ keywords: 21_000 });
  expect((await texts(plan)).slice(0, 2)).toEqual(['thing0 hire place0', 'thing0 hire place1']);
  await words(plan, id, many('thing', 210), many('thing', 30_000));
  expect(await jobs()).toEqual([]);
  expect((await rowOf(plan, id)).keywords).toBe(21_000);
});
