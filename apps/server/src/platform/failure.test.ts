import pg from 'pg';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { startTestServer, type TestServer } from '../testing/start-test-server.ts';
import { asAdmin } from '../testing/template.ts';
import { isConnectionLost } from './failure.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer({ runner: false });
});
afterAll(() => server.stop());

/** What a client is told that connects and asks. */
async function failureOf(url: string, statement = 'select 1'): Promise<unknown> {
  const client = new pg.Client({ connectionString: url });
  client.on('error', () => {});
  try {
    await client.connect();
    await client.query(statement);
  } catch (error) {
    return error;
  } finally {
    await client.end().catch(() => {});
  }
  throw new Error('It did not fail.');
}

describe('a lost connection is told from a wrong statement', () => {
  test('a database that takes no connections', async () => {
    const name = new URL(server.databaseUrl).pathname.slice(1);
    await asAdmin(`alter database ${name} with allow_connections false`);
    try {
      expect(isConnectionLost(await failureOf(server.databaseUrl))).toBe(true);
    } finally {
      await asAdmin(`alter database ${name} with allow_connections true`);
    }
  });

  test('a connection cut in the middle of a statement', async () => {
    const cut = 'select pg_terminate_backend(pg_backend_pid()), pg_sleep(5)';
    expect(isConnectionLost(await failureOf(server.databaseUrl, cut))).toBe(true);
  });

  test('nobody listens', async () => {
    const elsewhere = new URL(server.databaseUrl);
    elsewhere.hostname = '127.0.0.1';
    elsewhere.port = '1';
    expect(isConnectionLost(await failureOf(elsewhere.href))).toBe(true);
  });

  test.each([
    ['no such table', 'select 1 from nowhere'],
    ['wrong input', "select 'tea'::int"],
    ['not in a state for it', "select currval('plans_id_seq')"],
  ])('%s', async (_, statement) => {
    expect(isConnectionLost(await failureOf(server.databaseUrl, statement))).toBe(false);
  });
});
