import { randomUUID } from 'node:crypto';
import * as api from '@sprig/contracts';
import type { Sequelize } from 'sequelize';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import {
  built,
  planOf,
  startTestServer,
  type TestServer,
  takeIn,
  upload,
} from '../testing/start-test-server.ts';
import { addressOf, asAdmin } from '../testing/template.ts';
import { connect, execute, select } from './connect.ts';
import { copyInto } from './copy.ts';
import { NoWall, raiseWall } from './wall.ts';
import { APP_ROLE, inWorkspace } from './workspace.ts';

/** Of which a forgotten condition would tell most. */
const TELLING = ['keywords', 'briefs', 'sources', 'changes', 'jobs', 'plans', 'upload_parts', 'ad_groups'];

let server: TestServer;
let walled: Sequelize;
let ours: number;
let theirs: number;
let theirPlan: number;

async function filledPlan(name: string): Promise<number> {
  const plan = await planOf(server, name);
  await takeIn(server, plan, 'red kettle\nblue kettle\nkettle repair');
  await upload(server, plan, 'a list that waits');
  await server.call(api.openPlan, { params: { plan } });
  await built(server, plan);
  return plan;
}

/** Makes a plan one of another workspace, with all that hangs on it. */
async function moveAway(plan: number, workspace: number): Promise<void> {
  await server.database.transaction(async (transaction) => {
    await execute(server.database, 'set local session_replication_role = replica', [], { transaction });
    for (const { name } of (await tables()).filter(({ ofPlan }) => ofPlan))
      await execute(
        server.database,
        `update ${name} set workspace_id = $1 where ${name === 'plans' ? 'id' : 'plan_id'} = $2`,
        [workspace, plan],
        { transaction },
      );
  });
}

const tables = () =>
  select<{ name: string; ofPlan: boolean; isWalled: boolean; isGranted: boolean }>(
    server.database,
    `select c.relname as name, c.relrowsecurity as "isWalled",
       has_table_privilege($1, c.oid, 'select') or has_table_privilege($1, c.oid, 'insert') or has_table_privilege($1, c.oid, 'update') as "isGranted",
       c.relname = 'plans' or (select count(*) = 2 from pg_attribute a where a.attrelid = c.oid and a.attname in ('plan_id', 'workspace_id')) as "ofPlan"
     from pg_class c where c.relnamespace = 'public'::regnamespace and c.relkind = 'r' order by 1`,
    [APP_ROLE],
  );

const countIn = async (table: string): Promise<number> =>
  (await select<{ n: number }>(walled, `select count(*)::int as n from ${table}`))[0]?.n ?? -1;

beforeAll(async () => {
  server = await startTestServer();
  // One connection, so that it goes from one workspace to the other.
  walled = connect(server.databaseUrl, { connections: 1, isWalled: true });
  ours = server.caller.workspace;
  await filledPlan('Ours');
  theirPlan = await filledPlan('Theirs');
  const [other] = await select<{ id: number }>(
    server.database,
    `insert into workspaces (name) values ('Other') returning id`,
  );
  theirs = other?.id ?? 0;
  await moveAway(theirPlan, theirs);
});
afterAll(async () => {
  await walled.close();
  await server.stop();
});

describe('a query that forgets whose rows it reads', () => {
  test('reads those of the workspace that it works for', async () => {
    for (const table of TELLING) {
      const all = (await select<{ n: number }>(server.database, `select count(*)::int as n from ${table}`))[0]
        ?.n;
      const own = await inWorkspace(ours, () => countIn(table));
      const others = await inWorkspace(theirs, () => countIn(table));
      expect([table, own > 0, others > 0, own + others]).toEqual([table, true, true, all]);
    }
  });

  test('reads nothing where it works for none', async () => {
    await inWorkspace(ours, () => countIn('keywords'));
    for (const table of TELLING) expect([table, await countIn(table)]).toEqual([table, 0]);
  });

  test('sees no other plan in a transaction either, whatever came before on its connection', async () => {
    await inWorkspace(theirs, () => countIn('keywords'));
    const seen = await inWorkspace(ours, () =>
      walled.transaction((transaction) =>
        select<{ plan_id: number }>(walled, 'select distinct plan_id from keywords', [], { transaction }),
      ),
    );
    expect(seen).toHaveLength(1);
    expect(seen[0]?.plan_id).not.toBe(theirPlan);
  });

  test('never sees those of whoever asks at the same time', async () => {
    const many = connect(server.databaseUrl, { connections: 3, isWalled: true });
    const seen = await Promise.all(
      Array.from({ length: 200 }, (_, at) => (at % 2 === 0 ? ours : theirs)).map((workspace) =>
        inWorkspace(workspace, async () => {
          const rows = await select<{ id: number }>(many, 'select distinct workspace_id as id from keywords');
          return rows.length === 1 && rows[0]?.id === workspace;
        }),
      ),
    );
    await many.close();
    expect(seen.every(Boolean)).toBe(true);
  });

  test('changes and removes nothing of another workspace', async () => {
    const before = await inWorkspace(theirs, () => countIn('keywords'));
    await inWorkspace(ours, async () => {
      await execute(walled, `update keywords set text = 'ours now' where plan_id = $1`, [theirPlan]);
      await execute(walled, 'delete from keywords where plan_id = $1', [theirPlan]);
    });
    const after = await inWorkspace(theirs, () =>
      select<{ text: string }>(walled, 'select text from keywords'),
    );
    expect(after).toHaveLength(before);
    expect(after.map(({ text }) => text)).not.toContain('ours now');
  });

  test('puts nothing into another workspace, row by row or many at once', async () => {
    const refused = /row-level security/;
    await inWorkspace(ours, async () => {
      await expect(
        execute(walled, `insert into outlets (workspace_id, id, key, body) values ($1, 1, 'x', '{}')`, [
          theirs,
        ]),
      ).rejects.toThrow(refused);
      await expect(
        walled.transaction((transaction) =>
          copyInto(
            transaction,
            'jobs',
            ['workspace_id', 'plan_id', 'actor_id', 'kind', 'input'],
            [`${theirs}\t${theirPlan}\t${server.caller.actor}\trebuild\t{}`],
          ),
        ),
      ).rejects.toThrow(refused);
    });
  });
});

describe('the role that requests and jobs have', () => {
  test('owns nothing, and may not pass by what it is shown', async () => {
    const [role] = await select(
      walled,
      `select current_user::text as name, rolsuper, rolbypassrls, rolcanlogin, rolcreaterole,
         (select count(*)::int from pg_class where relowner = r.oid and relnamespace = 'public'::regnamespace) as owned
       from pg_roles r where rolname = current_user`,
    );
    expect(role).toEqual({
      name: APP_ROLE,
      rolsuper: false,
      rolbypassrls: false,
      rolcanlogin: false,
      rolcreaterole: false,
      owned: 0,
    });
  });

  test('has every table behind the wall, or not at all', async () => {
    const open = (await tables()).filter(({ isWalled, isGranted }) => isGranted && !isWalled);
    expect(open).toEqual([]);
    const closed = (await tables()).filter(({ isGranted }) => !isGranted).map(({ name }) => name);
    expect(closed).toEqual([
      'attempts',
      'audit_entries',
      'client_links',
      'links',
      'mails',
      'migrations',
      'people',
      'sessions',
      'tokens',
    ]);
  });

  test('reads no password, and makes nobody an owner', async () => {
    const denied = /permission denied/;
    await inWorkspace(ours, async () => {
      await expect(select(walled, 'select password from people')).rejects.toThrow(denied);
      await expect(select(walled, 'select key from sessions')).rejects.toThrow(denied);
      await expect(execute(walled, `update actors set role = 'owner'`)).rejects.toThrow(denied);
      await expect(execute(walled, 'drop policy x on keywords')).rejects.toThrow(/must be owner|not exist/);
      await expect(execute(walled, 'alter table keywords disable row level security')).rejects.toThrow(
        /must be owner/,
      );
    });
  });

  test('is made by somebody else where the database’s own user may not: the start says what to run', async () => {
    const name = `lesser_${randomUUID().slice(0, 8)}`;
    await asAdmin(`create role ${name} login password 'made-up'`);
    await asAdmin(`create database ${name} owner ${name}`);
    const address = new URL(addressOf(name));
    address.username = name;
    address.password = 'made-up';
    const database = connect(address.href, { connections: 1 });
    const refused = raiseWall(database);
    await expect(refused).rejects.toBeInstanceOf(NoWall);
    await expect(refused).rejects.toThrow(`CREATE ROLE ${APP_ROLE} NOLOGIN`);
    await database.close();
    await asAdmin(`drop database ${name}`);
    await asAdmin(`drop role ${name}`);
  });

  test('finds a table of a later version closed until it is walled, and the wall is raised once', async () => {
    await execute(server.database, 'create table later_things (workspace_id integer not null, word text)');
    await execute(server.database, `insert into later_things values ($1, 'one'), ($2, 'two')`, [
      ours,
      theirs,
    ]);
    const read = () => inWorkspace(ours, () => select(walled, 'select word from later_things'));
    await expect(read()).rejects.toThrow(/permission denied/);
    await raiseWall(server.database);
    await raiseWall(server.database);
    expect(await read()).toEqual([{ word: 'one' }]);
    await execute(server.database, 'drop table later_things');
    await execute(server.database, 'create table nobodys (word text)');
    await expect(raiseWall(server.database)).rejects.toThrow(/whose the rows of nobodys are/);
    await execute(server.database, 'drop table nobodys');
  });

  test('is let into a schema that was made anew, as a copy that is taken back makes it', async () => {
    const read = () => inWorkspace(ours, () => select(walled, 'select count(*)::int as plans from plans'));
    const before = await read();
    await execute(server.database, `revoke usage on schema public from public, ${APP_ROLE}`);
    await expect(read()).rejects.toThrow(/relation "plans" does not exist/);
    await raiseWall(server.database);
    expect(await read()).toEqual(before);
  });
});
