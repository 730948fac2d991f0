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

/** A few rows are looked up one by one, many are held against their plan. */
const LISTS = [3, 200].map((rows) => ({
  rows,
  list: Array.from({ length: rows }, (_, n) => `kayak ${n}`).join('\n'),
}));

test.each(LISTS)(
  'mentions without their keywords are refused, put in or changed: $rows',
  async ({ rows, list }) => {
    const plan = await planOf(server);
    await takeIn(server, plan, list);
    const again = (keyword: string) =>
      execute(
        server.database,
        `insert into mentions (plan_id, workspace_id, source_id, keyword_id, line, asked, marks, searches_about, cpc_about)
       select plan_id, workspace_id, source_id + 1000, ${keyword}, line, asked, marks, false, false from mentions where plan_id = $1`,
        [plan],
      );
    // One of them is enough.
    const [{ last } = { last: 0 }] = await select<{ last: number }>(
      server.database,
      'select max(keyword_id) as last from mentions where plan_id = $1',
      [plan],
    );
    expect(
      await causeOf(again(`case when keyword_id = ${last} then keyword_id + 5000 else keyword_id end`)),
    ).toEqual(refused);
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
    expect(count?.n).toBe(2 * rows);
  },
);

test.each(LISTS)(
  'keywords that are mentioned do not go without their mentions, and go with them: $rows',
  async ({ rows, list }) => {
    const plan = await planOf(server);
    await takeIn(server, plan, list);
    const gone = (first: string) =>
      execute(server.database, `${first} delete from keywords where plan_id = $1`, [plan]);
    expect(await causeOf(gone(''))).toEqual(refused);
    expect((await poolOf(server, plan)).ids.length).toBe(rows);
    await gone('with said as (delete from mentions where plan_id = $1)');
    expect((await poolOf(server, plan)).ids.length).toBe(0);
  },
);

test('a check reads as many rows as its statement has, not their square, in a plan that is new to the database', async () => {
  const { database } = server;
  for (let n = 0; n < 5; n++) await takeIn(server, await planOf(server), 'kayak\ncanoe\nraft\n');
  const plan = await planOf(server);
  await takeIn(server, plan, 'kayak\n');
  // What the database knows from here on is of a few rows in each plan.
  await database.query('analyze keywords');
  await database.query('analyze mentions');
  await database.transaction(async (transaction) => {
    const readOf = async (table: string, sql: string) => {
      const read = async () => {
        const [found] = await select<{ rows: number }>(
          database,
          `select (coalesce(seq_tup_read, 0) + coalesce(idx_tup_fetch, 0))::int as rows from pg_stat_xact_user_tables where relname = $1`,
          [table],
          { transaction },
        );
        return found?.rows ?? 0;
      };
      const before = await read();
      await execute(database, sql, [plan], { transaction });
      return (await read()) - before;
    };
    // A connection that has put in a few rows now and then has settled how it does so.
    const counts = [...Array.from({ length: 8 }, () => 4), 4_000];
    for (const rows of counts) {
      await execute(
        database,
        `insert into keywords (plan_id, workspace_id, id, text, norm, asked, marks, cut, searches_about, cpc_about, changed_revision)
         select p.id, p.workspace_id, 1000 + n, 'kayak ' || n, 'kayak ' || n, 0, '{}', false, false, false, 2
         from plans p, generate_series(1, ${rows}) n where p.id = $1`,
        [plan],
        { transaction },
      );
      const putIn = await readOf(
        'keywords',
        `insert into mentions (plan_id, workspace_id, source_id, keyword_id, line, asked, marks, searches_about, cpc_about)
         select s.plan_id, s.workspace_id, s.id, 1000 + n, n, 0, '{}', false, false
         from sources s, generate_series(1, ${rows}) n where s.plan_id = $1`,
      );
      expect(putIn).toBeLessThan(20_000);
      const gone = await readOf(
        'mentions',
        `with said as (delete from mentions where plan_id = $1 and keyword_id > 1000)
         delete from keywords where plan_id = $1 and id > 1000`,
      );
      expect(gone).toBeLessThan(60_000);
    }
  });
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
