import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { createServer } from 'node:net';
import { test as base } from '@playwright/test';
import pg from 'pg';
import { startServer } from '../scripts/setup/server.mjs';

/** Each test has a server, a database and a browser context of its own. */
export const test = base.extend<{ url: string }>({
  // biome-ignore lint/correctness/noEmptyPattern: Playwright asks for a destructured first argument
  url: async ({}, use) => {
    const database = `e2e_${randomUUID().replaceAll('-', '')}`;
    await asAdmin((admin) => admin.query(`create database ${database} template ${TEMPLATE}`));
    const { url, stop } = await serve(database);
    await use(url);
    await stop();
    await asAdmin((admin) => admin.query(`drop database ${database} with (force)`));
  },
});
export { expect } from '@playwright/test';

const TEMPLATE = 'e2e_template';

/** Playwright's set-up for all tests: a database that is up to date, which each test's is copied from. */
export default async function makeTemplate() {
  await asAdmin(async (admin) => {
    await admin.query(`drop database if exists ${TEMPLATE}`);
    await admin.query(`create database ${TEMPLATE}`);
  });
  const { stop } = await serve(TEMPLATE);
  await stop();
}

const baseUrl = () => {
  const url = process.env.TEST_DATABASE_URL;
  if (!url) throw new Error('TEST_DATABASE_URL is not set: run the tests by `npm run test:e2e`.');
  return url;
};

async function asAdmin(work: (admin: pg.Client) => Promise<unknown>) {
  const admin = new pg.Client({ connectionString: baseUrl() });
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
      DATABASE_URL: baseUrl().replace(/\/[^/]*$/, `/${database}`),
      PORT: String(port),
      LOG_LEVEL: 'error',
    },
    { quiet: true },
  );
  return { url: `http://127.0.0.1:${port}`, stop };
}

async function freePort(): Promise<number> {
  const server = createServer().listen(0, '127.0.0.1');
  await once(server, 'listening');
  const { port } = server.address() as { port: number };
  server.close();
  return port;
}
