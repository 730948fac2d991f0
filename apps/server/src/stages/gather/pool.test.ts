import { afterAll, beforeAll, expect, test } from 'vitest';
import { execute } from '../../db/connect.ts';
import { keywords } from '../../db/tables/gather.ts';
import { columnsOf } from '../../db/tables/index.ts';
import { planOf, poolOf, startTestServer, type TestServer, takeIn } from '../../testing/start-test-server.ts';
import { carriedBy } from './pool.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

/** Another value than a keyword without figures has. */
const OTHER: Record<string, string> = {
  int2: '2',
  int4: '7',
  int8: '7000',
  text: `'other'`,
  bool: 'true',
  'int2[]': `'{0}'`,
};

test('the pool carries every column of a keyword, each where it is said to be', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'copper kettle');
  const read = async (): Promise<Record<string, unknown>> => {
    const pool = await poolOf(server, plan);
    return { ...pool, marks: [...pool.marks], toldOf: [...pool.toldOf] };
  };
  const columns = columnsOf(keywords, ({ isAside }) => !isAside);
  expect(Object.keys(carriedBy).sort()).toEqual(columns.map(({ name }) => name).sort());
  for (const { name, type } of columns.filter(({ name }) => name !== 'id')) {
    const before = await read();
    await execute(server.database, `update keywords set ${name} = ${OTHER[type]} where plan_id = $1`, [plan]);
    const after = await read();
    const moved = Object.keys(after).filter(
      (column) => JSON.stringify(after[column]) !== JSON.stringify(before[column]),
    );
    expect([name, moved]).toEqual([name, [carriedBy[name as keyof typeof carriedBy]]]);
  }
});
