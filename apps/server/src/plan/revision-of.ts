import { select } from '../db/connect.ts';
import type { PlanCaller } from '../platform/caller.ts';
import { notFound } from '../platform/failure.ts';

/** The revision at which a plan stands. */
export async function revisionOf({ database, plan, workspace }: PlanCaller): Promise<number> {
  const [row] = await select<{ revision: number }>(
    database,
    'select revision from plans where id = $1 and workspace_id = $2',
    [plan, workspace],
  );
  if (!row) throw notFound('plan');
  return row.revision;
}
