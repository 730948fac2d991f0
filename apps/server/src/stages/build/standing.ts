import type { BuiltStanding } from '@sprig/contracts';
import { plainOutlet } from '@sprig/core/outlets';
import { select } from '../../db/connect.ts';
import { stoodParts } from '../../plan/rebuild/stood-parts.ts';
import type { PlanCaller } from '../../platform/caller.ts';

/** What was copied, and where keywords of split themes stand, as the plan was built last. */
export async function standingOf({ database, plan, workspace }: PlanCaller): Promise<BuiltStanding> {
  const copies = await select<{
    id: number;
    of: string;
    body: Omit<BuiltStanding['copies'][number], 'id' | 'of'>;
  }>(database, 'select id, of, body from copies where plan_id = $1 and workspace_id = $2 order by id', [
    plan,
    workspace,
  ]);
  const groups = await select<{ key: string }>(
    database,
    'select key from outlet_groups where plan_id = $1 and workspace_id = $2 and outlet = $3',
    [plan, workspace, plainOutlet.key],
  );
  const parts = await stoodParts(
    (sql, bind) => select(database, sql, [plan, ...bind]),
    groups.map(({ key }) => key),
  );
  return { copies: copies.map(({ id, of, body }) => ({ id, of, ...body })), parts };
}
