import type { ShipView } from '@sprig/contracts';
import { type Finding, plainOutlet } from '@sprig/core/ship';
import type { PlanCaller } from '../../caller.ts';
import { select } from '../../database/connect.ts';
import { notFound } from '../../failure.ts';

/** What stands between the plan and the outlet, and how much would go out. */
export async function viewShip({ database, workspace, plan }: PlanCaller): Promise<ShipView> {
  const [counts] = await select<ShipView['counts'] & { built: number }>(
    database,
    `select p.built_revision as built,
       (select count(distinct campaign) from outlet_groups where plan_id = p.id and outlet = $3)::int as campaigns,
       (select count(*) from outlet_groups where plan_id = p.id and outlet = $3)::int as groups,
       (select count(*) from keyword_rows where plan_id = p.id)::int as keywords,
       (select count(*) from (
         select norm, match_type from negatives where plan_id = p.id
         union
         select n.norm, n.match_type from attached_lists a
           join shared_negatives n on n.workspace_id = a.workspace_id and n.list_id = a.list_id where a.plan_id = p.id) n)::int as negatives,
       (select count(*) from ads where plan_id = p.id and outlet = $3)::int as ads
     from plans p where p.id = $1 and p.workspace_id = $2`,
    [plan, workspace, plainOutlet.key],
  );
  if (!counts) throw notFound('plan');
  const findings = await select<{ body: Finding }>(
    database,
    'select body from findings where plan_id = $1 and outlet = $2 order by n',
    [plan, plainOutlet.key],
  );
  const { built, ...rest } = counts;
  return {
    builtRevision: built,
    outlet: plainOutlet,
    findings: findings.map(({ body }) => body),
    counts: rest,
  };
}
