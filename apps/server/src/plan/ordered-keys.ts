import { select } from '../db/connect.ts';
import type { PlanCaller } from '../platform/caller.ts';
import { notFound } from '../platform/failure.ts';

/** A query of built rows' keys, and what is bound to it behind the plan, which is `$1`. */
type Query = { sql: string; bind: unknown[] };

/** SQL for the direction of an order; what has no figure stands last either way. */
export const directionOf = (down: 'true' | 'false'): string =>
  down === 'true' ? 'desc nulls last' : 'asc nulls last';

/** The rows that a query of what is built answers, in its order, and the revision that it was built at. */
export async function orderedRows<T extends object>(
  { database, plan, workspace }: PlanCaller,
  { sql, bind }: Query,
): Promise<{ builtRevision: number; rows: T[] }> {
  const [state] = await select<{ built: number }>(
    database,
    'select built_revision as built from plans where id = $1 and workspace_id = $2',
    [plan, workspace],
  );
  if (!state) throw notFound('plan');
  return { builtRevision: state.built, rows: await select<T>(database, sql, [plan, ...bind]) };
}

/** Their keys alone. */
export async function orderedKeys(
  caller: PlanCaller,
  query: Query,
): Promise<{ builtRevision: number; keys: string[] }> {
  const { builtRevision, rows } = await orderedRows<{ key: string }>(caller, query);
  return { builtRevision, keys: rows.map(({ key }) => key) };
}
