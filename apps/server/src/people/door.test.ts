import * as api from '@sprig/contracts';
import { generateSync } from 'otplib';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { select } from '../db/connect.ts';
import { startTestServer, type TestServer } from '../testing/start-test-server.ts';
import {
  firstOwner,
  joined,
  later,
  mailTo,
  me,
  PASSWORD,
  refusal,
  tokenOf,
  Visitor,
} from '../testing/visitor.ts';
import { ownerLink } from './door.ts';

let server: TestServer;
let owner: Visitor;
beforeAll(async () => {
  server = await startTestServer({ door: true });
  owner = await firstOwner(server);
});
afterAll(() => server.stop());

const stranger = () => new Visitor(server);

describe('the first start', () => {
  test('makes the owner of what is there, by the link alone, and once', async () => {
    const fresh = await startTestServer({ door: true });
    const door = { ...fresh.people.door };
    const first = (await ownerLink(door)) ?? '';
    const second = (await ownerLink(door)) ?? '';
    expect(second).toMatch(/^http:\/\/127\.0\.0\.1:\d+\/door\/first#[\w-]{43}$/);
    const visitor = new Visitor(fresh);
    expect(await visitor.call(api.readDoor)).toMatchObject({ stands: 'outside', isFirst: true, demo: null });
    const body = { name: 'Olive', email: 'Olive@Tea.example ', password: PASSWORD, workspace: 'Leaf' };
    const by = (token: string) => visitor.call(api.makeOwner, { body: { ...body, token } });
    expect(await refusal(by(tokenOf(first)))).toMatchObject({ status: 404 });
    expect(await refusal(by('x'.repeat(43)))).toMatchObject({ status: 404 });
    const two = await Promise.all([refusal(by(tokenOf(second))), refusal(by(tokenOf(second)))]);
    expect(two.filter((one) => one === null)).toHaveLength(1);
    const signed = new Visitor(fresh);
    await signed.signIn('olive@tea.example');
    expect(await me(signed)).toMatchObject({
      name: 'Olive',
      workspace: 'Leaf',
      email: 'olive@tea.example',
      role: 'owner',
      actor: fresh.caller.actor,
    });
    expect(await ownerLink(door)).toBeNull();
    await fresh.stop();
  });

  test('does not take a password that is guessed first', async () => {
    const fresh = await startTestServer({ door: true });
    const token = tokenOf(await ownerLink(fresh.people.door));
    const by = (password: string) =>
      new Visitor(fresh).call(api.makeOwner, {
        body: { token, name: 'Olive Brindle', email: 'olive@tea.example', password, workspace: 'Leaf' },
      });
    for (const password of ['password1234', 'olivebrindle', 'aaaaaaaaaaaaaa', 'qwertyuiop12'])
      expect([password, (await refusal(by(password)))?.at]).toEqual([password, 'password']);
    expect(await refusal(by('short'))).toMatchObject({ status: 400, at: 'password' });
    await fresh.stop();
  });
});

describe('signing in', () => {
  test('nothing but the door answers who is not signed in', async () => {
    const visitor = stranger();
    for (const { endpoint } of api.allEndpoints) {
      if (endpoint.access === 'open') continue;
      const path = endpoint.path
        .replace(/:(?:job|set|readBack)\b/g, crypto.randomUUID())
        .replace(/:\w+/g, '1');
      const { status } = await visitor.fetch(path, {
        method: endpoint.method,
        ...(endpoint.method === 'GET' ? {} : { body: '{}' }),
      });
      expect([endpoint.path, status]).toEqual([endpoint.path, 401]);
    }
    expect(visitor.cookie).toBe('');
  });

  test('the cookie is for this server alone, and no script reads it', async () => {
    const visitor = stranger();
    await visitor.signIn('olive@tea.example');
    expect(visitor.setCookie).toMatch(/^sprig=[^;]+; Path=\/; Expires=[^;]+; HttpOnly; SameSite=Strict$/);
  });

  test('where it is opened by https the cookie goes over https alone, whatever the proxy says', async () => {
    const secure = await startTestServer({
      door: true,
      settings: { PUBLIC_URL: 'https://sprig.example/', TRUST_PROXY: '1' },
    });
    const visitor = await firstOwner(secure);
    expect(visitor.setCookie).toMatch(
      /^__Host-sprig=[^;]+; Path=\/; Expires=[^;]+; HttpOnly; Secure; SameSite=Strict$/,
    );
    const far = new Visitor(secure, { 'x-forwarded-for': '203.0.113.7' });
    await far.signIn('olive@tea.example');
    const { sessions } = await far.call(api.listSessions);
    expect(sessions.map(({ address }) => address).sort()).toEqual(['127.0.0.1', '203.0.113.7'].sort());
    expect((await far.fetch('/api/door')).headers.get('strict-transport-security')).toContain('max-age=');
    const { link } = await far.call(api.invitePerson, {
      body: { email: 'una@tea.example', role: 'reader', permissions: [] },
    });
    expect(link).toMatch(/^https:\/\/sprig\.example\/door\/invited#/);
    await secure.stop();
  });

  test('a cookie from before is not the one after: nobody is let in by one they put there', async () => {
    const visitor = stranger();
    await refusal(visitor.call(api.signInByCode, { body: { code: '123456' } }));
    const second = await joined(owner, 'factor@tea.example');
    await second.call(api.signOut);
    await visitor.signIn('factor@tea.example');
    const before = visitor.copy();
    await visitor.signIn('olive@tea.example');
    expect(visitor.cookie).not.toBe(before.cookie);
    expect((await before.call(api.readDoor)).stands).toBe('outside');
    const planted = stranger();
    planted.cookie = 'sprig=s%3Aplanted.signature';
    await planted.signIn('olive@tea.example');
    expect(planted.cookie).not.toContain('planted');
  });

  test('a cookie that was stolen is worth nothing after signing out', async () => {
    const visitor = stranger();
    await visitor.signIn('olive@tea.example');
    const thief = visitor.copy();
    expect((await me(thief)).name).toBe('Olive Brindle');
    await visitor.call(api.signOut);
    expect(await refusal(me(thief))).toMatchObject({ status: 401, code: 'signed-out' });
  });

  test('a session ends when nothing was asked for long, and at any rate after two weeks', async () => {
    const visitor = stranger();
    await visitor.signIn('olive@tea.example');
    await later(server, 'sessions', 'seen_at', 11);
    expect((await me(visitor)).name).toBe('Olive Brindle');
    await later(server, 'sessions', 'seen_at', 13);
    expect(await refusal(me(visitor))).toMatchObject({ status: 401 });
    await visitor.signIn('olive@tea.example');
    await later(server, 'sessions', 'ends_at', 14 * 24 + 1);
    expect(await refusal(me(visitor))).toMatchObject({ status: 401 });
    await later(server, 'links', 'ends_at', 31 * 24);
    await later(server, 'links', 'used_at', 31 * 24);
    await server.people.tidy();
    for (const table of ['sessions', 'links'])
      expect([table, await select(server.database, `select 1 from ${table}`)]).toEqual([table, []]);
    await owner.signIn('olive@tea.example');
  });

  test('what is kept of sessions and links lets nobody in', async () => {
    const kept = await select(
      server.database,
      'select s::text as row from sessions s union all select l::text from links l',
    );
    const secret =
      decodeURIComponent(owner.cookie)
        .replace(/^sprig=s:/, '')
        .split('.')[0] ?? '';
    expect(secret.length).toBeGreaterThan(20);
    expect(JSON.stringify(kept)).not.toContain(secret);
  });

  test('a wrong address and a wrong password are told alike', async () => {
    const wrong = await refusal(stranger().signIn('olive@tea.example', 'not this one at all'));
    const unknown = await refusal(stranger().signIn('nobody@tea.example', 'not this one at all'));
    expect(wrong).toMatchObject({ status: 400, at: 'password' });
    expect(unknown).toEqual(wrong);
  });

  test('a thousand passwords are not tried: after ten the right one is refused too', async () => {
    await joined(owner, 'target@tea.example');
    const before = (
      await select(server.database, `select 1 from audit_entries where kind = 'sign-in-failed'`)
    ).length;
    const tried = [];
    for (let from = 0; from < 1_000; from += 50)
      tried.push(
        ...(await Promise.all(
          Array.from({ length: 50 }, (_, at) =>
            refusal(stranger().signIn('target@tea.example', `guess number ${from + at}`)),
          ),
        )),
      );
    const codes = tried.map((one) => one?.code);
    expect(codes.filter((code) => code === 'invalid').length).toBeLessThanOrEqual(10);
    expect(codes.filter((code) => code === 'too-many').length).toBeGreaterThanOrEqual(990);
    expect(await refusal(stranger().signIn('target@tea.example'))).toMatchObject({ code: 'too-many' });
    const noted = await select(server.database, `select 1 from audit_entries where kind = 'sign-in-failed'`);
    expect(noted.length - before).toBeLessThanOrEqual(10);
    await server.database.query('truncate attempts');
    expect(await stranger().signIn('target@tea.example')).toEqual({ next: 'in' });
  }, 60_000);

  test('a page of another site can do nothing with the cookie: by a form, by a script, by a picture', async () => {
    const thief = owner.copy();
    for (const headers of [
      { origin: 'https://evil.example', 'content-type': 'text/plain' },
      { origin: 'https://evil.example', 'content-type': 'application/x-www-form-urlencoded' },
      { origin: 'https://evil.example' },
      { origin: 'null' },
    ] as Record<string, string>[])
      expect((await thief.fetch('/api/door/sign-out', { method: 'POST', headers, body: '{}' })).status).toBe(
        400,
      );
    // A picture asks by GET, which changes nothing: there is no other way out than by POST.
    expect((await thief.fetch('/api/door/sign-out')).status).toBe(404);
    expect((await me(owner)).name).toBe('Olive Brindle');
  });
});

describe('a second factor', () => {
  const code = (secret: string, ahead = 0) =>
    generateSync({ secret, epoch: Math.floor(Date.now() / 1_000) + ahead * 30 });

  test('is asked for once it is on, and no code of it works twice', async () => {
    const visitor = await joined(owner, 'second@tea.example');
    const begin = (password: string) => visitor.call(api.beginSecondFactor, { body: { password } });
    expect(await refusal(begin('not mine at all'))).toMatchObject({ status: 400 });
    const { secret, uri } = await begin(PASSWORD);
    expect(uri).toContain(`secret=${secret}`);
    const [kept] = await select<{ row: string }>(
      server.database,
      `select p::text as row from people p where email = 'second@tea.example'`,
    );
    expect(kept?.row).not.toContain(secret);
    expect(await refusal(visitor.call(api.confirmSecondFactor, { body: { code: '000000' } }))).toMatchObject({
      at: 'code',
    });
    // Until it is confirmed it does not count.
    expect(await stranger().signIn('second@tea.example')).toEqual({ next: 'in' });
    const first = code(secret);
    const { recoveryCodes } = await visitor.call(api.confirmSecondFactor, { body: { code: first } });
    expect(new Set(recoveryCodes).size).toBe(10);

    const again = stranger();
    expect(await again.signIn('second@tea.example')).toEqual({ next: 'code' });
    expect((await again.call(api.readDoor)).stands).toBe('code');
    expect(await refusal(me(again))).toMatchObject({ status: 401 });
    const tell = (typed: string) => again.call(api.signInByCode, { body: { code: typed } });
    expect(await refusal(tell(first))).toMatchObject({ at: 'code' });
    expect(await tell(code(secret, 1))).toEqual({ next: 'in' });
    expect((await me(again)).hasSecondFactor).toBe(true);

    const lost = stranger();
    await lost.signIn('second@tea.example');
    const spare = recoveryCodes[3] ?? '';
    expect(await lost.call(api.signInByCode, { body: { code: ` ${spare.toUpperCase()}` } })).toEqual({
      next: 'in',
    });
    await lost.signIn('second@tea.example');
    expect(await refusal(lost.call(api.signInByCode, { body: { code: spare } }))).toMatchObject({
      at: 'code',
    });

    await again.call(api.endSecondFactor, { body: { password: PASSWORD } });
    expect(await stranger().signIn('second@tea.example')).toEqual({ next: 'in' });
  });

  test('is not guessed, and without the password nothing is asked', async () => {
    const visitor = await joined(owner, 'third@tea.example');
    const { secret } = await visitor.call(api.beginSecondFactor, { body: { password: PASSWORD } });
    await visitor.call(api.confirmSecondFactor, { body: { code: code(secret) } });
    expect(
      await refusal(stranger().call(api.signInByCode, { body: { code: code(secret, 1) } })),
    ).toMatchObject({ status: 401 });
    const guessing = stranger();
    await guessing.signIn('third@tea.example');
    const tried = await Promise.all(
      Array.from({ length: 50 }, (_, at) =>
        refusal(guessing.call(api.signInByCode, { body: { code: String(100_000 + at) } })),
      ),
    );
    expect(tried.filter((one) => one?.code === 'too-many').length).toBeGreaterThanOrEqual(40);
    expect(await refusal(guessing.call(api.signInByCode, { body: { code: code(secret, 1) } }))).toMatchObject(
      { code: 'too-many' },
    );
    await server.database.query('truncate attempts');
  });
});

describe('a forgotten password', () => {
  test('is set by a link of a mail, once, and ends all sessions; an unknown address is told the same', async () => {
    const visitor = await joined(owner, 'forgot@tea.example');
    const ask = (email: string) => stranger().call(api.forgetPassword, { body: { email } });
    expect(await ask('forgot@tea.example')).toEqual(await ask('nobody@tea.example'));
    const token = tokenOf(/\S+#\S+/.exec(await mailTo(server, 'forgot@tea.example'))?.[0] ?? '');
    expect(await stranger().call(api.readLink, { body: { token } })).toMatchObject({
      kind: 'reset',
      email: 'forgot@tea.example',
    });
    const set = (password: string) => stranger().call(api.resetPassword, { body: { token, password } });
    expect(await refusal(set('forgot@tea.example'))).toMatchObject({ at: 'password' });
    await set('copper window seven fields');
    expect(await refusal(set('copper window eight fields'))).toMatchObject({ status: 404 });
    expect(await refusal(me(visitor))).toMatchObject({ status: 401 });
    expect(await refusal(visitor.signIn('forgot@tea.example'))).toMatchObject({ at: 'password' });
    expect(await visitor.signIn('forgot@tea.example', 'copper window seven fields')).toEqual({ next: 'in' });
    expect(
      await select(server.database, `select 1 from mails where recipient = 'nobody@tea.example'`),
    ).toEqual([]);
  });

  test('a link works for an hour', async () => {
    await joined(owner, 'late@tea.example');
    await stranger().call(api.forgetPassword, { body: { email: 'late@tea.example' } });
    const token = tokenOf(/\S+#\S+/.exec(await mailTo(server, 'late@tea.example'))?.[0] ?? '');
    await later(server, 'links', 'ends_at', 1);
    expect(await refusal(stranger().call(api.readLink, { body: { token } }))).toMatchObject({ status: 404 });
  });
});

describe('one’s own account', () => {
  test('a new password ends all other sessions, and this one goes on under another cookie', async () => {
    const visitor = await joined(owner, 'changes@tea.example');
    const elsewhere = stranger();
    await elsewhere.signIn('changes@tea.example');
    const before = visitor.copy();
    const change = (now: string, next: string) => visitor.call(api.changePassword, { body: { now, next } });
    expect(await refusal(change('not this', 'copper window seven fields'))).toMatchObject({ at: 'now' });
    expect(await refusal(change(PASSWORD, PASSWORD))).toMatchObject({ at: 'next' });
    await change(PASSWORD, 'copper window seven fields');
    expect((await me(visitor)).email).toBe('changes@tea.example');
    for (const other of [elsewhere, before]) expect(await refusal(me(other))).toMatchObject({ status: 401 });
  });

  test('one’s sessions are listed and ended, nobody else’s', async () => {
    const visitor = await joined(owner, 'lists@tea.example');
    const elsewhere = new Visitor(server, { 'user-agent': 'A browser <b>of mine</b>' });
    await elsewhere.signIn('lists@tea.example');
    const list = async () => (await visitor.call(api.listSessions)).sessions;
    const sessions = await list();
    expect(sessions.map(({ isThis, agent }) => [isThis, agent]).sort()).toEqual([
      [false, 'A browser <b>of mine</b>'],
      [true, 'node'],
    ]);
    const end = (by: Visitor, session: string | null) => by.call(api.endSessions, { body: { session } });
    const other = sessions.find(({ isThis }) => !isThis)?.id ?? '';
    expect(await end(owner, other)).toEqual({ ended: 0 });
    expect(await end(visitor, other)).toEqual({ ended: 1 });
    expect(await refusal(me(elsewhere))).toMatchObject({ status: 401 });
    await elsewhere.signIn('lists@tea.example');
    expect(await end(visitor, null)).toEqual({ ended: 1 });
    expect((await list()).length).toBe(1);
  });

  test('a name is what others see, whatever stands in it', async () => {
    const visitor = await joined(owner, 'named@tea.example');
    await visitor.call(api.changeMyName, { body: { name: '  <img src=x>  =1+1 ' } });
    const { members } = await owner.call(api.listPeople);
    expect(members.map(({ name }) => name)).toContain('<img src=x> =1+1');
    const file = await (await owner.fetch('/api/people/audit/file')).text();
    expect(file.split('\r\n')[0]).toBe('At,What,Who,About,From');
    expect(await refusal(visitor.call(api.changeMyName, { body: { name: '   ' } }))).toMatchObject({
      status: 400,
    });
  });
});
