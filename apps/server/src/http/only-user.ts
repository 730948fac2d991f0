import type { Sequelize } from 'sequelize';
import { select } from '../db/connect.ts';
import type { Sender } from '../platform/caller.ts';

/** The first actor of the first workspace: everyone, as long as there is one user, who owns it. */
export async function onlyUser(database: Sequelize): Promise<Omit<Sender, 'database'>> {
  const [user] = await select<{ workspace: number; actor: number }>(
    database,
    'select workspace_id as workspace, id as actor from actors order by id limit 1',
  );
  if (!user) throw new Error('The database has no user: its migrations did not run to their end.');
  return { ...user, role: 'owner', permissions: ['ship', 'approve'] };
}
