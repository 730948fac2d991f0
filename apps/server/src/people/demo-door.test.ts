import * as api from '@sprig/contracts';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { seedDemoPeople } from '../demo/seed-people.ts';
import { startTestServer, type TestServer } from '../testing/start-test-server.ts';
import { firstOwner, me, Visitor } from '../testing/visitor.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer({ door: true, hasDemo: true });
  await seedDemoPeople(server.database);
});
afterAll(() => server.stop());

const statusOf = (asked: Promise<unknown>) =>
  asked.then(
    () => 200,
    ({ status }) => status,
  );
const demoOf = async (visitor: Visitor) => (await visitor.call(api.readDoor)).demo;
const enter = (visitor: Visitor, person: number) => visitor.call(api.enterDemo, { body: { person } });

test('its people come in by one click on the machine that runs it; whoever was here before is the one who plans', async () => {
  const visitor = new Visitor(server);
  const demo = (await demoOf(visitor)) ?? [];
  expect(demo.map(({ name, role, permissions }) => [name, role, permissions])).toEqual([
    ['Maren Oakhill', 'owner', ['ship']],
    ['Tobin Wexfield', 'writer', []],
    ['Ada Thornwick', 'reader', ['approve']],
  ]);
  await enter(visitor, demo[0]?.id ?? 0);
  expect(await me(visitor)).toMatchObject({
    name: 'Maren Oakhill',
    actor: server.caller.actor,
    isDemo: true,
  });
  expect(await seedDemoPeople(server.database)).toEqual({
    workspace: server.caller.workspace,
    actor: server.caller.actor,
  });
});

test('nobody comes in so from elsewhere, through a proxy, or by a password', async () => {
  const [maren] = (await demoOf(new Visitor(server))) ?? [];
  for (const header of [{ 'x-forwarded-for': '203.0.113.7' }, { forwarded: 'for=203.0.113.7' }]) {
    const far = new Visitor(server, header as unknown as Record<string, string>);
    expect(await demoOf(far)).toBeNull();
    expect(await statusOf(enter(far, maren?.id ?? 0))).toBe(403);
    expect(await statusOf(far.call(api.readMailbox))).toBe(404);
  }
  for (const password of ['', 'null', 'Maren Oakhill'])
    expect(await statusOf(new Visitor(server).signIn('maren@saltmarshpaddle.example', password))).toBe(400);
});

test('somebody who is real does not come in so, and beside them no demo is made', async () => {
  const olive = await firstOwner(server);
  const person = (await olive.call(api.listPeople)).members[0];
  expect(person?.name).toBe('Olive Brindle');
  // What was made as somebody of the demo is hers too, beside a workspace of her own.
  expect((await me(olive)).workspaces.map(({ name }) => name)).toEqual(['Harbour Desk', 'Leaf by Leaf']);
  expect(await me(olive)).toMatchObject({ workspace: 'Leaf by Leaf', role: 'owner' });
  const ids = ((await demoOf(new Visitor(server))) ?? []).map(({ id }) => id);
  for (const id of [Math.max(...ids) + 1, 0, 9_999])
    expect(await statusOf(enter(new Visitor(server), id))).toBeGreaterThanOrEqual(400);
  const other = await startTestServer({ door: true, hasDemo: true });
  await firstOwner(other);
  expect(await seedDemoPeople(other.database)).toBeNull();
  await other.stop();
});

test('without a demo nobody comes in by one click, and no mailbox is shown', async () => {
  const plain = await startTestServer({ door: true });
  await seedDemoPeople(plain.database);
  expect(await demoOf(new Visitor(plain))).toBeNull();
  expect(await statusOf(enter(new Visitor(plain), 1))).toBe(403);
  expect(await statusOf(new Visitor(plain).call(api.readMailbox))).toBe(404);
  await plain.stop();
});

test('mails of the demo are shown, newest first', async () => {
  const visitor = new Visitor(server);
  await enter(visitor, (await demoOf(visitor))?.[0]?.id ?? 0);
  await visitor.call(api.invitePerson, {
    body: { email: 'new@tea.example', role: 'reader', permissions: [] },
  });
  const { mails } = await visitor.call(api.readMailbox);
  expect(mails[0]).toMatchObject({ to: 'new@tea.example' });
  expect(mails[0]?.text).toContain('/door/invited#');
});
