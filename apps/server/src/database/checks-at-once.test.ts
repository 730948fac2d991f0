import { afterAll, beforeAll, expect, test } from 'vitest';
import { planOf, poolOf, startTestServer, type TestServer, takeIn } from '../testing/start-test-server.ts';
import { execute, select } from './connect.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const refused = { cause: { code: '23503' } };
const causeOf = (run: Promise<unknown>) =>
  run.then(
    () => 'not refused',
    (error: Error & { original?: { code?: string } }) => ({ cause: { code: error.original?.code } }),
  );

test('a mention without its keyword is refused, however many are put in or changed at once', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'kayak\ncanoe\nraft\n');
  const again = (keyword: string) =>
    execute(
      server.database,
      `insert into mentions (plan_id, workspace_id, source_id, keyword_id, line, asked, marks, searches_about, cpc_about)
       select plan_id, workspace_id, source_id + 1000, ${keyword}, line, asked, marks, false, false from mentions where plan_id = $1`,
      [plan],
    );
  await again('keyword_id');
  expect(await causeOf(again('keyword_id + 5000'))).toEqual(refused);
  const moved = execute(
    server.database,
    'update mentions set keyword_id = keyword_id + 5000 where plan_id = $1',
    [plan],
  );
  expect(await causeOf(moved)).toEqual(refused);
  const [count] = await select<{ n: number }>(
    server.database,
    'select count(*)::int as n from mentions where plan_id = $1',
    [plan],
  );
  expect(count?.n).toBe(6);
});

test('a keyword that is mentioned does not go without its mentions; with them it does', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'kayak\ncanoe\n');
  const gone = (first: string) =>
    execute(server.database, `${first} delete from keywords where plan_id = $1`, [plan]);
  expect(await causeOf(gone(''))).toEqual(refused);
  expect((await poolOf(server, plan)).ids.length).toBe(2);
  await gone('with said as (delete from mentions where plan_id = $1)');
  expect((await poolOf(server, plan)).ids.length).toBe(0);
});

test('rows that wait go with the sheets that they are of, and no others do', async () => {
  const plan = await planOf(server);
  const id = (n: number) => `00000000-0000-4000-8000-00000000000${n}`;
  for (const n of [1, 2]) {
    await execute(
      server.database,
      `insert into read_backs (id, plan_id, workspace_id, revision, body) values ($1, $2, 1, 1, '{}')`,
      [id(n), plan],
    );
    await execute(
      server.database,
      `insert into read_back_rows (read_back_id, n, kind, change, taken, body) select $1, n, 'group', 'added', true, '{}' from generate_series(1, 3) n`,
      [id(n)],
    );
  }
  await execute(server.database, 'delete from read_backs where id = $1', [id(1)]);
  const left = await select<{ id: string }>(
    server.database,
    'select distinct read_back_id as id from read_back_rows',
  );
  expect(left).toEqual([{ id: id(2) }]);
});
