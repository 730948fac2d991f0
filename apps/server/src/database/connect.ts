import pg from 'pg';
import { type QueryOptions, QueryTypes, Sequelize, type Transaction } from 'sequelize';

// Our 64-bit columns hold micros and counts, far below 2^53.
pg.types.setTypeParser(20, Number);

/** A pool of connections. `schema` scopes every name, for tests that share one database. */
export function connect(url: string, options: { connections?: number } = {}): Sequelize {
  return new Sequelize(url, {
    dialect: 'postgres',
    dialectModule: pg,
    logging: false,
    pool: { max: options.connections ?? 8, acquire: 60_000, idle: 30_000 },
    define: { underscored: true, timestamps: false },
  });
}

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

/** Runs a statement for what it does. */
export async function execute(
  database: Sequelize,
  sql: string,
  bind: unknown[] = [],
  { transaction = null }: Options = {},
): Promise<void> {
  await database.query(sql, { bind, transaction, raw: true });
}
