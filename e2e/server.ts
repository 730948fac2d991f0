import { type ChildProcess, fork } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { createServer } from 'node:net';
import { fileURLToPath } from 'node:url';
import { test as base } from '@playwright/test';
import pg from 'pg';

/** Each test has a server, a database and a browser context of its own. */
export const test = base.extend<{ url: string }>({
  // biome-ignore lint/correctness/noEmptyPattern: Playwright asks for a destructured first argument
  url: async ({}, use) => {
    const server = await startServer();
    await use(server.url);
    await server.stop();
  },
});
export { expect } from '@playwright/test';

const baseUrl = () => {
  const url = process.env.TEST_DATABASE_URL;
  if (!url) throw new Error('TEST_DATABASE_URL is not set: run the tests by `npm test`.');
  return url;
};

async function startServer(): Promise<{ url: string; stop: () => Promise<void> }> {
  const name = `e2e_${randomUUID().replaceAll('-', '')}`;
  const admin = new pg.Client({ connectionString: baseUrl() });
  await admin.connect();
  await admin.query(`create database ${name}`);
  await admin.end();
  const port = await freePort();
  const child: ChildProcess = fork(
    fileURLToPath(new URL('../apps/server/src/start.ts', import.meta.url)),
    [],
    {
      execArgv: ['--import', 'tsx'],
      env: {
        ...process.env,
        DATABASE_URL: baseUrl().replace(/\/[^/]*$/, `/${name}`),
        PORT: String(port),
        LOG_LEVEL: 'error',
      },
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    },
  );
  await once(child, 'message');
  return {
    url: `http://127.0.0.1:${port}`,
    stop: async () => {
      child.kill('SIGTERM');
      await once(child, 'exit');
    },
  };
}

async function freePort(): Promise<number> {
  const server = createServer().listen(0, '127.0.0.1');
  await once(server, 'listening');
  const { port } = server.address() as { port: number };
  server.close();
  return port;
}
