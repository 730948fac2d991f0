import { PlanNames } from '@sprig/core/learn';
import { typeOf } from '@sprig/core/match';
import type { Transaction } from 'sequelize';
import { select } from '../../db/connect.ts';
import { copyOut } from '../../db/copy.ts';
import type { PlanCaller } from '../../platform/caller.ts';

/**
 * The names by which reports of an outlet find what they are of: those under which it was shipped, those that its sheets
 * would have today, and those of the plan.
 */
export async function namesOfPlan(
  { database, plan }: PlanCaller,
  outlet: string | null,
  transaction: Transaction,
): Promise<PlanNames> {
  const names = new PlanNames();
  const read = <T extends object>(sql: string, bind: unknown[] = []) =>
    select<T>(database, sql, [plan, ...bind], { transaction });
  type Named = { key: string; name: string; campaign: string };
  const groups = await read<Named>(
    `select g.key, g.name, c.name as campaign from ad_groups g
     join campaigns c on c.plan_id = g.plan_id and c.key = g.campaign_key where g.plan_id = $1`,
  );
  for (const { key, name, campaign } of groups) names.addGroup(campaign, name, key, 'today');
  if (outlet !== null) {
    const there = await read<Named>(
      'select key, name, campaign from outlet_groups where plan_id = $1 and outlet = $2',
      [outlet],
    );
    for (const { key, name, campaign } of there) names.addGroup(campaign, name, key, 'today');
    const shipped = await read<Named>(
      'select key, name, campaign from shipped_names where plan_id = $1 and outlet = $2',
      [outlet],
    );
    for (const { key, name, campaign } of shipped) names.addGroup(campaign, name, key, 'shipped');
  }
  const of = `where plan_id = ${Number(plan)}`;
  await copyOut(
    transaction,
    `select group_key, text, type, key from keyword_rows ${of}`,
    ([group = '', text = '', type = '', key = '']) =>
      names.addKeyword(group, text, typeOf(Number(type)), key),
  );
  await copyOut(
    transaction,
    `select distinct group_key, name, key from (
       select group_key, texts[1] as name, key from ads ${of}
       union all select group_key, unnest(labels), key from ads ${of}) named
     where name is not null and name <> ''`,
    ([group = '', name = '', key = '']) => names.addAd(group, name, key),
  );
  return names;
}
