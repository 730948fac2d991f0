import type { GroupSizes } from '@sprig/contracts';
import { select } from '../../db/connect.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound } from '../../platform/failure.ts';
import { listThemes } from '../sort/index.ts';

type Row = { key: string; name: string; campaign: string; theme: number; searches: number; keywords: number };

/** Every ad group by its size, for a picture of all of them. */
export async function sizesOf(caller: PlanCaller): Promise<GroupSizes> {
  const { database, plan, workspace } = caller;
  const [state] = await select<{ built: number }>(
    database,
    'select built_revision as built from plans where id = $1 and workspace_id = $2',
    [plan, workspace],
  );
  if (!state) throw notFound('plan');
  const rows = await select<Row>(
    database,
    `select g.key, g.name, g.campaign_key as campaign, g.theme_id as theme, coalesce(g.searches, 0) as searches, g.keywords
     from ad_groups g join campaigns c on c.plan_id = g.plan_id and c.key = g.campaign_key where g.plan_id = $1
     order by c.position, g.position, g.key`,
    [plan],
  );
  const campaignKeys = [...new Set(rows.map(({ campaign }) => campaign))];
  const placeOf = new Map(campaignKeys.map((key, at) => [key, at]));
  return {
    builtRevision: state.built,
    keys: rows.map(({ key }) => key),
    names: rows.map(({ name }) => name),
    campaigns: rows.map(({ campaign }) => placeOf.get(campaign) ?? 0),
    campaignKeys,
    themes: rows.map(({ theme }) => theme),
    searches: rows.map(({ searches }) => searches),
    keywords: rows.map(({ keywords }) => keywords),
    themeNames: (await listThemes(caller)).map(({ id, parent, name }) => ({ id, parent, name })),
  };
}
