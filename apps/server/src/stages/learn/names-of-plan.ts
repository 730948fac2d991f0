import { PlanNames } from '@sprig/core/learn';
import { typeOf } from '@sprig/core/match';
import { plainOutlet } from '@sprig/core/outlets';
import { adName, adNames } from '@sprig/core/write';
import type { Transaction } from 'sequelize';
import { select } from '../../db/connect.ts';
import { copyOut } from '../../db/copy.ts';
import { adTexts } from '../../plan/rebuild/derived-rows.ts';
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
  if (outlet !== null)
    await copyOut(
      transaction,
      `select group_key, name, ad from shipped_ads ${of} and outlet = '${outlet.replaceAll("'", "''")}'`,
      ([group = '', name = '', ad = '']) => {
        for (const one of adNames(name)) names.addAd(group, one, ad || null, 'shipped');
      },
    );
  await copyOut(
    transaction,
    `select group_key, key, to_json(texts), to_json(labels) from ads ${of} and outlet = '${plainOutlet.key}'`,
    ([group = '', key = '', texts = '[]', labels = '[]']) => {
      const name = adName(adTexts(JSON.parse(texts) as string[]));
      for (const one of [...adNames(name), ...(JSON.parse(labels) as string[])])
        if (one !== '') names.addAd(group, one, key, 'today');
    },
  );
  return names;
}
