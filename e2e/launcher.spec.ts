import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { chmodSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { freePort } from '../scripts/setup/free-port.mjs';
import { startPostgres } from '../scripts/setup/postgres.mjs';
import { fetchSignedIn, isSignedIn } from './signed-in.ts';

/** The command that users start, with a data folder of its own. */
let folder: string;
let port: number;
let launcher: ChildProcess;
let told = '';
test.beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'sprig-launch-'));
  chmodSync(folder, 0o711);
  port = await freePort();
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

const address = () => `http://127.0.0.1:${port}`;
const answers = async (path = '/api/health') =>
  (await fetchSignedIn(`${address()}${path}`).catch(() => null))?.status ?? 0;

/** Makes the owner by the link that the start command prints, as the first visitor does. */
async function comeIn() {
  await expect.poll(() => told).toMatch(/\/door\/first#[\w-]{43}\s/);
  const [, token] = /\/door\/first#([\w-]{43})\s/.exec(told) ?? [];
  const owner = { name: 'Mo', email: 'mo@brightmolar.example', workspace: 'Bright Molar' };
  const made = await fetch(`${address()}/api/door/first`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ ...owner, token, password: 'teal lantern forty gravel' }),
  });
  expect(made.status).toBe(200);
  await isSignedIn(address(), made.headers.getSetCookie()[0]?.split(';')[0] ?? '');
}
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
  await comeIn();
  const brief = { name: 'Teeth', currency: 'GBP', language: 'en', site: 'brightmolar.example' };
  const { id } = await api('POST', '/plans', brief);

  process.kill(serverPid(), 'SIGKILL');
  await expect.poll(() => told).toContain('The server ended (SIGKILL). It is started again (1 of 5).');
  await isUp();
  expect(await answers(`/api/plans/${id}`)).toBe(200);

  process.kill(databasePid(), 'SIGKILL');
  await expect.poll(() => told, { timeout: 60_000 }).toContain('The database runs again.');
  await isUp();
  await expect.poll(() => answers(`/api/plans/${id}`)).toBe(200);

  const pids = [serverPid(), databasePid()];
  expect(pids.map(isAlive)).toEqual([true, true]);
  launcher.kill('SIGKILL');
  await expect.poll(() => pids.map(isAlive)).toEqual([false, false]);
  expect(await answers()).toBe(0);

  // Whoever was signed in is known again, and nobody makes an owner a second time.
  launch();
  await isUp();
  expect(told).not.toContain('/door/first#');
  expect(await answers(`/api/plans/${id}`)).toBe(200);
});

const command = (script: string, file: string) => {
  const { DATABASE_URL: _, ...env } = process.env;
  const done = spawnSync(process.execPath, [`scripts/${script}.mjs`, file], {
    env: { ...env, SPRIG_DATA_DIR: folder },
    encoding: 'utf8',
  });
  return { status: done.status, words: done.stdout + done.stderr };
};
const api = async (method: string, path: string, body: unknown) => {
  const isText = typeof body === 'string';
  const answer = await fetchSignedIn(`${address()}/api${path}`, {
    method,
    ...(method === 'GET' ? {} : { body: isText ? body : JSON.stringify(body) }),
    headers: { 'content-type': isText ? 'text/plain' : 'application/json' },
  });
  return (await answer.json()) as Record<string, never> & {
    counts: { keywords: number };
    brief: { name: string };
  };
};
const end = async () => {
  launcher.kill('SIGTERM');
  await once(launcher, 'exit');
};

test('a plan of 100,000 is copied while it is used, and comes back as it was', async () => {
  launch();
  await isUp();
  await comeIn();
  const brief = { name: 'Teeth', currency: 'GBP', language: 'en', site: 'brightmolar.example' };
  const { id } = await api('POST', '/plans', brief);
  const list = Array.from({ length: 100_000 }, (_, at) => `dentist ${at} of ${at % 977}\t${at}`).join('\n');
  const { upload } = await api('POST', `/plans/${id}/uploads`, list);
  await api('POST', `/plans/${id}/imports`, { upload, kind: 'file', name: 'List', options: {} });
  const stateOf = () => api('GET', `/plans/${id}`, null);
  await expect.poll(async () => (await stateOf()).counts.keywords, { timeout: 60_000 }).toBe(100_000);
  const file = join(folder, 'copies', 'plans.dump');
  expect(command('backup', file)).toMatchObject({ status: 0, words: expect.stringContaining('is written') });
  expect(command('backup', file).words).toContain('is there already');
  const edits = [{ at: 'name', before: 'Teeth', after: 'Gums' }];
  await expect
    .poll(async () => (await api('PATCH', `/plans/${id}/brief`, { edits })).revision)
    .toBeGreaterThan(0);

  expect(command('restore', file)).toMatchObject({
    status: 1,
    words: expect.stringContaining('Stop it first'),
  });
  await end();
  const cut = join(folder, 'cut.dump');
  writeFileSync(cut, readFileSync(file).subarray(0, 2_000_000));
  expect(command('restore', cut)).toMatchObject({
    status: 1,
    words: expect.stringContaining('did not work'),
  });
  launch();
  await isUp();
  expect((await stateOf()).brief.name).toBe('Gums');
  await end();

  expect(command('restore', file)).toMatchObject({
    status: 0,
    words: expect.stringContaining('is taken back'),
  });
  launch();
  await isUp();
  expect((await stateOf()).brief.name).toBe('Teeth');
  expect((await stateOf()).counts.keywords).toBe(100_000);
  const health = async () => (await fetch(`${address()}/api/health?full`)).json();
  await expect.poll(health).toMatchObject({ status: 'ok', runners: 1, listener: 'up' });
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
