import * as api from '@sprig/contracts';
import { afterAll, beforeAll, expect, test } from 'vitest';
import {
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

/** Each keyword of the pool with what keeps it out, if anything does. */
async function statesOf(plan: number): Promise<Record<string, string>> {
  await followed(server);
  const pool = await poolOf(server, plan);
  const textOf = new Map(Array.from(pool.ids, (id, at) => [id, pool.norms[at]]));
  return Object.fromEntries(
    Array.from(pool.ids, (_, at) => {
      const flag = pool.flags[at] ?? 0;
      const folded = pool.foldedInto[at] ?? 0;
      const state =
        flag & api.CUT
          ? 'cut'
          : folded
            ? `folded into ${textOf.get(folded)}`
            : pool.blockedBy[at]
              ? 'blocked'
              : flag & api.APART
                ? 'apart'
                : 'in';
      return [pool.norms[at], state];
    }),
  );
}
const idsOf = async (plan: number, ...norms: string[]) => {
  const pool = await poolOf(server, plan);
  return norms.map((norm) => pool.ids[pool.norms.indexOf(norm)] ?? 0);
};
const block = (plan: number, text: string, type: 'broad' | 'phrase' | 'exact' = 'broad', list?: number) =>
  server.call(api.addNegatives, {
    params: { plan },
    body: { negatives: [{ text, type }], reason: 'block', list },
  });
const groupsOf = async (plan: number) => (await built(server, plan)).counts.groups;

test('folded keywords leave what is built, keep their figures, and come back by unfolding', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'kayak hire\t900\nhire kayak\t300\nkyak hire\t20\nraft\t10\n');
  expect(await groupsOf(plan)).toBe(4);
  const [keeper = 0, one = 0, two = 0, raft = 0] = await idsOf(
    plan,
    'kayak hire',
    'hire kayak',
    'kyak hire',
    'raft',
  );
  const fold = (folds: { keeper: number; others: number[] }[]) =>
    server.call(api.foldKeywords, { params: { plan }, body: { folds } });
  await fold([{ keeper: one, others: [two] }]);
  await fold([{ keeper, others: [one] }]);
  expect(await statesOf(plan)).toEqual({
    'kayak hire': 'in',
    'hire kayak': 'folded into kayak hire',
    'kyak hire': 'folded into kayak hire',
    raft: 'in',
  });
  expect(await groupsOf(plan)).toBe(2);
  expect([...(await poolOf(server, plan)).searches]).toEqual([900, 300, 20, 10]);
  await expect(fold([{ keeper: raft, others: [raft] }])).rejects.toMatchObject({ status: 400 });
  await expect(fold([{ keeper: 999, others: [raft] }])).rejects.toMatchObject({ status: 400 });
  await fold([{ keeper: two, others: [keeper] }]);
  expect(await statesOf(plan)).toMatchObject({
    'kyak hire': 'in',
    'kayak hire': 'folded into kyak hire',
    'hire kayak': 'folded into kyak hire',
  });
  await server.call(api.unfoldKeywords, { params: { plan }, body: { ids: [two] } });
  expect(Object.values(await statesOf(plan))).toEqual(['in', 'in', 'in', 'in']);
  await server.call(api.setApart, { params: { plan }, body: { ids: [one], apart: true } });
  expect(await statesOf(plan)).toMatchObject({ 'hire kayak': 'apart' });
  expect(await groupsOf(plan)).toBe(4);
});

test('when the source of a kept keyword goes, those folded into it stand for themselves', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'kayak hire\n');
  await takeIn(server, plan, 'hire kayak\n');
  const [keeper = 0, other = 0] = await idsOf(plan, 'kayak hire', 'hire kayak');
  await server.call(api.foldKeywords, { params: { plan }, body: { folds: [{ keeper, others: [other] }] } });
  const { sources } = await server.call(api.listSources, { params: { plan } });
  await server.call(api.removeSource, { params: { plan, source: sources[0]!.id } });
  expect(await statesOf(plan)).toEqual({ 'hire kayak': 'in' });
  await server.call(api.undoChange, { params: { plan }, body: {} });
  expect(await statesOf(plan)).toEqual({ 'kayak hire': 'in', 'hire kayak': 'folded into kayak hire' });
});

test('a block takes keywords out, also those that come in later, and gives them back when it goes', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'kayak jobs\nfree kayak plans\nplans for a free kayak\nkayak\n');
  expect(await block(plan, 'Jobs')).toMatchObject({ added: 1, blocked: 1 });
  expect(await block(plan, 'free kayak', 'phrase')).toMatchObject({ added: 1, blocked: 2 });
  await takeIn(server, plan, 'canoe jobs\ncanoe\n');
  expect(await statesOf(plan)).toEqual({
    'kayak jobs': 'blocked',
    'free kayak plans': 'blocked',
    'plans for a free kayak': 'blocked',
    kayak: 'in',
    'canoe jobs': 'blocked',
    canoe: 'in',
  });
  expect(await groupsOf(plan)).toBe(2);
  const state = await server.call(api.openPlan, { params: { plan } });
  expect(state.counts).toMatchObject({ keywords: 2, blocked: 4, negatives: 2 });
  const { negatives } = await server.call(api.listNegatives, { params: { plan } });
  await server.call(api.setReason, { params: { plan }, body: { ids: [negatives[0]!.id], reason: 'hand' } });
  expect(await statesOf(plan)).toMatchObject({ 'kayak jobs': 'in', 'canoe jobs': 'in' });
  await server.call(api.removeNegatives, { params: { plan }, body: { ids: negatives.map(({ id }) => id) } });
  expect(Object.values(await statesOf(plan)).every((one) => one === 'in')).toBe(true);
  const [renamed = 0] = await idsOf(plan, 'kayak');
  await block(plan, 'raft');
  await server.call(api.editKeyword, {
    params: { plan, keyword: renamed },
    body: { field: 'text', before: 'kayak', after: 'raft' },
  });
  expect(await statesOf(plan)).toMatchObject({ raft: 'blocked' });
});

test('a negative that only stands in the campaigns conflicts with a keyword of its own: a blocker', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'kayak hire\nkayak\n-hire\n-[raft]\n');
  await built(server, plan);
  const findings = async () => (await server.call(api.viewShip, { params: { plan } })).findings;
  expect(await findings()).toContainEqual(
    expect.objectContaining({
      rule: 'own-keyword-blocked',
      severity: 'blocker',
      count: 1,
      samples: [{ key: '-hire', text: '-hire' }],
    }),
  );
  const { negatives } = await server.call(api.listNegatives, { params: { plan } });
  await server.call(api.setReason, { params: { plan }, body: { ids: [negatives[0]!.id], reason: 'block' } });
  await built(server, plan);
  expect((await findings()).map(({ rule }) => rule)).not.toContain('own-keyword-blocked');
  expect(await statesOf(plan)).toEqual({ 'kayak hire': 'blocked', kayak: 'in' });
});

test('a shared list blocks in every plan that attaches it, follows its changes, and ships with each', async () => {
  const [one, other] = [await planOf(server, 'One'), await planOf(server, 'Other')];
  for (const plan of [one, other]) await takeIn(server, plan, '[kayak gratis]\n[kayak]\n');
  const { id: list } = await server.call(api.makeShared, {
    params: { plan: one },
    body: { name: 'House list', about: '' },
  });
  await expect(
    server.call(api.makeShared, { params: { plan: other }, body: { name: 'HOUSE LIST', about: '' } }),
  ).rejects.toMatchObject({ status: 400 });
  await server.call(api.attachShared, { params: { plan: other, list }, body: { attach: true } });
  expect(await block(one, 'gratis', 'broad', list)).toMatchObject({ added: 1, blocked: 1 });
  for (const plan of [one, other])
    expect(await statesOf(plan)).toEqual({ 'kayak gratis': 'blocked', kayak: 'in' });
  expect((await server.call(api.openPlan, { params: { plan: other } })).undo).toBe(
    'Attach the list House list',
  );
  for (const [field, line] of [
    ['headline2', 'A'],
    ['description1', 'B'],
  ])
    await server.call(api.editPattern, {
      params: { plan: other, pattern: 1 },
      body: { edits: [{ at: `fields.${field}.lines`, before: [], after: [line] }] },
    });
  await built(server, other);
  const { job } = await server.call(api.startShip, {
    params: { plan: other },
    body: { outlet: 'plain', format: 'csv', sheets: ['negatives'] },
  });
  const { sheetSet } = api.shipResult.parse((await finished(server, other, job)).result);
  const sheet = await fetch(
    `${server.url}/api/plans/${other}/sheet-sets/${sheetSet}/files/negative-keywords.csv`,
  );
  expect(await sheet.text()).toBe(
    'Campaign,Ad group,Keyword,Match type,Status\r\nOther,,gratis,Broad,Enabled\r\n',
  );
  await server.call(api.undoChange, { params: { plan: one }, body: {} });
  for (const plan of [one, other])
    expect(await statesOf(plan)).toEqual({ 'kayak gratis': 'in', kayak: 'in' });
  const { lists } = await server.call(api.listShared, { params: { plan: other } });
  expect(lists.find(({ id }) => id === list)).toMatchObject({ attached: true, plans: 1, negatives: [] });
  expect(lists.map(({ name }) => name)).toContain('Work and training');
});

test('what is removed from a shared list blocks nowhere any more, and every plan that has it takes a revision of that', async () => {
  const [one, other] = [await planOf(server, 'Mine'), await planOf(server, 'Yours')];
  for (const plan of [one, other]) await takeIn(server, plan, 'kayak repair\nkayak parts\n');
  const lists = [];
  for (const [name, text] of [
    ['Repairs', 'repair'],
    ['Parts', 'parts'],
  ] as const) {
    const { id: list } = await server.call(api.makeShared, {
      params: { plan: one },
      body: { name, about: '' },
    });
    await server.call(api.attachShared, { params: { plan: other, list }, body: { attach: true } });
    await block(one, text, 'broad', list);
    lists.push(list);
  }
  const [repairs = 0, parts = 0] = lists;
  const remove = async (list: number, ofList: number) => {
    const all = (await server.call(api.listShared, { params: { plan: one } })).lists;
    const ids = all.find(({ id }) => id === ofList)?.negatives.map(({ id }) => id) ?? [];
    return server.call(api.removeFromShared, { params: { plan: one, list }, body: { ids } });
  };
  await followed(server);
  const before = (await server.call(api.openPlan, { params: { plan: other } })).revision;
  await remove(repairs, repairs);
  for (const plan of [one, other])
    expect(await statesOf(plan)).toEqual({ 'kayak repair': 'in', 'kayak parts': 'blocked' });
  const after = await server.call(api.openPlan, { params: { plan: other } });
  expect(after.revision).toBe(before + 1);
  const { changes } = await server.call(api.planHistory, { params: { plan: other } });
  expect(changes[0]?.label).toBe('The shared list Repairs was changed');
  // One list does not take from another.
  await expect(remove(repairs, parts)).rejects.toMatchObject({ status: 404 });
  expect(await statesOf(other)).toEqual({ 'kayak repair': 'in', 'kayak parts': 'blocked' });
});

test('what a source brings back is blocked by what another plan has put into a shared list meanwhile', async () => {
  const [one, other] = [await planOf(server, 'Here'), await planOf(server, 'There')];
  const { id: list } = await server.call(api.makeShared, {
    params: { plan: one },
    body: { name: 'Between', about: '' },
  });
  await server.call(api.attachShared, { params: { plan: one, list }, body: { attach: true } });
  await takeIn(server, one, 'kayak\n');
  await takeIn(server, one, 'kayak repair\n');
  const { sources } = await server.call(api.listSources, { params: { plan: one } });
  await server.call(api.removeSource, { params: { plan: one, source: sources[1]!.id } });
  await block(other, 'repair', 'broad', list);
  await server.call(api.undoChange, { params: { plan: one }, body: {} });
  expect(await statesOf(one)).toEqual({ kayak: 'in', 'kayak repair': 'blocked' });
  await server.call(api.redoChange, { params: { plan: one }, body: {} });
  expect(await statesOf(one)).toEqual({ kayak: 'in' });
});

test('negatives are refused with their place, and never added twice', async () => {
  const plan = await planOf(server);
  await expect(block(plan, 'a,b')).rejects.toMatchObject({
    status: 400,
    failure: { message: expect.stringContaining('“a,b” holds , (column 2)') },
  });
  await expect(block(plan, '  ')).rejects.toMatchObject({ status: 400 });
  expect(await block(plan, 'free')).toMatchObject({ added: 1 });
  expect(await block(plan, 'FREE')).toMatchObject({ added: 0 });
  expect(await block(plan, 'free', 'exact')).toMatchObject({ added: 1 });
});

test('words judged to be kept are remembered, and can be asked about again', async () => {
  const plan = await planOf(server);
  const keep = (words: string[], isKept = true) =>
    server.call(api.keepWords, { params: { plan }, body: { words, keep: isKept } });
  await keep(['Kayak', 'hire', 'kayak']);
  await keep(['hire', 'paddle board']);
  const kept = async () => (await server.call(api.listVerdicts, { params: { plan } })).kept;
  expect(await kept()).toEqual(['kayak', 'hire', 'paddle board']);
  await keep(['hire'], false);
  expect(await kept()).toEqual(['kayak', 'paddle board']);
  await expect(keep(['raft'], false)).rejects.toMatchObject({ status: 404 });
});

test('facts are kept as they are left, refused with their place, and used', async () => {
  const plan = await planOf(server);
  const edit = (at: string, before: unknown, after: unknown) =>
    server.call(api.editFacts, { params: { plan }, body: { edits: [{ at, before, after }] } });
  await edit('places', [], [['SUP Bay', 'sup bay']]);
  await edit('starts', null, '2027-03-01');
  await expect(edit('ends', null, '2027-02-01')).rejects.toMatchObject({
    status: 400,
    failure: { at: 'ends', message: 'The end lies before the start.' },
  });
  await expect(edit('timeZone', 'UTC', 'Nowhere/Atall')).rejects.toMatchObject({ status: 400 });
  await expect(edit('starts', null, '2027-05-01')).rejects.toMatchObject({ status: 409 });
  await expect(edit('oddity', null, 1)).rejects.toMatchObject({ status: 400 });
  const { facts } = await server.call(api.readFacts, { params: { plan } });
  expect(facts).toMatchObject({ places: [['SUP Bay', 'sup bay']], starts: '2027-03-01', ends: null });
  await takeIn(server, plan, 'hire in sup bay\n');
  await server.call(api.editLayout, {
    params: { plan },
    body: { edits: [{ at: 'groupName.style', before: 'as-is', after: 'title' }] },
  });
  await built(server, plan);
  const { keys } = await server.call(api.orderGroups, { params: { plan } });
  const { groups } = await server.call(api.pageGroups, { params: { plan }, body: { keys } });
  expect(groups[0]?.name).toBe('Hire in SUP Bay');
  expect((await server.call(api.openPlan, { params: { plan } })).counts.facts).toBe(2);
});

test('a list that brings blocked keywords is undone and done again without asking', async () => {
  const plan = await planOf(server);
  await block(plan, 'jobs');
  await takeIn(server, plan, 'kayak\nkayak jobs\n');
  const before = await statesOf(plan);
  expect(before).toEqual({ kayak: 'in', 'kayak jobs': 'blocked' });
  await server.call(api.undoChange, { params: { plan }, body: { force: false } });
  expect(await statesOf(plan)).toEqual({});
  await server.call(api.redoChange, { params: { plan }, body: { force: false } });
  expect(await statesOf(plan)).toEqual(before);
});

test('a negative of one campaign stands there alone, and takes nothing out of the pool', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'kayak hire\ncanoe hire\n');
  await server.call(api.makeThemes, {
    params: { plan },
    body: {
      parent: null,
      themes: [
        api.newThemeOf('Kayaks', { has: [['kayak']], not: [] }),
        api.newThemeOf('Canoes', { has: [['canoe']], not: [] }),
      ],
    },
  });
  const { layout } = await server.call(api.readLayout, { params: { plan } });
  await server.call(api.editLayout, {
    params: { plan },
    body: { edits: [{ at: 'campaignBy', before: layout.campaignBy, after: 'theme' }] },
  });
  await built(server, plan);
  const { campaigns } = await server.call(api.viewBuild, { params: { plan } });
  const kayaks = campaigns.find(({ name }) => /kayak/i.test(name));
  await server.call(api.placeNegatives, {
    params: { plan },
    body: { places: [kayaks?.key ?? ''], negatives: [{ text: 'free', type: 'broad' }] },
  });
  await built(server, plan);
  const blockers = async (search: string) =>
    (await server.call(api.trySearch, { params: { plan }, body: { search } })).candidates.map(
      ({ blockedBy }) => blockedBy?.level ?? null,
    );
  expect(await blockers('free kayak hire')).toContain('campaign');
  expect(await blockers('free canoe hire')).not.toContain('campaign');
  expect((await server.call(api.openPlan, { params: { plan } })).counts.keywords).toBe(2);
});
