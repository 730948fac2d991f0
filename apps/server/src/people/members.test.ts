import * as api from '@sprig/contracts';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { execute, select } from '../db/connect.ts';
import { built, finished, startTestServer, type TestServer } from '../testing/start-test-server.ts';
import {
  firstOwner,
  hears,
  joined,
  later,
  mailTo,
  me,
  PASSWORD,
  refusal,
  tokenOf,
  Visitor,
} from '../testing/visitor.ts';

let server: TestServer;
let owner: Visitor;
beforeAll(async () => {
  server = await startTestServer({ door: true });
  owner = await firstOwner(server);
});
afterAll(() => server.stop());

const stranger = () => new Visitor(server);
const makePlan = async (by: Visitor, name: string) =>
  (await by.call(api.makePlan, { body: { name, currency: 'GBP', language: 'en', site: '' } })).id;
const planNames = async (by: Visitor) => (await by.call(api.listPlans)).plans.map(({ name }) => name).sort();
const actorOf = async (visitor: Visitor) => (await me(visitor)).actor;
type Set = { role: api.Role; permissions: api.Permission[] };
async function setRole(visitor: Visitor, after: Set, by = owner) {
  const { role, permissions, actor } = await me(visitor);
  return by.call(api.changeMember, { params: { actor }, body: { before: { role, permissions }, after } });
}
const setHere = async (plan: number, visitor: Visitor, here: api.PlanRole | 'none' | null) =>
  owner.call(api.setPlanRole, { params: { plan, actor: await actorOf(visitor) }, body: { here } });
const rename = (by: Visitor, plan: number, before: string, after: string) =>
  by.call(api.editBrief, { params: { plan }, body: { edits: [{ at: 'name', before, after }] } });

describe('an invitation', () => {
  const invite = (email: string, role: api.Role = 'writer') =>
    owner.call(api.invitePerson, { body: { email, role, permissions: ['approve'] } });
  const accept = (link: string | null, name: string | null = 'Tom Fell', password = PASSWORD) =>
    stranger().call(api.acceptInvitation, { body: { token: tokenOf(link), name, password } });

  test('comes by mail, makes an account with that role, and works once', async () => {
    const { link } = await invite('Tom@Tea.example');
    expect(await mailTo(server, 'tom@tea.example')).toContain(link);
    expect(await stranger().call(api.readLink, { body: { token: tokenOf(link) } })).toEqual({
      kind: 'invitation',
      email: 'tom@tea.example',
      workspace: 'Leaf by Leaf',
      from: 'Olive Brindle',
      role: 'writer',
      isKnown: false,
    });
    expect(await refusal(accept(link, null))).toMatchObject({ at: 'name' });
    expect(await refusal(accept(link, 'Tom', 'short'))).toMatchObject({ at: 'password' });
    const two = await Promise.all([refusal(accept(link)), refusal(accept(link))]);
    expect(two.filter((one) => one === null)).toHaveLength(1);
    const tom = stranger();
    await tom.signIn('tom@tea.example');
    expect(await me(tom)).toMatchObject({ name: 'Tom Fell', role: 'writer', permissions: ['approve'] });
    expect(await refusal(invite('tom@tea.example'))).toMatchObject({ code: 'conflict', at: 'email' });
  });

  test('ends when it is taken back, sent again, or a week old', async () => {
    const first = await invite('una@tea.example');
    const second = await invite('una@tea.example');
    expect(await refusal(accept(first.link))).toMatchObject({ status: 404 });
    const { invitations } = await owner.call(api.listPeople);
    expect(invitations.map(({ id, email, from }) => [id, email, from])).toEqual([
      [second.id, 'una@tea.example', 'Olive Brindle'],
    ]);
    await owner.call(api.takeBackInvitation, { params: { invitation: second.id } });
    expect(await refusal(accept(second.link))).toMatchObject({ status: 404 });
    expect(
      await refusal(owner.call(api.takeBackInvitation, { params: { invitation: second.id } })),
    ).toMatchObject({ status: 404 });
    const third = await invite('una@tea.example');
    await later(server, 'links', 'ends_at', 7 * 24);
    expect(await refusal(accept(third.link))).toMatchObject({ status: 404 });
  });

  test('brings an account that is there into another workspace, by its password; there it has what it has there', async () => {
    const una = await joined(owner, 'una@tea.example', { role: 'builder' });
    const [other] = await select<{ workspace: number; actor: number }>(
      server.database,
      `with w as (insert into workspaces (name) values ('Knives and Forks') returning id)
       insert into actors (workspace_id, name, role) select id, 'nobody yet', 'owner' from w returning workspace_id as workspace, id as actor`,
    );
    const theirs = other?.workspace ?? 0;
    const [person] = await select<{ id: number }>(
      server.database,
      `insert into people (email, name, password) select 'kit@knives.example', 'Kit', password from people where email = 'una@tea.example' returning id`,
    );
    await execute(server.database, `update actors set person_id = $2, name = 'Kit' where id = $1`, [
      other?.actor,
      person?.id,
    ]);
    const kit = stranger();
    await kit.signIn('kit@knives.example');
    const plan = await makePlan(kit, 'Forks');
    await makePlan(owner, 'Green teas');
    expect(await planNames(kit)).toEqual(['Forks']);
    expect(await planNames(una)).toEqual(['Green teas']);
    const { link } = await kit.call(api.invitePerson, {
      body: { email: 'una@tea.example', role: 'reader', permissions: [] },
    });
    expect(await refusal(accept(link, null, 'not her password'))).toMatchObject({ at: 'password' });
    expect(await refusal(una.call(api.openPlan, { params: { plan } }))).toMatchObject({ status: 404 });
    await accept(link, null);
    expect(await refusal(una.call(api.chooseWorkspace, { body: { workspace: 9_999 } }))).toMatchObject({
      status: 404,
    });
    await una.call(api.chooseWorkspace, { body: { workspace: theirs } });
    expect(await me(una)).toMatchObject({ workspace: 'Knives and Forks', role: 'reader' });
    expect((await me(una)).workspaces.map(({ name }) => name)).toEqual(['Knives and Forks', 'Leaf by Leaf']);
    expect(await planNames(una)).toEqual(['Forks']);
    expect(await refusal(rename(una, plan, 'Forks', 'Mine'))).toMatchObject({ status: 403 });
    // What she may do here is nothing there.
    const builders = await una.call(api.listPeople);
    expect(builders.members.map(({ name }) => name).sort()).toEqual(['Kit', 'una']);
    expect(
      await refusal(owner.call(api.removeMember, { params: { actor: await actorOf(una) } })),
    ).toMatchObject({ status: 404 });
    expect(
      await refusal(
        owner.call(api.setPlanRole, {
          params: { plan, actor: await actorOf(una) },
          body: { here: 'builder' },
        }),
      ),
    ).toMatchObject({ status: 404 });
  });
});

describe('who is in the workspace', () => {
  test('only owners see addresses, and say who may do what', async () => {
    const reader = await joined(owner, 'reader@tea.example');
    const seen = (await reader.call(api.listPeople)).members;
    expect(seen.filter(({ email }) => email !== null).map(({ isYou }) => isYou)).toEqual([true]);
    expect(await refusal(setRole(reader, { role: 'owner', permissions: [] }, reader))).toMatchObject({
      status: 403,
    });
    expect(
      await refusal(
        reader.call(api.invitePerson, {
          body: { email: 'friend@tea.example', role: 'owner', permissions: [] },
        }),
      ),
    ).toMatchObject({ status: 403 });
    expect(await refusal(reader.call(api.readAudit))).toMatchObject({ status: 403 });
  });

  test('a role counts from the next request on; two owners do not write over each other', async () => {
    const visitor = await joined(owner, 'vera@tea.example', { role: 'builder' });
    const plan = await makePlan(visitor, 'Mugs');
    const actor = await actorOf(visitor);
    const change = (before: Set, after: Set) =>
      owner.call(api.changeMember, { params: { actor }, body: { before, after } });
    const builder: Set = { role: 'builder', permissions: [] };
    const reader: Set = { role: 'reader', permissions: [] };
    await change(builder, reader);
    expect(await refusal(rename(visitor, plan, 'Mugs', 'Cups'))).toMatchObject({
      status: 403,
      code: 'forbidden',
    });
    expect(await refusal(change(builder, { role: 'owner', permissions: [] }))).toMatchObject({
      code: 'conflict',
    });
    await change(reader, builder);
    await rename(visitor, plan, 'Mugs', 'Cups');
  });

  test('one owner stays, also where two remove each other at once', async () => {
    expect(await refusal(setRole(owner, { role: 'builder', permissions: [] }))).toMatchObject({
      code: 'blocked',
    });
    expect(
      await refusal(owner.call(api.removeMember, { params: { actor: await actorOf(owner) } })),
    ).toMatchObject({ code: 'blocked' });
    const second = await joined(owner, 'second-owner@tea.example', { role: 'owner' });
    const [one, two] = [await actorOf(owner), await actorOf(second)];
    const both = await Promise.all([
      refusal(owner.call(api.removeMember, { params: { actor: two } })),
      refusal(second.call(api.removeMember, { params: { actor: one } })),
    ]);
    expect(both.filter((failure) => failure === null)).toHaveLength(1);
    const left = both[0] === null ? owner : second;
    const back = await joined(left, left === owner ? 'second-owner@tea.example' : 'olive@tea.example', {
      role: 'owner',
    }).catch(() => null);
    // Whoever was removed comes back as who they were.
    if (left !== owner) await owner.signIn('olive@tea.example');
    expect(back === null || (await actorOf(back)) > 0).toBe(true);
    expect((await me(owner)).role).toBe('owner');
  });

  test('somebody who is removed is out at once, their streams end, and what they did stays theirs', async () => {
    const visitor = await joined(owner, 'gone@tea.example', { role: 'builder' });
    const plan = await makePlan(visitor, 'Kettles');
    const actor = await actorOf(visitor);
    const stream = await visitor.fetch(`/api/plans/${plan}/events`);
    const reader = stream.body?.getReader();
    await reader?.read();
    await owner.call(api.removeMember, { params: { actor } });
    for (;;) if ((await reader?.read())?.done) break;
    expect((await visitor.fetch(`/api/plans/${plan}/events`)).status).toBe(401);
    expect(await refusal(me(visitor))).toMatchObject({ status: 401 });
    const { changes } = await owner.call(api.planHistory, { params: { plan } });
    expect(changes[0]?.actor).toBe('gone');
    const { members } = await owner.call(api.listPeople);
    expect(members.map(({ name }) => name)).not.toContain('gone');
    const { link } = await owner.call(api.invitePerson, {
      body: { email: 'gone@tea.example', role: 'reader', permissions: [] },
    });
    await visitor.call(api.acceptInvitation, {
      body: { token: tokenOf(link), name: null, password: PASSWORD },
    });
    expect(await me(visitor)).toMatchObject({ actor, role: 'reader' });
  });

  test('streams end too where a session is ended elsewhere', async () => {
    const visitor = await joined(owner, 'streams@tea.example', { role: 'builder' });
    const plan = await makePlan(visitor, 'Trays');
    const other = stranger();
    await other.signIn('streams@tea.example');
    const stream = await other.fetch(`/api/plans/${plan}/events`);
    const reader = stream.body?.getReader();
    await reader?.read();
    await visitor.call(api.endSessions, { body: { session: null } });
    for (;;) if ((await reader?.read())?.done) break;
    expect((await other.fetch(`/api/plans/${plan}/events`)).status).toBe(401);
  });

  test('a job is given up where whoever asked for it may not any more, and keeps nothing', async () => {
    const visitor = await joined(owner, 'jobs@tea.example', { role: 'builder' });
    const plan = await makePlan(visitor, 'Spoons');
    const answer = await visitor.fetch(`/api/plans/${plan}/uploads`, {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream' },
      body: 'tea spoon\nsoup spoon\n',
    });
    const { upload } = (await answer.json()) as { upload: string };
    await built({ ...server, call: owner.call }, plan);
    // The plan is held, so that the job has begun and waits when the role is lowered.
    const job = await server.database.transaction(async (transaction) => {
      await execute(server.database, 'select 1 from plans where id = $1 for no key update', [plan], {
        transaction,
      });
      const begun = await visitor.call(api.startImport, {
        params: { plan },
        body: { upload, kind: 'paste', name: 'Spoons', options: {} },
      });
      for (;;) {
        const [row] = await select<{ status: string }>(
          server.database,
          'select status from jobs where id = $1',
          [begun.job],
        );
        if (row?.status === 'running') break;
        await new Promise((go) => setTimeout(go, 10));
      }
      await setRole(visitor, { role: 'reader', permissions: [] });
      return begun.job;
    });
    const ended = await finished({ ...server, call: owner.call }, plan, job);
    expect(ended).toMatchObject({ status: 'failed', failure: { code: 'forbidden' } });
    expect(await select(server.database, 'select 1 from keywords where plan_id = $1', [plan])).toEqual([]);
  });
});

test('who has a plan open is told to those who have it open too, and to nobody else', async () => {
  const visitor = await joined(owner, 'present@tea.example', { role: 'reader' });
  const [plan, other] = [await makePlan(owner, 'Open'), await makePlan(owner, 'Shut')];
  const [here, there] = [await hears(owner, plan), await hears(owner, other)];
  const announce = (by: Visitor, at: number, place: string) =>
    by.call(api.announceHere, { params: { plan: at }, body: { place } });
  await announce(visitor, plan, 'write');
  expect(await here.until('"here"')).toContain(
    `"type" : "here", "plan" : ${plan}, "actor" : ${await actorOf(visitor)}, "name" : "present", "place" : "write"`,
  );
  await announce(visitor, other, 'ship');
  expect(await there.until('"here"')).not.toContain('write');
  expect(await refusal(announce(visitor, plan, '<b>'))).toMatchObject({ status: 400 });
  await here.end();
  await there.end();
});

describe('at one plan', () => {
  test('somebody may do more, less or nothing; a guest sees what was opened to them', async () => {
    const writer = await joined(owner, 'wider@tea.example', { role: 'writer' });
    const plan = await makePlan(owner, 'Saucers');
    const other = await makePlan(owner, 'Sieves');
    expect(await refusal(rename(writer, plan, 'Saucers', 'Plates'))).toMatchObject({ status: 403 });
    await setHere(plan, writer, 'builder');
    expect((await writer.call(api.openPlan, { params: { plan } })).you.role).toBe('builder');
    await rename(writer, plan, 'Saucers', 'Plates');
    expect(await refusal(rename(writer, other, 'Sieves', 'Mine'))).toMatchObject({ status: 403 });
    await setHere(plan, writer, 'none');
    expect(await planNames(writer)).not.toContain('Plates');
    expect(await refusal(writer.call(api.openPlan, { params: { plan } }))).toMatchObject({ status: 404 });
    await setHere(plan, writer, null);
    expect((await writer.call(api.openPlan, { params: { plan } })).you.role).toBe('writer');
    expect(await refusal(setHere(plan, owner, 'none'))).toMatchObject({ code: 'blocked' });

    const guest = await joined(owner, 'guest@client.example', {
      role: 'guest',
      plans: [{ plan, role: 'reader' }],
    });
    expect(await planNames(guest)).toEqual(['Plates']);
    expect((await guest.call(api.listWorth)).plans.map(({ name }) => name)).toEqual(['Plates']);
    expect((await guest.call(api.openPlan, { params: { plan } })).you.role).toBe('reader');
    expect(await refusal(guest.call(api.openPlan, { params: { plan: other } }))).toMatchObject({
      status: 404,
    });
    expect(await refusal(guest.call(api.listPeople))).toMatchObject({ status: 403 });
    expect(await refusal(guest.call(api.listOutsets))).toMatchObject({ status: 403 });
    const people = (await owner.call(api.listPlanPeople, { params: { plan } })).people;
    expect(people.find(({ name }) => name === 'guest')).toMatchObject({ role: 'guest', here: 'reader' });
    // Of those who do not see the plan only owners learn: of another client's guest too.
    const rival = await joined(owner, 'rival@client.example', {
      role: 'guest',
      plans: [{ plan: other, role: 'reader' }],
    });
    expect((await rival.call(api.listPlans)).plans.map(({ name }) => name)).toEqual(['Sieves']);
    const namesFor = async (by: Visitor) =>
      (await by.call(api.listPlanPeople, { params: { plan } })).people.map(({ name }) => name);
    expect(await namesFor(guest)).not.toContain('rival');
    expect(await namesFor(guest)).toContain('guest');
    expect(await namesFor(owner)).toContain('rival');
    // The rules of a plan that is not shown are not taken along either.
    const builder = await joined(owner, 'narrow@tea.example', { role: 'builder' });
    await setHere(other, builder, 'none');
    const like = builder.call(api.makePlan, {
      body: { name: 'A copy', currency: 'GBP', language: 'en', site: '', like: other },
    });
    expect(await refusal(like)).toMatchObject({ status: 404 });
  });
});

test('the audit trail tells of sign-ins, roles and downloads, a page at a time, and as a file', async () => {
  const visitor = await joined(owner, 'audited@tea.example', { role: 'builder' });
  const plan = await makePlan(visitor, 'Audited');
  await visitor.fetch(`/api/plans/${plan}/file`);
  await refusal(stranger().signIn('audited@tea.example', 'not this one'));
  await setRole(visitor, { role: 'reader', permissions: ['ship'] });
  const { entries, total } = await owner.call(api.readAudit);
  expect(entries.slice(0, 5).map(({ kind, name, about }) => [kind, name, about])).toEqual([
    ['role-changed', 'Olive Brindle', 'audited: reader, ship'],
    ['sign-in-failed', 'audited', 'by password'],
    ['downloaded', 'audited', 'Audited.plan.zip'],
    ['signed-in', 'audited', ''],
    ['joined', 'audited', 'audited@tea.example, builder'],
  ]);
  expect(total).toBeGreaterThan(20);
  const next = await owner.call(api.readAudit, { query: { before: entries[1]?.id } });
  expect(next.entries[0]).toEqual(entries[2]);
  const only = await owner.call(api.readAudit, { query: { kind: 'owner-made' } });
  expect(only).toMatchObject({ total: 1, entries: [{ about: 'olive@tea.example' }] });
  const file = await (await owner.fetch('/api/people/audit/file')).text();
  expect(file.trim().split('\r\n')).toHaveLength(total + 1);
});

test('ten thousand people are listed, and found by what they may do', async () => {
  await execute(
    server.database,
    `with p as (insert into people (email, name) select 'p' || n || '@many.example', 'Person ' || n from generate_series(1, 10000) n returning id, name)
     insert into actors (workspace_id, person_id, name, role) select $1, id, name, 'reader' from p`,
    [server.caller.workspace],
  );
  const { members } = await owner.call(api.listPeople);
  expect(members.length).toBeGreaterThan(10_000);
  expect(members.filter(({ name }) => name === 'Person 7777')).toHaveLength(1);
});
