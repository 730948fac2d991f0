import { type RulesOfPlan, rulesOfPlan, usualSortSettings } from '@sprig/contracts';
import type { Sequelize, Transaction } from 'sequelize';
import { select } from '../../db/connect.ts';
import { chosenOutlets } from '../../plan/outlets.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound } from '../../platform/failure.ts';

/** What a plan goes by, without its keywords and all that hangs on them. */
export async function readRules(
  caller: PlanCaller,
  transaction: Transaction | null = null,
): Promise<RulesOfPlan> {
  const { database, plan, workspace } = caller;
  const [row] = await rowsOf(database, transaction, [plan, workspace]);
  if (!row) throw notFound('plan');
  const outlets = await chosenOutlets(caller, transaction);
  return rulesOfPlan.parse({
    ...row,
    sort: row.sort ?? usualSortSettings,
    outlets: outlets.flatMap(({ id, outlet, body }) =>
      // Nobody has chosen yet.
      id === 0 ? [] : [{ key: outlet.key, name: outlet.name, body }],
    ),
  });
}

const listOf = (what: string, from: string, order = 'id'): string =>
  `(select coalesce(jsonb_agg(${what} order by ${order}), '[]') from ${from} where plan_id = p.id)`;

const rowsOf = (database: Sequelize, transaction: Transaction | null, bind: unknown[]) =>
  select<Record<string, unknown>>(
    database,
    `select b.name, b.currency,
       (select body from facts where plan_id = p.id) as facts,
       (select body from layouts where plan_id = p.id) as layout,
       (select body from sort_settings where plan_id = p.id) as sort,
       (select body from address_rules where plan_id = p.id) as address,
       ${listOf(`(body - 'shared') || jsonb_build_object('id', id)`, 'setting_sets')} as sets,
       ${listOf(`body || jsonb_build_object('id', id, 'parent', parent_id)`, 'themes', 'position, id')} as themes,
       ${listOf(`jsonb_build_object('id', id, 'body', body)`, 'ad_patterns', 'position nulls last, id')} as patterns,
       ${listOf(`body`, `(select * from extras where 'plan' = any(at) and status is distinct from 'paused') e`)} as extras,
       ${listOf(`jsonb_build_object('text', text, 'type', match_type, 'reason', case when reason = 'block' then 'block' else 'hand' end)`, 'negatives')} as negatives,
       ${listOf('to_jsonb(text)', 'word_verdicts')} as kept,
       ${listOf(`jsonb_build_object('id', l.id, 'name', l.name)`, 'attached_lists a join shared_lists l on l.workspace_id = a.workspace_id and l.id = a.list_id', 'a.id')} as lists
     from plans p join briefs b on b.plan_id = p.id where p.id = $1 and p.workspace_id = $2`,
    bind,
    { transaction },
  );
