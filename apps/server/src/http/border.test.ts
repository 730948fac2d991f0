import { request } from 'node:http';
import { gzipSync } from 'node:zlib';
import type { Failure } from '@sprig/contracts';
import * as api from '@sprig/contracts';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { execute } from '../db/connect.ts';
import { migrate } from '../db/migrate.ts';
import { planOf, startTestServer, type TestServer } from '../testing/start-test-server.ts';
import { allowedHosts } from './own-host.ts';

let server: TestServer;
let plan: number;
beforeAll(async () => {
  server = await startTestServer();
  plan = await planOf(server);
});
afterAll(() => server.stop());

type Sent = { method?: string; path?: string; headers?: Record<string, string>; body?: string | Buffer };
type Answer = { status: number; text: string; failure: Partial<Failure> };

/** Sends what a browser would never let one send. */
function send({ method = 'GET', path = '/api/plans', headers = {}, body }: Sent): Promise<Answer> {
  const { port } = new URL(server.url);
  return new Promise((resolve, reject) => {
    const asked = request({ host: '127.0.0.1', port, method, path, headers }, (answer) => {
      let text = '';
      answer.setEncoding('utf8');
      answer.on('data', (piece: string) => {
        text += piece;
      });
      answer.on('end', () => {
        let failure = {};
        try {
          failure = JSON.parse(text) as Failure;
        } catch {}
        resolve({ status: answer.statusCode ?? 0, text, failure });
      });
    });
    asked.on('error', reject);
    asked.end(body);
  });
}
const port = () => new URL(server.url).port;
const rename = (headers: Record<string, string>) =>
  send({
    method: 'PATCH',
    path: `/api/plans/${plan}/brief`,
    headers: { 'content-type': 'application/json', ...headers },
    body: JSON.stringify({ edits: [{ at: 'name', before: 'Kayaks', after: 'Stolen' }] }),
  });
const nameNow = async () => (await server.call(api.openPlan, { params: { plan } })).brief.name;

describe('who may ask', () => {
  test.each(['localhost', '127.0.0.1', '[::1]', 'LOCALHOST'])('as %s it answers', async (name) => {
    expect((await send({ headers: { host: `${name}:${port()}` } })).status).toBe(200);
  });

  test.each(['evil.example', 'localhost.evil.example', '127.0.0.1.evil.example:80', 'tea.example:4600'])(
    'as %s it does not: a foreign name may lead here',
    async (host) => {
      const { status, failure } = await send({ headers: { host } });
      expect(status).toBe(400);
      expect(failure.message).toContain('ALLOWED_HOSTS');
    },
  );

  test('names that it is told of are its own', () => {
    const hosts = allowedHosts('tea.example, Sprig.Example');
    expect([...hosts]).toEqual(['localhost', '127.0.0.1', '[::1]', 'tea.example', 'sprig.example']);
    expect(allowedHosts('').has('')).toBe(false);
  });

  test.each([
    ['another site', { origin: 'https://evil.example' }],
    ['another port of this machine', { origin: 'http://127.0.0.1:1' }],
    ['a page from nowhere', { origin: 'null' }],
    ['a form of another site', { origin: 'https://evil.example', 'content-type': 'text/plain' }],
    ['a browser that says so', { 'sec-fetch-site': 'cross-site' }],
  ])('%s may not write', async (_, headers) => {
    expect((await rename(headers as unknown as Record<string, string>)).status).toBe(400);
    expect(await nameNow()).toBe('Kayaks');
  });

  test('its own page may', async () => {
    const own = `127.0.0.1:${port()}`;
    expect(
      (await rename({ host: own, origin: `http://${own}`, 'sec-fetch-site': 'same-origin' })).status,
    ).toBe(200);
    expect(await nameNow()).toBe('Stolen');
    await server.call(api.undoChange, { params: { plan }, body: {} });
  });
});

describe('what can’t be so is told, and is no fault of the server', () => {
  const json = { 'content-type': 'application/json' };
  const cases: [string, () => Sent][] = [
    ['a number beyond all of ours', () => ({ path: '/api/plans/2147483648' })],
    ['a number with thirty digits', () => ({ path: `/api/plans/${'9'.repeat(30)}` })],
    ['an address that is not escaped soundly', () => ({ path: '/api/plans/%E0%A4%A' })],
    ['half an escape', () => ({ path: `/api/plans/${plan}/groups/%` })],
    [
      'gzip that is none',
      () => ({
        method: 'POST',
        headers: { ...json, 'content-encoding': 'gzip' },
        body: Buffer.from('not gzip at all'),
      }),
    ],
    [
      'a packing that it does not know',
      () => ({ method: 'POST', headers: { ...json, 'content-encoding': 'squash' }, body: '{}' }),
    ],
    [
      'a charset that there is none of',
      () => ({
        method: 'POST',
        headers: { 'content-type': 'application/json; charset=klingon' },
        body: '{}',
      }),
    ],
    ['JSON that ends too early', () => ({ method: 'POST', headers: json, body: '{"name":' })],
    ['JSON that is no object', () => ({ method: 'POST', headers: json, body: '[1,2]' })],
    [
      'a list of minus one',
      () => ({
        method: 'PATCH',
        path: `/api/plans/${plan}/layout`,
        headers: json,
        body: JSON.stringify({ edits: [{ at: 'lanes.length', before: 1, after: -1 }] }),
      }),
    ],
    [
      'a field of all objects',
      () => ({
        method: 'PATCH',
        path: `/api/plans/${plan}/layout`,
        headers: json,
        body: JSON.stringify({ edits: [{ at: '__proto__.polluted', before: null, after: true }] }),
      }),
    ],
    [
      'NUL in a name',
      () => ({
        method: 'POST',
        headers: json,
        body: JSON.stringify({ name: 'Tea\0', currency: 'GBP', language: 'en', site: 'tea.example' }),
      }),
    ],
    ['a job that is no number', () => ({ path: `/api/plans/${plan}/jobs/%00` })],
    ['a source beyond all of ours', () => ({ path: `/api/plans/${plan}/sources/4294967296/problems` })],
    ['a set that is none', () => ({ path: `/api/plans/${plan}/sheet-sets/x/zip` })],
  ];
  test.each(cases)('%s', async (_, sent) => {
    const { status, failure } = await send({ path: '/api/plans', ...sent() });
    expect([status >= 400 && status < 500, status]).toEqual([true, status]);
    expect(failure.code).not.toBe('internal');
    expect(failure.message).toBeTruthy();
  });

  test('what is packed soundly is read', async () => {
    const body = gzipSync(
      JSON.stringify({ name: 'Packed', currency: 'GBP', language: 'en', site: 'tea.example' }),
    );
    const { status } = await send({
      method: 'POST',
      path: '/api/plans',
      headers: { ...json, 'content-encoding': 'gzip' },
      body,
    });
    expect(status).toBe(200);
  });
});

test('data of a newer version is refused, with the remedy, and left as it is', async () => {
  await execute(server.database, `insert into migrations (name) values ('999-of-tomorrow')`);
  try {
    await expect(migrate(server.database, server.databaseUrl)).rejects.toThrow(
      /newer version of Green Sprig \(it has 999-of-tomorrow\).*SPRIG_DATA_DIR/,
    );
  } finally {
    await execute(server.database, `delete from migrations where name = '999-of-tomorrow'`);
  }
  await migrate(server.database, server.databaseUrl);
});
