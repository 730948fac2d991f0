import { type ChildProcess, spawn } from 'node:child_process';
import { once } from 'node:events';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { type AddressInfo, createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { startPostgres } from '../scripts/setup/postgres.mjs';

/** The command that users start, with a data folder of its own. */
let folder: string;
let port: number;
let launcher: ChildProcess;
let told = '';
test.beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'sprig-launch-'));
  chmodSync(folder, 0o711);
  const free = createServer().listen(0, '127.0.0.1');
  await once(free, 'listening');
  port = (free.address() as AddressInfo).port;
  free.close();
});
test.afterEach(async () => {
  if (launcher.exitCode === null && launcher.signalCode === null) {
    launcher.kill('SIGTERM');
    await once(launcher, 'exit');
  }
  await expect.poll(() => isAlive(databasePid())).toBe(false);
  rmSync(folder, { recursive: true, force: true });
});

function launch() {
  const { DATABASE_URL: _, ...env } = process.env;
  told = '';
  launcher = spawn(process.execPath, ['scripts/demo.mjs'], {
    env: { ...env, SPRIG_DATA_DIR: folder, PORT: String(port), SEED_DEMO: '0' },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  for (const out of [launcher.stdout, launcher.stderr])
    out?.on('data', (words) => {
      told += words;
    });
}

const answers = async (path = '/api/health') =>
  (await fetch(`http://127.0.0.1:${port}${path}`).catch(() => null))?.status ?? 0;
const isUp = () => expect.poll(() => answers(), { timeout: 60_000 }).toBe(200);
const childrenOf = (pid: number) =>
  readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').trim().split(' ').map(Number);
const serverPid = () =>
  childrenOf(launcher.pid as number).find((pid) =>
    readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('start.mjs'),
  ) ?? 0;
const databasePid = () => {
  try {
    return Number(readFileSync(join(folder, 'postgres/postmaster.pid'), 'utf8').split('\n')[0]);
  } catch {
    return 0;
  }
};
function isAlive(pid: number): boolean {
  try {
    return pid > 0 && readFileSync(`/proc/${pid}/cmdline`, 'utf8') !== '';
  } catch {
    return false;
  }
}

test('what dies is started again and says so, and a launcher that is killed leaves nothing behind', async () => {
  launch();
  await isUp();
  const made = await fetch(`http://127.0.0.1:${port}/api/plans`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name: 'Teeth', currency: 'GBP', language: 'en', site: 'brightmolar.example' }),
  });
  const { id } = (await made.json()) as { id: number };

  process.kill(serverPid(), 'SIGKILL');
  await expect
    .poll(() => told, { timeout: 30_000 })
    .toContain('The server ended (SIGKILL). It is started again (1 of 5).');
  await isUp();
  expect(await answers(`/api/plans/${id}`)).toBe(200);

  process.kill(databasePid(), 'SIGKILL');
  await expect.poll(() => told, { timeout: 60_000 }).toContain('The database runs again.');
  await isUp();
  await expect.poll(() => answers(`/api/plans/${id}`)).toBe(200);

  const pids = [serverPid(), databasePid()];
  expect(pids.map(isAlive)).toEqual([true, true]);
  launcher.kill('SIGKILL');
  await expect.poll(() => pids.map(isAlive), { timeout: 30_000 }).toEqual([false, false]);
  expect(await answers()).toBe(0);

  launch();
  await isUp();
  expect(await answers(`/api/plans/${id}`)).toBe(200);
});

test('where the disk is nearly full what is there opens, and nothing new is begun', async () => {
  const begun = startPostgres(folder, { free: () => 299 });
  await expect(begun).rejects.toThrow('Only 299 MB are free');
  launch();
  await isUp();
  launcher.kill('SIGTERM');
  await once(launcher, 'exit');
  const database = await startPostgres(folder, { free: () => 3 });
  expect(isAlive(database.pid)).toBe(true);
  database.stop();
  expect(isAlive(database.pid)).toBe(false);
});
