import { randomUUID } from 'node:crypto';
import { test as base } from '@playwright/test';
import pg from 'pg';
import { freePort } from '../scripts/setup/free-port.mjs';
import { startServer } from '../scripts/setup/server.mjs';
import { forBrowser, signInOwner } from '../scripts/setup/sign-in.mjs';
import { ensureWeb } from '../scripts/setup/web.mjs';
import { isSignedIn } from './signed-in.ts';

/**
 * A server and a database for each worker, emptied before each test, and a browser context for each test. Numbers of
 * plans go on, so that nothing which the server remembers of an earlier test can be taken for a later one's.
 */
export const test = base.extend<
  { url: string },
  { server: { url: string; database: string; cookie: string } }
>({
  server: [
    // biome-ignore lint/correctness/noEmptyPattern: Playwright asks for a destructured first argument
    async ({}, use) => {
      const database = `e2e_${randomUUID().replaceAll('-', '')}`;
      await asAdmin((admin) => admin.query(`create database ${database} template ${TEMPLATE}`));
      const { url, stop } = await serve(database);
      const cookie = await signInOwner(url, addressOf(database));
      await isSignedIn(url, cookie);
      await use({ url, database, cookie });
      await stop();
      await asAdmin((admin) => admin.query(`drop database ${database} with (force)`));
    },
    { scope: 'worker' },
  ],
  context: async ({ context, server }, use) => {
    await context.addCookies([forBrowser(server.cookie, server.url)]);
    await use(context);
  },
  url: async ({ server }, use) => {
    await empty(server.database);
    await use(server.url);
  },
});
export { expect } from '@playwright/test';

const TEMPLATE = 'e2e_template';

/** Playwright's set-up for all tests: the screens as they are now, and a database that is up to date, which each test's is copied from. */
export default async function makeTemplate() {
  await ensureWeb();
  await asAdmin(async (admin) => {
    await admin.query(`drop database if exists ${TEMPLATE}`);
    await admin.query(`create database ${TEMPLATE}`);
  });
  const { stop } = await serve(TEMPLATE);
  await stop();
}

/** A database of its own, up to date and empty, for a server that a test starts itself. */
export async function freshDatabase(): Promise<{ address: string; drop: () => Promise<void> }> {
  const database = `e2e_${randomUUID().replaceAll('-', '')}`;
  await asAdmin((admin) => admin.query(`create database ${database} template ${TEMPLATE}`));
  return {
    address: addressOf(database),
    drop: () => asAdmin((admin) => admin.query(`drop database ${database} with (force)`)),
  };
}

const baseUrl = () => {
  const url = process.env.TEST_DATABASE_URL;
  if (!url) throw new Error('TEST_DATABASE_URL is not set: run the tests by `npm run test:e2e`.');
  return url;
};

/** What stays: the owner, who is signed in, and what migrations did. */
const KEPT = ['migrations', 'workspaces', 'actors', 'people', 'sessions'];

/** Lets the jobs of the test before end, and takes all that it made out of the database. */
async function empty(database: string) {
  await asAdmin(async (client) => {
    const open = `select 1 from jobs where status in ('queued', 'running')`;
    await client.query(`update jobs set status = 'stopped' where status = 'queued'`);
    for (let times = 0; (await client.query(open)).rowCount; times++) {
      if (times === 1_000) throw new Error('a job of the test before does not end');
      await new Promise((done) => setTimeout(done, 20));
    }
    const { rows } = await client.query<{ tables: string }>(
      `select string_agg(quote_ident(tablename), ', ') as tables from pg_tables
       where schemaname = 'public' and tablename <> all($1)`,
      [KEPT],
    );
    await client.query(`truncate ${rows[0]?.tables}`);
    const others = 'in (select id from people where id <> (select min(id) from people))';
    await client.query(`
      delete from sessions where person_id ${others};
      delete from actors where person_id ${others};
      delete from people where id ${others};
      update workspaces set asks_acceptance = default`);
  }, database);
}

const addressOf = (database: string) => baseUrl().replace(/\/[^/]*$/, `/${database}`);

async function asAdmin(work: (admin: pg.Client) => Promise<unknown>, database = 'postgres') {
  const admin = new pg.Client({ connectionString: addressOf(database) });
  await admin.connect();
  try {
    await work(admin);
  } finally {
    await admin.end();
  }
}

async function serve(database: string): Promise<{ url: string; stop: () => Promise<void> }> {
  const port = await freePort();
  const { stop } = await startServer(
    {
      DATABASE_URL: addressOf(database),
      PORT: String(port),
      LOG_LEVEL: 'error',
    },
    { quiet: true },
  );
  return { url: `http://127.0.0.1:${port}`, stop };
}
