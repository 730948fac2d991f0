import type { Sequelize } from 'sequelize';
import { select } from '../database/connect.ts';
import { enqueueRebuild } from './enqueue.ts';

/** Queues a rebuild of every plan that lags behind its inputs without one: after a migration, or a lost queue. */
export async function rebuildStale(database: Sequelize): Promise<void> {
  const plans = await select<{ id: number; workspace: number; actor: number }>(
    database,
    `select p.id, p.workspace_id as workspace, p.created_by as actor from plans p where built_revision < revision
       and not exists (select from jobs j where j.plan_id = p.id and j.kind = 'rebuild' and j.status in ('queued', 'running'))`,
  );
  for (const { id, workspace, actor } of plans)
    await database.transaction((transaction) =>
      enqueueRebuild({ database, workspace, actor, plan: id }, transaction),
    );
}
