import { type CampaignRow, MOST_DRAWN, type viewBuild } from '@sprig/contracts';
import type { z } from 'zod';
import { select } from '../../db/connect.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound } from '../../platform/failure.ts';
import { grouped } from '../../platform/grouped.ts';

type View = z.output<(typeof viewBuild)['answer']>;

/** Campaigns with their sums and their largest ad groups, the fences, and what the last rebuild did. */
export async function viewOf(caller: PlanCaller, by: 'searches' | 'keywords'): Promise<View> {
  const { database, plan, workspace } = caller;
  const [state] = await select<Pick<View, 'builtRevision' | 'fences' | 'summary'>>(
    database,
    `select p.built_revision as "builtRevision", s.fences, s.summary from plans p
     left join build_states s on s.plan_id = p.id where p.id = $1 and p.workspace_id = $2`,
    [plan, workspace],
  );
  if (!state) throw notFound('plan');
  const campaigns = await select<Omit<CampaignRow, 'largest'>>(
    database,
    `select c.key, c.name, c.daily_budget as "dailyBudget",
       coalesce((select (h.value #>> '{}')::bigint from holds h where h.plan_id = c.plan_id and h.row_key = c.key
         and h.field = 'bid' and h.outlet is null),
         (select (l.body->'ladder'->>'defaultBase')::bigint from layouts l where l.plan_id = c.plan_id)) as "defaultBid", c.status, c.labels, c.settings_id as settings, c.lane, c.place,
       c.covered, count(g.key)::int as groups, coalesce(sum(g.keywords), 0)::int as keywords,
       coalesce(sum(g.rows), 0)::int as rows, coalesce(sum(g.searches), 0)::int as searches,
       (select count(*) from placed_negatives n where n.plan_id = c.plan_id and n.place = c.key)::int as negatives,
       coalesce(sum(cardinality(f.texts)), 0)::int as fences
     from campaigns c left join ad_groups g on g.plan_id = c.plan_id and g.campaign_key = c.key
     left join fences f on f.plan_id = g.plan_id and f.key = g.key
     where c.plan_id = $1 group by c.plan_id, c.key order by c.position`,
    [plan],
  );
  const largest = await select<{ campaign: string } & CampaignRow['largest'][number]>(
    database,
    `select campaign_key as campaign, key, name, coalesce(searches, 0) as searches, keywords from (
       select *, row_number() over (partition by campaign_key order by ${by} desc nulls last, position, key) as n
       from ad_groups where plan_id = $1) ranked where n <= $2 order by campaign_key, n`,
    [plan, MOST_DRAWN],
  );
  const labels = await select<{ label: string }>(
    database,
    `select distinct label from (select unnest(labels) as label from ad_groups where plan_id = $1 and labels <> '{}'
       union all select unnest(labels) from keyword_rows where plan_id = $1 and labels <> '{}'
       union all select unnest(labels) from campaigns where plan_id = $1 and labels <> '{}') l order by label limit 200`,
    [plan],
  );
  const byCampaign = grouped(largest, ({ campaign }) => campaign);
  return {
    ...state,
    campaigns: campaigns.map((campaign) => ({
      ...campaign,
      largest: (byCampaign.get(campaign.key) ?? []).map(({ campaign: _, ...group }) => group),
    })),
    labels: labels.map(({ label }) => label),
  };
}
