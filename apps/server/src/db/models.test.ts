import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { planOf, startTestServer, type TestServer } from '../testing/start-test-server.ts';
import { select } from './connect.ts';
import { modelOf } from './models.ts';
import { find } from './rows.ts';
import { allTables, scopeColumns, type TableName } from './tables/index.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

/** Kept by the libraries that the migrations and the queue come from. */
const NOT_OURS = ['migrations'];
const SQL_TYPES: Record<string, string> = {
  SMALLINT: 'int2',
  INTEGER: 'int4',
  BIGINT: 'int8',
  TEXT: 'text',
  BOOLEAN: 'bool',
  JSONB: 'jsonb',
  'SMALLINT[]': '_int2',
  'INTEGER[]': '_int4',
  'TEXT[]': '_text',
  'TIMESTAMP WITH TIME ZONE': 'timestamptz',
  DATE: 'date',
  UUID: 'uuid',
  BYTEA: 'bytea',
};

type Schema = { table: string; column: string; type: string; nullable: boolean; given: boolean };
const schemaOf = () =>
  select<Schema>(
    server.database,
    `select table_name as table, column_name as column, udt_name as type, is_nullable = 'YES' as nullable,
       column_default is not null or is_identity = 'YES' as given
     from information_schema.columns where table_schema = 'public' order by 1, 2`,
  );

describe('the models and the schema that the migrations make', () => {
  test('have the same tables', async () => {
    const tables = [...new Set((await schemaOf()).map(({ table }) => table))];
    expect([...allTables.map(({ name }) => name), ...NOT_OURS].sort()).toEqual(tables.sort());
  });

  test('have the same columns, each of the same type, with the same say on what may be missing', async () => {
    const byTable = new Map<string, Omit<Schema, 'table'>[]>();
    for (const { table, ...column } of await schemaOf())
      byTable.set(table, [...(byTable.get(table) ?? []), column]);
    for (const table of allTables) {
      const attributes = modelOf(server.database, table.name as TableName).getAttributes();
      const columns = Object.entries(attributes).map(([column, { type, allowNull }]) => ({
        column,
        type: SQL_TYPES[String((type as { toSql: () => string }).toSql())] ?? String(type),
        nullable: allowNull === true,
        given: table.columns[column]?.hasDefault ?? false,
      }));
      const byName = (a: { column: string }, b: { column: string }) => (a.column < b.column ? -1 : 1);
      expect([table.name, columns.sort(byName)]).toEqual([table.name, byTable.get(table.name)?.sort(byName)]);
    }
  });

  test('tell rows by the same keys', async () => {
    const keys = await select<{ table: string; columns: string[] }>(
      server.database,
      `select conrelid::regclass::text as table, array_agg(a.attname::text order by a.attname) as columns
       from pg_constraint c join pg_attribute a on a.attrelid = conrelid and a.attnum = any(conkey)
       where contype = 'p' and connamespace = 'public'::regnamespace group by 1`,
    );
    const byTable = new Map(keys.map(({ table, columns }) => [table, columns]));
    for (const { name } of allTables) {
      const { primaryKeyAttributes } = modelOf(server.database, name as TableName);
      expect([name, [...primaryKeyAttributes].sort()]).toEqual([name, byTable.get(name) ?? []]);
    }
  });

  test('know every row that a foreign key speaks of', async () => {
    const keys = await select<{ table: string; other: string; columns: string[] }>(
      server.database,
      `select conrelid::regclass::text as table, confrelid::regclass::text as other,
         array(select attname::text from pg_attribute where attrelid = conrelid and attnum = any(conkey)
           and attname not in ('plan_id', 'workspace_id')) as columns
       from pg_constraint where contype = 'f' and connamespace = 'public'::regnamespace`,
    );
    for (const { table, other, columns } of keys) {
      const definition = allTables.find(({ name }) => name === table);
      for (const column of columns)
        expect([table, column, definition?.refers[column]]).toEqual([table, column, other]);
      if (columns.length === 0)
        expect([
          ...scopeColumns(definition ?? allTables[0]!),
          ...Object.keys(definition?.refers ?? {}),
        ]).toContain(`${other.slice(0, -1)}_id`);
      const { associations } = modelOf(server.database, table as TableName);
      expect(Object.values(associations).map(({ target }) => target.name)).toContain(other);
    }
    expect(keys.length).toBeGreaterThan(40);
  });
});

test('rows are seen by those whose they are, and by nobody else', async () => {
  const { caller } = server;
  const plan = await planOf(server, 'Kettles');
  const own = await find({ ...caller, plan }, 'briefs', { columns: ['name'] });
  expect(own).toEqual([{ name: 'Kettles' }]);
  expect(await find({ ...caller, plan, workspace: 2 }, 'briefs', { columns: ['name'] })).toEqual([]);
  expect(await find({ ...caller, plan: plan + 1 }, 'briefs', { columns: ['name'] })).toEqual([]);
  await expect(find(caller, 'briefs', { columns: ['name'] })).rejects.toThrow('for a plan');
});
