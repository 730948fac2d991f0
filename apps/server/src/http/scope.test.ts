import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { select } from '../db/connect.ts';
import { askRoute } from '../testing/ask-route.ts';
import { planOf, startTestServer, type TestServer } from '../testing/start-test-server.ts';

let server: TestServer;
let own: number;
let theirs: number;
beforeAll(async () => {
  server = await startTestServer();
  own = await planOf(server);
  const [other] = await select<{ id: number }>(
    server.database,
    `with w as (insert into workspaces (name) values ('Other') returning id)
     insert into plans (workspace_id, created_by) select w.id, $1 from w returning id`,
    [server.caller.actor],
  );
  theirs = other?.id ?? 0;
});
afterAll(() => server.stop());

const ask = (method: string, path: string, plan: number) => askRoute(server, { method, path }, plan);

describe('everything that is asked of a plan', () => {
  test('is not there for somebody of another workspace, whatever the route', async () => {
    const ofPlans = server.routes.filter(({ path }) => path.includes(':plan'));
    expect(ofPlans.length).toBeGreaterThan(130);
    const open: string[] = [];
    for (const { method, path } of ofPlans) {
      const { status, code } = await ask(method, path, theirs);
      if (status !== 404 || code !== 'not-found') open.push(`${method} ${path}: ${status}`);
    }
    expect(open).toEqual([]);
  });

  test('is there for its own', async () => {
    const gone = (await ask('GET', '/api/plans/:plan/build', theirs)).message;
    const shut: string[] = [];
    for (const { method, path } of server.routes) {
      if (method !== 'GET' || !path.includes(':plan')) continue;
      if ((await ask(method, path, own)).message === gone) shut.push(path);
    }
    expect(shut).toEqual([]);
  });

  test('has a number of a plan in its address', async () => {
    const answer = await fetch(`${server.url}/api/plans/all/build`);
    expect(answer.status).toBe(400);
  });
});
