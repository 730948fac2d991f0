import * as api from '@sprig/contracts';
import { afterAll, beforeAll, expect, test } from 'vitest';
import {
  addActor,
  planOf,
  poolOf,
  startTestServer,
  type TestServer,
  takeIn,
} from '../../testing/start-test-server.ts';

let server: TestServer;
let tobin: number;
beforeAll(async () => {
  server = await startTestServer();
  tobin = await addActor(server, 'Tobin');
});
afterAll(() => server.stop());

const rename = (plan: number, before: string, after: string, call = server.call) =>
  call(api.editBrief, { params: { plan }, body: { edits: [{ at: 'name', before, after }] } });
const history = (plan: number, query = {}) => server.call(api.planHistory, { params: { plan }, query });
const details = (plan: number, revision: number) =>
  server.call(api.readChange, { params: { plan, revision } });
const undo = (plan: number, revision: number, force = false) =>
  server.call(api.undoOne, { params: { plan, revision }, body: { force } });
const refusal = (asked: Promise<unknown>) =>
  asked.then(
    () => null,
    ({ status, failure }) => `${status} ${failure.message}`,
  );
const nameOf = async (plan: number) => (await server.call(api.openPlan, { params: { plan } })).brief.name;
const lastOf = async (plan: number) => (await history(plan)).changes[0]?.revision ?? 0;

test('who did what is told, of all or of one, and goes on below an entry', async () => {
  const plan = await planOf(server, 'Teas');
  await rename(plan, 'Teas', 'Green teas', server.as(tobin));
  await rename(plan, 'Green teas', 'Black teas');
  const all = await history(plan);
  expect(all.people.map(({ actor }) => actor).sort()).toEqual(['Tobin', 'You']);
  expect(all.changes.slice(0, 2).map(({ actor, by, undoable }) => [actor, by === tobin, undoable])).toEqual([
    ['You', false, true],
    ['Tobin', true, true],
  ]);
  expect((await history(plan, { by: tobin })).changes.map(({ actor }) => actor)).toEqual(['Tobin']);
  const older = await history(plan, { before: all.changes[1]?.revision });
  expect(older.changes).toEqual(all.changes.slice(2));
});

test('a change is opened: rows by table, and what they said before and after', async () => {
  const plan = await planOf(server, 'Teas');
  await rename(plan, 'Teas', 'Green teas');
  expect(await details(plan, await lastOf(plan))).toEqual({
    came: [],
    went: [],
    parts: [{ table: 'briefs', inserted: 0, removed: 0, changed: 1 }],
    samples: [
      {
        table: 'briefs',
        row: 'id 1',
        how: 'changed',
        fields: [{ field: 'name', before: 'Teas', after: 'Green teas' }],
      },
    ],
  });
  // Of a document only what differs is told.
  const { layout } = await server.call(api.readLayout, { params: { plan } });
  await server.call(api.editLayout, {
    params: { plan },
    body: { edits: [{ at: 'dailyBudget', before: layout.dailyBudget, after: 5_000_000 }] },
  });
  const [sample] = (await details(plan, await lastOf(plan))).samples;
  expect(sample?.fields).toEqual([{ field: 'dailyBudget', before: expect.any(String), after: '5000000' }]);
  await takeIn(server, plan, 'mug\t80\ncup\t20\n');
  const came = await details(plan, await lastOf(plan));
  expect(came.came).toHaveLength(1);
  expect(await refusal(details(plan, 9_999))).toBe('404 There is no such change.');
});

test('one change of anybody is taken back by itself, and what came after it stays', async () => {
  const plan = await planOf(server, 'Teas');
  await takeIn(server, plan, 'mug\t80\ncup\t20\n');
  const { ids, norms } = await poolOf(server, plan);
  const cut = (norm: string, call = server.call) =>
    call(api.setCut, { params: { plan }, body: { ids: [ids[norms.indexOf(norm)] ?? 0], cut: true } });
  await cut('mug', server.as(tobin));
  const theirs = await lastOf(plan);
  await cut('cup');
  await rename(plan, 'Teas', 'Cups');
  await undo(plan, theirs);
  const { counts } = await server.call(api.openPlan, { params: { plan } });
  expect([counts.keywords, counts.cut, await nameOf(plan)]).toEqual([1, 1, 'Cups']);
  const { changes } = await history(plan);
  expect(changes[0]).toMatchObject({ kind: 'undo', actor: 'You' });
  expect(changes.find(({ revision }) => revision === theirs)).toMatchObject({
    undone: true,
    undoable: false,
  });
  expect(await refusal(undo(plan, theirs))).toBe('409 This was undone already.');
  expect(await refusal(undo(plan, 1))).toBe('422 This can not be undone by itself.');
});

test('where something of it was changed since it is asked, and done all the same', async () => {
  const plan = await planOf(server, 'Teas');
  await rename(plan, 'Teas', 'Green teas', server.as(tobin));
  const theirs = await lastOf(plan);
  await rename(plan, 'Green teas', 'Black teas');
  expect(await refusal(undo(plan, theirs))).toBe(
    '409 One value of “Rename the plan” changed since. Step back all the same?',
  );
  expect(await nameOf(plan)).toBe('Black teas');
  await undo(plan, theirs, true);
  expect(await nameOf(plan)).toBe('Teas');
});
