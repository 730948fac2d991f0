import { randomUUID } from 'node:crypto';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import pg from 'pg';
import { killed } from '../scripts/faults/kills.ts';
import { World } from '../scripts/faults/world.ts';
import { startPostgres } from '../scripts/setup/postgres.mjs';

/** The short form of `npm run faults`. */

const address = (database: string) =>
  process.env.TEST_DATABASE_URL?.replace(/\/[^/]*$/, `/${database}`) ?? '';

async function withDatabase(work: (url: string) => Promise<void>) {
  const name = `faults_${randomUUID().replaceAll('-', '')}`;
  const admin = new pg.Client({ connectionString: address('postgres') });
  await admin.connect();
  try {
    await admin.query(`create database ${name} template e2e_template`);
    await work(address(name));
    await admin.query(`drop database ${name} with (force)`);
  } finally {
    await admin.end();
  }
}

test('killed or cut off in the middle of edits, lists and shipments, it has all that it said yes to, once', () =>
  withDatabase(async (url) => {
    const told = await killed(url, ['server', 'database', 'server'], 16);
    expect(told.failures).toEqual([]);
    expect(told.kills).toBe(3);
    expect(told.edits).toBeGreaterThan(0);
    expect(told.tally.errors).toBe(0);
  }));

test('what is lost is found by these tests', () =>
  withDatabase(async (url) => {
    const thief = new pg.Client({ connectionString: url });
    await thief.connect();
    // Of every list that comes in one keyword goes missing.
    await thief.query(`create function lose_one() returns trigger language plpgsql as $$ begin
        delete from mentions where plan_id = new.plan_id and keyword_id = (select min(keyword_id) from mentions where plan_id = new.plan_id);
        return new; end $$;
      create trigger lose_one after insert on changes for each row execute function lose_one()`);
    await thief.end();
    const { failures } = await killed(url, ['database'], 16);
    expect(failures.join('\n')).toMatch(/is there with \d+ of \d+ keywords/);
  }));

test('the database is restarted in the middle of a list of 100,000: it is in once, and built', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'sprig-restart-'));
  chmodSync(folder, 0o711);
  let database = await startPostgres(folder, { settings: ['fsync=off'] });
  const world = await World.open(database.url, 16);
  try {
    const plan = await world.makePlan('Restarted');
    const list = Array.from({ length: 100_000 }, (_, at) => `implant ${at} of ${at % 911}`).join('\n');
    const job = await world.takeIn(plan, 'List', list);
    const jobOf = async () => (await world.ask('GET', `/plans/${plan}/jobs/${job}`))?.body ?? {};
    await expect.poll(async () => (await jobOf()).done ?? 0).toBeGreaterThan(0);
    database.stop();
    database = await startPostgres(folder, { settings: ['fsync=off'], port: database.port });
    await expect.poll(async () => (await jobOf()).status, { timeout: 60_000 }).toBe('done');
    expect((await jobOf()).result).toMatchObject({ added: 100_000 });
    // Once more, in the middle of the build behind it.
    await expect
      .poll(
        async () => ((await world.ask('GET', `/plans/${plan}/jobs`))?.body.jobs as unknown[])?.length ?? 0,
      )
      .toBeGreaterThan(0);
    database.stop();
    database = await startPostgres(folder, { settings: ['fsync=off'], port: database.port });
    const state = async () => (await world.ask('GET', `/plans/${plan}`))?.body ?? {};
    await expect
      .poll(async () => (await state()).builtRevision, { timeout: 120_000 })
      .toBe((await state()).revision ?? -1);
    expect((await state()).counts).toMatchObject({ keywords: 100_000, sources: 1 });
    expect(world.errors).toEqual([]);
  } finally {
    await world.stop();
    database.stop();
    rmSync(folder, { recursive: true, force: true });
  }
});
