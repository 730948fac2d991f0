import { type Access, accesses, allEndpoints, may, type Role, roles, type Standing } from '@sprig/contracts';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { askRoute } from '../testing/ask-route.ts';
import { planOf, startTestServer, type TestServer } from '../testing/start-test-server.ts';
import { openApi } from './openapi.ts';

let standing: Standing = { role: 'owner', permissions: [] };
let server: TestServer;
let plan: number;
beforeAll(async () => {
  server = await startTestServer({ standing: () => standing });
  plan = await planOf(server);
});
afterAll(() => server.stop());

const TABLE: Record<Access, readonly Role[]> = {
  open: roles,
  self: roles,
  read: ['owner', 'builder', 'writer', 'reader'],
  write: ['owner', 'builder', 'writer'],
  build: ['owner', 'builder'],
  ship: ['owner'],
  approve: ['owner'],
  people: ['owner'],
};

test('who may do what, and who was let to ship besides', () => {
  for (const access of accesses)
    expect(roles.filter((role) => may({ role, permissions: [] }, access))).toEqual(TABLE[access]);
  for (const access of ['ship', 'approve'] as const)
    expect(roles.filter((role) => may({ role, permissions: [access] }, access))).toEqual(
      roles.filter((role) => role !== 'guest'),
    );
  expect(may({ role: 'reader', permissions: ['ship', 'approve'] }, 'build')).toBe(false);
});

describe.each(roles)('every call, asked by somebody who is %s', (role) => {
  test('is refused where it asks for more, whatever was sent, and only there', async () => {
    standing = { role, permissions: [] };
    const wrong: string[] = [];
    for (const { name, endpoint } of allEndpoints) {
      const { code } = await askRoute(server, endpoint, plan);
      // To a guest a plan that was not opened to them is not there.
      const isRefused =
        role === 'guest' && endpoint.path.includes(':plan') ? code === 'not-found' : code === 'forbidden';
      if (isRefused === TABLE[endpoint.access].includes(role)) wrong.push(`${name} (${endpoint.access})`);
    }
    standing = { role: 'owner', permissions: [] };
    expect(wrong).toEqual([]);
  });
});

test('every route of the server is a call that contracts define, and the other way round', () => {
  const own = ['GET /api/health', 'GET /metrics', 'GET /api/openapi.json', 'GET /api/docs'];
  const routes = server.routes
    .map(({ method, path }) => `${method} ${path}`)
    .filter((route) => route.startsWith('GET /metrics') || route.includes(' /api'));
  const defined = allEndpoints.map(({ endpoint: { method, path } }) => `${method} ${path}`);
  expect(routes.filter((route) => !own.includes(route)).sort()).toEqual(defined.sort());
});

test('the calls are served as OpenAPI 3.1 and as a page; every reference leads somewhere', async () => {
  const answer = await fetch(`${server.url}/api/openapi.json`);
  const api = (await answer.json()) as ReturnType<typeof openApi>;
  expect(api).toEqual(JSON.parse(JSON.stringify(openApi())));
  expect(api.openapi).toBe('3.1.0');
  const operations = Object.values(api.paths).flatMap((methods) => Object.values(methods));
  expect(operations).toHaveLength(allEndpoints.length);
  for (const [path, methods] of Object.entries(api.paths))
    for (const { parameters } of Object.values(methods)) {
      const named = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => name);
      expect(
        parameters
          .filter((one) => one.in === 'path')
          .map(({ name }) => name)
          .sort(),
      ).toEqual(named.sort());
    }
  const refs = [...JSON.stringify(api).matchAll(/"\$ref":"#\/components\/([^"]+)"/g)].map(([, at]) => at);
  expect(new Set(refs)).toEqual(new Set(['schemas/Failure']));
  const page = await (await fetch(`${server.url}/api/docs`)).text();
  for (const { name } of allEndpoints) expect(page).toContain(` ${name} <i>`);
  expect(page.match(/<script[^>]*>/g)).toEqual(['<script src="/try-calls.js" defer>']);
  const calls = [...page.matchAll(/data-call="([^"]*)"/g)].map(([, call = '']) =>
    JSON.parse(call.replaceAll('&quot;', '"').replaceAll('&amp;', '&')),
  );
  expect(calls).toHaveLength(allEndpoints.length);
  expect(calls.find(({ path }) => path === '/api/door/sign-in')).toEqual({
    method: 'POST',
    path: '/api/door/sign-in',
    parameters: [],
    body: '{\n  "email": null,\n  "password": null\n}',
  });
});
