import { type OutletCheck, shipPart } from '@sprig/contracts';
import { z } from 'zod';
import { select } from '../../db/connect.ts';
import { shippedTo } from '../../plan/outlets.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import type { JobContext } from '../../platform/jobs/context.ts';
import { dryShipment } from './dry-shipment.ts';
import { atOneMoment, bringUpToDate } from './moment.ts';
import { PartOfPlan } from './part-of-plan.ts';

/** What a part can be chosen by: campaigns, and labels of these and of ad groups. */
export async function partChoices({ database, plan, workspace }: PlanCaller) {
  const campaigns = await select<{ key: string; name: string; groups: number }>(
    database,
    `select c.key, c.name, (select count(*) from ad_groups g where g.plan_id = c.plan_id and g.campaign_key = c.key)::int as groups
     from campaigns c where c.plan_id = $1 and c.workspace_id = $2 order by c.position`,
    [plan, workspace],
  );
  const labels = await select<{ label: string; groups: number }>(
    database,
    `select label, count(distinct g.key)::int as groups from ad_groups g
       join campaigns c on c.plan_id = g.plan_id and c.key = g.campaign_key, unnest(g.labels || c.labels) label
     where g.plan_id = $1 and g.workspace_id = $2 group by label order by lower(label), label`,
    [plan, workspace],
  );
  return { campaigns, labels };
}

const SHOWN = 200;

/** Ad groups by their keys, or else the first whose names have all of these words. */
export async function partGroups(
  { database, plan, workspace }: PlanCaller,
  words: string,
  keys: readonly string[] = [],
) {
  const asked = words
    .split(/\s+/)
    .filter((word) => word !== '')
    .map((word) => `%${word.replaceAll(/[\\%_]/g, (sign) => `\\${sign}`)}%`);
  const rows = await select<{ key: string; name: string; campaign: string; total: number }>(
    database,
    `select g.key, g.name, c.name as campaign, (count(*) over ())::int as total
     from ad_groups g join campaigns c on c.plan_id = g.plan_id and c.key = g.campaign_key
     where g.plan_id = $1 and g.workspace_id = $2
       and case when cardinality($4::text[]) > 0 then g.key = any($4::text[]) else g.name ilike all($3::text[]) end
     order by c.position, g.position, g.key limit ${SHOWN}`,
    [plan, workspace, asked, keys],
  );
  return {
    total: rows[0]?.total ?? 0,
    groups: rows.map(({ key, name, campaign }) => ({ key, name, campaign })),
  };
}

const input = z.object({ outlet: z.string(), part: shipPart });

/** What shipping a part would tell an outlet: nothing is written. */
export async function partLookJob(
  context: JobContext,
): Promise<Pick<OutletCheck, 'revision' | 'rows' | 'losses' | 'difference'>> {
  const { caller } = context;
  const { outlet: key, part } = input.parse(context.input);
  await context.phase('building');
  await bringUpToDate(caller);
  return atOneMoment(caller, async (moment) => {
    const chosen = await shippedTo(caller, key, moment.reading);
    const { inputs, shipped } = await dryShipment(caller, moment, chosen, {
      part: new PartOfPlan(part),
      settle: (done, total) => context.progress(`looking at the part for ${chosen.outlet.name}`, done, total),
    });
    const { rows, losses, difference } = shipped;
    return { revision: inputs.revision, rows, losses, difference };
  });
}
