import { select } from '../db/connect.ts';
import type { PlanCaller } from '../platform/caller.ts';
import { notFound } from '../platform/failure.ts';

/** A query of built rows' keys, and what is bound to it behind the plan, which is `$1`. */
type Query = { sql: string; bind: unknown[] };

/** SQL for the direction of an order; what has no figure stands last either way. */
export const directionOf = (down: 'true' | 'false'): string =>
  down === 'true' ? 'desc nulls last' : 'asc nulls last';

/** The keys that a query of what is built answers, in its order, and the revision that it was built at. */
export async function orderedKeys(
  { database, plan, workspace }: PlanCaller,
  { sql, bind }: Query,
): Promise<{ builtRevision: number; keys: string[] }> {
  const [state] = await select<{ built: number }>(
    database,
    'select built_revision as built from plans where id = $1 and workspace_id = $2',
    [plan, workspace],
  );
  if (!state) throw notFound('plan');
  const rows = await select<{ key: string }>(database, sql, [plan, ...bind]);
  return { builtRevision: state.built, keys: rows.map(({ key }) => key) };
}
