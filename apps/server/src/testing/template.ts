import { connect, execute } from '../db/connect.ts';
import { migrate } from '../db/migrate.ts';

/** A database that is up to date and has nothing in it; each test's is copied from it. */
export const TEMPLATE = 'test_template';

/** The address of a database beside the one that tests are given. */
export function addressOf(database: string): string {
  const url = process.env.TEST_DATABASE_URL;
  if (!url) throw new Error('TEST_DATABASE_URL is not set: run the tests by `npm run test:server`.');
  return url.replace(/\/[^/]*$/, `/${database}`);
}

/** Runs a statement that no transaction may hold, such as one that makes or drops a database. */
export async function asAdmin(statement: string): Promise<void> {
  const admin = connect(addressOf('postgres'), { connections: 1 });
  await execute(admin, statement);
  await admin.close();
}

/** Vitest's set-up for all server tests. */
export default async function makeTemplate(): Promise<void> {
  await asAdmin(`drop database if exists ${TEMPLATE} with (force)`);
  await asAdmin(`create database ${TEMPLATE}`);
  const database = connect(addressOf(TEMPLATE));
  await migrate(database, addressOf(TEMPLATE));
  await database.close();
}
