import pg from 'pg';
import { type QueryOptions, QueryTypes, Sequelize, type Transaction } from 'sequelize';
import { APP_ROLE, heedWorkspace } from './workspace.ts';

// Our 64-bit columns hold micros and counts, far below 2^53.
pg.types.setTypeParser(20, Number);

type PoolOptions = {
  connections?: number;
  /** By which the database knows the connections. */
  name?: string;
  /** It sees the rows of one workspace at a time: those that the work is for (`inWorkspace`). */
  isWalled?: boolean;
  /** How long a caller waits for one. */
  acquireMs?: number;
  /** What the database ends by itself, in milliseconds. */
  limits?: { statement_timeout: number; lock_timeout: number; idle_in_transaction_session_timeout: number };
};

/** A pool of connections. */
export function connect(url: string, options: PoolOptions = {}): Sequelize {
  const database = new Sequelize(url, {
    dialect: 'postgres',
    dialectOptions: {
      application_name: options.name ?? 'sprig',
      ...options.limits,
      ...(options.isWalled ? { options: `-c role=${APP_ROLE}` } : {}),
    },
    dialectModule: pg,
    logging: false,
    pool: { max: options.connections ?? 8, acquire: options.acquireMs ?? 60_000, idle: 30_000 },
  });
  if (options.isWalled) heedWorkspace(database);
  return database;
}

/**
 * A pool for requests: none waits for long, be it for a connection, for a lock or for a statement. What streams to a slow
 * window may hold its transaction for some minutes.
 */
export const connectForRequests = (url: string): Sequelize =>
  connect(url, {
    isWalled: true,
    connections: 12,
    acquireMs: 4_000,
    limits: { statement_timeout: 60_000, lock_timeout: 2_000, idle_in_transaction_session_timeout: 300_000 },
  });

/** Whole numbers to bind as one `int[]`; of a hundred thousand the driver would write each by itself. */
export const ints = (numbers: readonly number[]): string => `{${numbers.join(',')}}`;

type Options = { transaction?: Transaction | null };

/** Rows of a query; every value is bound, never pasted in. */
export async function select<Row extends object>(
  database: Sequelize,
  sql: string,
  bind: unknown[] = [],
  { transaction = null }: Options = {},
): Promise<Row[]> {
  const options: QueryOptions = { bind, transaction, raw: true };
  return (await database.query(sql, { ...options, type: QueryTypes.SELECT })) as Row[];
}

/** Runs a statement that inserts, updates or deletes, and answers of how many rows. */
export async function countOf(
  database: Sequelize,
  sql: string,
  bind: unknown[] = [],
  { transaction = null }: Options = {},
): Promise<number> {
  return database.query(sql, { bind, transaction, raw: true, type: QueryTypes.BULKDELETE });
}

/** Runs a statement for what it does. */
export async function execute(
  database: Sequelize,
  sql: string,
  bind: unknown[] = [],
  { transaction = null }: Options = {},
): Promise<void> {
  await database.query(sql, { bind, transaction, raw: true });
}
