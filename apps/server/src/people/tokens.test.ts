import * as api from '@sprig/contracts';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { execute, select } from '../db/connect.ts';
import { startTestServer, type TestServer } from '../testing/start-test-server.ts';
import { firstOwner, joined, me, Visitor } from '../testing/visitor.ts';

let server: TestServer;
let owner: Visitor;
let plan: number;
let other: number;
const makePlan = async (by: Visitor, name: string) =>
  (await by.call(api.makePlan, { body: { name, currency: 'GBP', language: 'en', site: '' } })).id;
beforeAll(async () => {
  server = await startTestServer({ door: true });
  owner = await firstOwner(server);
  plan = await makePlan(owner, 'Teas');
  other = await makePlan(owner, 'Cups');
});
afterAll(() => server.stop());

const statusOf = (asked: Promise<unknown>) =>
  asked.then(
    () => 200,
    ({ status }) => status,
  );
type Making = Partial<Parameters<typeof makeBody>[0]>;
const makeBody = (more: {
  name: string;
  role: api.PlanRole;
  permissions: api.Permission[];
  plan: number | null;
  days: number;
}) => more;
const make = (more: Making = {}) =>
  owner.call(api.makeToken, {
    body: makeBody({ name: 'Nightly', role: 'builder', permissions: [], plan: null, days: 30, ...more }),
  });
const program = (token: string) => new Visitor(server, { authorization: `Bearer ${token}` });
const rename = (by: Visitor, before: string, after: string, at = plan) =>
  by.call(api.editBrief, { params: { plan: at }, body: { edits: [{ at: 'name', before, after }] } });

test('a program does what its token may, under its name in the history, without a cookie', async () => {
  const { token } = await make();
  expect(token).toMatch(/^sprig_[\w-]{43}$/);
  const nightly = program(token);
  await rename(nightly, 'Teas', 'All teas');
  expect(nightly.cookie).toBe('');
  const { changes } = await owner.call(api.planHistory, { params: { plan } });
  expect(changes[0]?.actor).toBe('Nightly');
  await rename(nightly, 'All teas', 'Teas');
  expect(await statusOf(nightly.call(api.listPeople))).toBe(200);
  // It is no person: it has no account, and says nothing about people.
  expect(await statusOf(nightly.call(api.listSessions))).toBe(401);
  expect(
    await statusOf(
      nightly.call(api.makeToken, {
        body: makeBody({ name: 'More', role: 'builder', permissions: [], plan: null, days: 1 }),
      }),
    ),
  ).toBe(403);
  const { members } = await owner.call(api.listPeople);
  expect(members.map(({ name }) => name)).toEqual(['Olive Brindle']);
  const reader = program((await make({ role: 'reader' })).token);
  expect(await statusOf(reader.call(api.openPlan, { params: { plan } }))).toBe(200);
  expect(await statusOf(rename(reader, 'Teas', 'Mine'))).toBe(403);
});

test('one for a plan sees that plan alone', async () => {
  const narrow = program((await make({ plan, role: 'writer' })).token);
  expect((await narrow.call(api.listPlans)).plans.map(({ name }) => name)).toEqual(['Teas']);
  expect((await narrow.call(api.openPlan, { params: { plan } })).you.role).toBe('writer');
  expect(await statusOf(narrow.call(api.openPlan, { params: { plan: other } }))).toBe(404);
  expect(await statusOf(narrow.call(api.listPeople))).toBe(403);
  expect(await statusOf(make({ plan: 9_999 }))).toBe(404);
});

test('it is shown once, kept as a hash, and works until it is ended or too old', async () => {
  const { id, token } = await make({ name: 'Weekly' });
  const weekly = program(token);
  expect(await statusOf(me(weekly))).toBe(200);
  const kept = await select(server.database, 'select t::text as row from tokens t');
  expect(JSON.stringify(kept)).not.toContain(token.slice(6));
  const listed = (await owner.call(api.listTokens)).tokens.find((one) => one.id === id);
  expect(listed).toMatchObject({ name: 'Weekly', role: 'builder', plan: null, from: 'Olive Brindle' });
  expect(listed?.usedAt).not.toBeNull();
  await owner.call(api.endToken, { params: { token: id } });
  expect(await statusOf(me(weekly))).toBe(401);
  expect(await statusOf(owner.call(api.endToken, { params: { token: id } }))).toBe(404);
  const aged = await make({ days: 1 });
  await execute(server.database, `update tokens set ends_at = now() where id = $1`, [aged.id]);
  expect(await statusOf(me(program(aged.token)))).toBe(401);
  expect(await statusOf(make({ days: 400 }))).toBe(400);
});

test('what is no token of ours lets nobody in, whatever cookie comes with it', async () => {
  for (const authorization of [
    'Bearer x',
    'Bearer sprig_',
    `Bearer sprig_${'x'.repeat(43)}`,
    'Basic b2xpdmU6eA==',
    '',
  ]) {
    const visitor = new Visitor(server, { authorization });
    visitor.cookie = owner.cookie;
    expect([authorization, await statusOf(me(visitor))]).toEqual([authorization, 401]);
  }
});

test('one of another workspace finds nothing here', async () => {
  const [theirs] = await select<{ workspace: number; actor: number }>(
    server.database,
    `with w as (insert into workspaces (name) values ('Forks') returning id)
     insert into actors (workspace_id, name, role) select id, 'Kit', 'owner' from w returning workspace_id as workspace, id as actor`,
  );
  const kit = await joined(owner, 'kit@forks.example', { role: 'reader' });
  await execute(
    server.database,
    `update actors set person_id = (select id from people where email = 'kit@forks.example') where id = $1`,
    [theirs?.actor],
  );
  await kit.call(api.chooseWorkspace, { body: { workspace: theirs?.workspace ?? 0 } });
  const { id, token } = await kit.call(api.makeToken, {
    body: makeBody({ name: 'Theirs', role: 'builder', permissions: ['ship'], plan: null, days: 1 }),
  });
  // Nor does its audit trail tell of what happened here.
  expect((await kit.call(api.readAudit)).entries.map(({ kind }) => kind)).toEqual(['token-made']);
  const foreign = program(token);
  expect((await foreign.call(api.listPlans)).plans).toEqual([]);
  expect(await statusOf(foreign.call(api.openPlan, { params: { plan } }))).toBe(404);
  expect(await statusOf(rename(foreign, 'Teas', 'Stolen'))).toBe(404);
  expect(await statusOf(owner.call(api.endToken, { params: { token: id } }))).toBe(404);
  expect(
    await statusOf(
      kit.call(api.makeToken, {
        body: makeBody({ name: 'X', role: 'builder', permissions: [], plan, days: 1 }),
      }),
    ),
  ).toBe(404);
});
