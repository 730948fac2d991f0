import { AsyncLocalStorage } from 'node:async_hooks';
import type { ClientBase } from 'pg';
import type { Sequelize } from 'sequelize';

/** What requests and jobs are at the database. It owns no table, and sees rows of one workspace at a time. */
export const APP_ROLE = 'sprig_app';

const here = new AsyncLocalStorage<number>();

/** Runs work for a workspace: whatever connection it takes meanwhile sees rows of that one alone. */
export const inWorkspace = <T>(workspace: number, work: () => T): T => here.run(workspace, work);

/**
 * Says to each connection that is taken whose rows it may see: those of the workspace that the work is for, or of none. It is
 * said before the transaction begins, so that statements outside of one are held by it too, and again wherever the connection
 * is taken for another workspace.
 */
export function heedWorkspace(database: Sequelize): void {
  const told = new WeakMap<object, string>();
  const { pool } = database.connectionManager as unknown as {
    pool: { destroy: (one: unknown) => Promise<void> };
  };
  database.addHook('afterPoolAcquire', async (connection: unknown) => {
    const client = connection as ClientBase;
    const workspace = String(here.getStore() ?? '');
    if (told.get(client) === workspace) return;
    told.delete(client);
    try {
      await client.query(`select set_config('sprig.workspace', $1, false)`, [workspace]);
    } catch (error) {
      // It is of no use to anybody, and what has not been handed out is not given back.
      await pool.destroy(connection);
      throw error;
    }
    told.set(client, workspace);
  });
}
