import type { Permission, PlanRole, Role, Standing } from '@sprig/contracts';
import { may } from '@sprig/contracts';
import type { Transaction } from 'sequelize';
import { select } from '../../db/connect.ts';
import type { PlanCaller, Sender } from '../../platform/caller.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';

export type Here = PlanRole | 'none' | null;

/**
 * What somebody may do at a plan, by their standing in the workspace and their role there; null: the plan is not shown to them.
 * An owner owns every plan.
 */
function standingAt({ role, permissions }: Standing, here: Here): Standing | null {
  if (role === 'owner') return { role, permissions };
  if (here === 'none' || (here === null && role === 'guest')) return null;
  return { role: here ?? role, permissions };
}

/** Who asks, with what they may do at the plan. Fails unless it is of their workspace and shown to them. */
export async function atPlan(sender: Sender, plan: number): Promise<Sender> {
  const [found] = await select<{ here: Here }>(
    sender.database,
    `select r.role as here from plans p left join plan_roles r on r.plan_id = p.id and r.actor_id = $3
     where p.id = $1 and p.workspace_id = $2`,
    [plan, sender.workspace, sender.actor],
  );
  const standing = found && standingAt(sender, found.here);
  if (!standing) throw notFound('plan');
  return { ...sender, ...standing };
}

/** SQL of whether a plan `p` is shown to whoever asks; `$actor` is the parameter that has who they are. */
export const isShown = ({ role }: Standing, actor: string): string =>
  role === 'owner'
    ? `${actor}::int is not null`
    : role === 'guest'
      ? `exists (select from plan_roles r where r.plan_id = p.id and r.actor_id = ${actor} and r.role <> 'none')`
      : `not exists (select from plan_roles r where r.plan_id = p.id and r.actor_id = ${actor} and r.role = 'none')`;

/** Fails where whoever asked for a job may not do any more what it does: it may have begun before they were told otherwise. */
export async function assertMayStill(
  { database, workspace, plan, actor, needs }: PlanCaller,
  transaction: Transaction | null = null,
): Promise<void> {
  if (!needs) return;
  const [now] = await select<{ role: Role; permissions: Permission[]; here: Here; removed: boolean }>(
    database,
    `select a.role, a.permissions, r.role as here, a.removed_at is not null as removed
     from actors a left join plan_roles r on r.plan_id = $3 and r.actor_id = a.id
     where a.id = $1 and a.workspace_id = $2`,
    [actor, workspace, plan],
    { transaction },
  );
  const standing = now && !now.removed ? standingAt(now, now.here) : null;
  if (!standing || !may(standing, needs))
    throw new SprigFailure(
      'forbidden',
      'Whoever asked for this may not do it any more. It was given up, and nothing of it was kept.',
    );
}
