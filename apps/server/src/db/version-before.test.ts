import { spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import * as api from '@sprig/contracts';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { programsHere } from '../../../../scripts/setup/postgres.mjs';
import { shipping } from '../testing/shipping.ts';
import { built, startTestServer, type TestServer } from '../testing/start-test-server.ts';
import { addressOf, asAdmin } from '../testing/template.ts';
import { connect, execute, select } from './connect.ts';
import { migrate } from './migrate.ts';

/** A database and a plan file of the version before the newest migration, with what that version told of them. */
const folder = fileURLToPath(new URL('../../fixtures/version-016/', import.meta.url));
const expected = JSON.parse(readFileSync(join(folder, 'expected.json'), 'utf8')) as {
  plan: number;
  extras: object[];
  outlets: [string, Record<string, number>][];
  findings: unknown[];
};

/** That version knew neither outlets of extras nor paused ones: they are for all, and run. */
const extrasThen = expected.extras.map((extra) => ({ ...extra, outlets: [], status: 'enabled' }));

/** A source that was taken out then, with a copy of all keywords and of what one source says of them. */
const GONE = 999;
const WENT = {
  keywords: 'plan_id = $1',
  mentions: 'plan_id = $1 and source_id = (select min(id) from sources where plan_id = $1)',
};

let server: TestServer;
beforeAll(async () => {
  const name = `test_${randomUUID().replaceAll('-', '')}`;
  await asAdmin(`create database ${name}`);
  const databaseUrl = addressOf(name);
  const restored = spawnSync(
    join(programsHere() ?? '', 'pg_restore'),
    ['--no-owner', '--no-privileges', '--exit-on-error', '-d', databaseUrl, join(folder, 'database.dump')],
    { encoding: 'utf8' },
  );
  if (restored.status !== 0) throw new Error(restored.stderr);
  const database = connect(databaseUrl, { connections: 2 });
  for (const [table, rows] of Object.entries(WENT))
    await execute(
      database,
      `insert into attic (plan_id, source_id, workspace_id, kind, body)
       select plan_id, ${GONE}, workspace_id, '${table}',
         to_jsonb(t) - 'plan_id' - 'workspace_id' - 'changed_revision' || '{"source_id": ${GONE}}' from ${table} t where ${rows}`,
      [expected.plan],
    );
  await migrate(database, databaseUrl);
  await database.close();
  server = await startTestServer({ databaseUrl });
}, 60_000);
afterAll(() => server.stop());
const { check } = shipping(() => server);

const differenceOf = async (plan: number) =>
  (await check(plan)).outlets.map(({ outlet, check: look }) => {
    const { added, changed, removed, same, untold } = look?.difference ?? {};
    return [outlet.key, { added, changed, removed, same, untold }];
  });

test('a database of the version before has all its data: what was taken back comes again as it was', async () => {
  const { plan } = expected;
  const params = { plan };
  await server.call(api.undoChange, { params, body: { force: false } });
  await built(server, plan);
  expect((await server.call(api.listExtras, { params })).extras).toEqual(extrasThen);
  expect(await differenceOf(plan)).toEqual(expected.outlets);
  const view = await check(plan);
  expect(view.findings.map(({ rule, outlet, accepted }) => [rule, outlet, accepted])).toEqual([
    ...(expected.findings as [string, ...unknown[]][]).map(([rule, ...rest]) => [
      rule.replace('asset', 'extra'),
      ...rest,
    ]),
    // What was not looked at then.
    ['few-extras', 'fennelwick', null],
  ]);
  const left = await select<{ body: string }>(server.database, 'select body::text from outlets');
  expect(left.length).toBeGreaterThan(0);
  expect(
    left.filter(({ body }) => /"asset|"assets":/.test(body.replace('"fileName": "assets"', ''))),
  ).toEqual([]);
});

test('keywords that went with their source lie beside the others, each as it was', async () => {
  for (const [table, rows] of Object.entries(WENT)) {
    const stored = (name: string, where: string) =>
      select<{ row: object }>(
        server.database,
        `select to_jsonb(t) - 'changed_revision' - 'source_id' as row from ${name} t where ${where} order by 1`,
        [expected.plan],
      );
    const there = await stored(table, rows);
    expect(there.length).toBeGreaterThan(3);
    expect(await stored(`archived_${table}`, `plan_id = $1 and source_id = ${GONE}`)).toEqual(there);
  }
});

test('sheets that waited to be taken in still wait, and an engine still knows its account', async () => {
  const params = { plan: expected.plan };
  const { readBack } = await server.call(api.viewReadBack, { params });
  expect(readBack?.id).toMatch(/-/);
  const { rows } = await server.call(api.viewAccount, { params: { ...params, outlet: 'fennelwick' } });
  expect(rows.keyword + rows.extra).toBeGreaterThan(10);
  expect(rows.extra).toBeGreaterThan(0);
});

test('the diff of every change that was logged can be read under the names of today', async () => {
  const params = { plan: expected.plan };
  for (;;) {
    const { undo } = await server.call(api.openPlan, { params });
    if (undo === null) break;
    await server.call(api.undoChange, { params, body: { force: true } });
  }
  expect((await server.call(api.listExtras, { params })).extras).toEqual([]);
});

test('a plan file of the version before is opened whole', async () => {
  const sent = await fetch(`${server.url}/api/plan-files`, {
    method: 'POST',
    body: readFileSync(join(folder, 'plan.zip')),
    headers: { 'content-type': 'application/octet-stream' },
  });
  const { id } = (await sent.json()) as { id: number };
  await built(server, id);
  const { extras } = await server.call(api.listExtras, { params: { plan: id } });
  expect(extras).toEqual(extrasThen);
  expect(await differenceOf(id)).toEqual(expected.outlets);
});
