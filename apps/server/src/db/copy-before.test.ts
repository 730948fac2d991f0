import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { programsHere } from '../../../../scripts/setup/postgres.mjs';
import { planOf, startTestServer, type TestServer } from '../testing/start-test-server.ts';
import { select } from './connect.ts';
import { copyBefore, NoCopy } from './copy-before.ts';
import { migrate, migrations } from './migrate.ts';

const programs = programsHere() ?? '';
let server: TestServer;
let folder: string;
beforeAll(async () => {
  server = await startTestServer({ runner: false });
  folder = mkdtempSync(join(tmpdir(), 'sprig-copy-'));
});
afterAll(async () => {
  await server.stop();
  rmSync(folder, { recursive: true });
});

const next = [...migrations, { name: '999-next', sql: 'create table next_version (workspace_id int)' }];
const upgrade = (copy: (after: string) => Promise<unknown>) =>
  migrate(server.database, server.databaseUrl, { copy, list: next });
const isUpgraded = async () => {
  const [row] = await select<{ there: boolean }>(
    server.database,
    `select to_regclass('next_version') is not null as there`,
  );
  return row?.there;
};
const last = migrations.at(-1)?.name ?? '';

test('where no copy can be made nothing is changed, and it says what to do', async () => {
  const file = join(folder, 'no-folder');
  writeFileSync(file, '');
  const nowhere = upgrade((after) => copyBefore(server.databaseUrl, join(file, 'in'), programs, after));
  await expect(nowhere).rejects.toThrow(NoCopy);
  await expect(nowhere).rejects.toThrow('Nothing was changed. Make room there');
  const wrong = server.databaseUrl.replace(/[^/]+$/, 'no_such_database');
  await expect(upgrade((after) => copyBefore(wrong, folder, programs, after))).rejects.toThrow(
    'no_such_database',
  );
  rmSync(file);
  expect(readdirSync(folder)).toEqual([]);
  expect(await isUpgraded()).toBe(false);
});

test('a database of the version before is copied whole, then brought up to date', async () => {
  await planOf(server, 'Before the upgrade');
  let file = '';
  await upgrade(async (after) => {
    expect(after).toBe(last);
    expect(await isUpgraded()).toBe(false);
    file = await copyBefore(server.databaseUrl, folder, programs, after);
  });
  expect(await isUpgraded()).toBe(true);
  expect(file).toContain(last);
  const told = spawnSync(join(programs, 'pg_restore'), ['--data-only', '--table=briefs', '--file=-', file], {
    encoding: 'utf8',
  });
  expect(told.stdout).toContain('Before the upgrade');
  expect(readFileSync(file).subarray(0, 5).toString()).toBe('PGDMP');
  // What is up to date is not copied again.
  await upgrade(() => Promise.reject(new Error('There was nothing to copy for.')));
});

test('five copies are kept, the newest ones', async () => {
  for (let times = 0; times < 5; times++)
    await copyBefore(server.databaseUrl, folder, programs, `00${times}`);
  const kept = readdirSync(folder);
  expect(kept).toHaveLength(5);
  expect(kept.every((name) => !name.includes(last))).toBe(true);
});
