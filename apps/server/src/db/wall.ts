import { createHash } from 'node:crypto';
import type { Sequelize, Transaction } from 'sequelize';
import { codesOf } from '../platform/failure.ts';
import { execute, select } from './connect.ts';
import { APP_ROLE } from './workspace.ts';

/** The database's user may not make the role, and nobody has made it. The message says what to do. */
export class NoWall extends Error {}

const HERE = `(select nullif(current_setting('sprig.workspace', true), '')::integer)`;

/**
 * That a column has the number of the workspace. Nearly always all rows of a plan do, but of a plain comparison the database
 * expects that hardly any do where it has not looked at a table lately, and goes through it row by row; of this one, that nearly
 * all do. Where nothing says the workspace it is null, and shows none.
 */
const isHere = (column: string): string => `(${column} = ${HERE})::integer <> 0`;

/** Tables whose rows hang on one of another table, by which column. */
const HANGING: Readonly<Record<string, readonly [column: string, of: string]>> = {
  known_rows: ['set_id', 'sheet_sets'],
  known_sets: ['set_id', 'sheet_sets'],
  outlet_states: ['set_id', 'sheet_sets'],
  read_back_rows: ['read_back_id', 'read_backs'],
  sheet_parts: ['set_id', 'sheet_sets'],
  upload_parts: ['upload_id', 'uploads'],
};

/** Rows of these come before the one that they hang on, which is known by a number that nobody guesses. */
const EARLIER: ReadonlySet<string> = new Set(['outlet_states', 'sheet_parts']);

/** What the door alone reads: who comes in, and by what they are known. */
const OF_THE_DOOR: ReadonlySet<string> = new Set([
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

/** What the door alone changes. */
const NARROWER: Readonly<Record<string, string>> = {
  actors: 'select, update (preferences)',
  plan_roles: 'select',
  workspaces: 'select',
};

/** Which rows of a table the role sees and may write; null: it is the door's. */
function conditionOf(table: string, hasWorkspace: boolean): string | null {
  if (OF_THE_DOOR.has(table)) return null;
  if (table === 'workspaces') return isHere('id');
  const hanging = HANGING[table];
  if (hanging) return `${hanging[0]} in (select id from ${hanging[1]})`;
  if (hasWorkspace) return isHere('workspace_id');
  throw new Error(`Nothing says whose the rows of ${table} are.`);
}

type Found = {
  name: string;
  hasWorkspace: boolean;
  isWalled: boolean;
  policies: string[];
  isGranted: boolean;
};

const hashOf = (text: string) => createHash('sha256').update(text).digest('hex').slice(0, 12);

/** Makes the role, lets it use the tables, and has the database show it rows of one workspace alone. What stands already is left. */
export async function raiseWall(database: Sequelize): Promise<void> {
  await makeRole(database);
  await database.transaction(async (transaction) => {
    const tables = await select<Found>(
      database,
      `select c.relname as name, c.relrowsecurity as "isWalled",
         exists (select from pg_attribute a where a.attrelid = c.oid and a.attname = 'workspace_id' and not a.attisdropped) as "hasWorkspace",
         (select coalesce(array_agg(p.polname::text), '{}') from pg_policy p where p.polrelid = c.oid) as policies,
         has_table_privilege($1, c.oid, 'select') as "isGranted"
       from pg_class c where c.relnamespace = 'public'::regnamespace and c.relkind = 'r' order by c.relname`,
      [APP_ROLE],
      { transaction },
    );
    for (const table of tables) await wall(database, transaction, table);
    for (const what of [
      // A database whose schema was made anew, as a copy that is taken back does, lets nobody in by itself.
      'usage on schema public',
      'execute on function give_job',
      'usage on all sequences in schema public',
    ])
      await execute(database, `grant ${what} to ${APP_ROLE}`, [], { transaction });
  });
}

async function wall(database: Sequelize, transaction: Transaction, table: Found): Promise<void> {
  const { name, hasWorkspace, isWalled, policies, isGranted } = table;
  const run = (sql: string) => execute(database, sql, [], { transaction });
  const condition = conditionOf(name, hasWorkspace);
  if (condition === null) return;
  const check = EARLIER.has(name) ? ' with check (true)' : '';
  const policy = `of_the_workspace_${hashOf(condition + check)}`;
  for (const old of policies) if (old !== policy) await run(`drop policy "${old}" on ${name}`);
  if (!policies.includes(policy))
    await run(`create policy ${policy} on ${name} using (${condition})${check}`);
  if (!isWalled) await run(`alter table ${name} enable row level security`);
  if (!isGranted)
    await run(`grant ${NARROWER[name] ?? 'select, insert, update, delete'} on ${name} to ${APP_ROLE}`);
}

/** Another server that starts at the same moment has made it. */
function unlessThere(error: unknown): void {
  if (!codesOf(error).some((code) => code === '42710' || code === '23505')) throw error;
}

async function makeRole(database: Sequelize): Promise<void> {
  try {
    const [state] = await select<{ exists: boolean }>(
      database,
      'select exists (select from pg_roles where rolname = $1) as exists',
      [APP_ROLE],
    );
    if (!state?.exists) await execute(database, `create role ${APP_ROLE} nologin`).catch(unlessThere);
    const [member] = await select<{ is: boolean }>(
      database,
      `select pg_has_role(current_user, $1, 'member') as is`,
      [APP_ROLE],
    );
    if (!member?.is) await execute(database, `grant ${APP_ROLE} to current_user`);
  } catch (error) {
    if (!codesOf(error).includes('42501')) throw error;
    throw new NoWall(
      `Plans are kept apart by a role of the database, which the user of DATABASE_URL may not make. Have somebody who may run this once, then start again: CREATE ROLE ${APP_ROLE} NOLOGIN; GRANT ${APP_ROLE} TO the user of DATABASE_URL;`,
    );
  }
}
