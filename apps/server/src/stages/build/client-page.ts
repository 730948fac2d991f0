import { type ClientPage, MOST_ON_CLIENT_PAGE } from '@sprig/contracts';
import { type MatchType, matchTypes } from '@sprig/core/match';
import { asMicros, type Micros } from '@sprig/core/money';
import { plainOutlet } from '@sprig/core/outlets';
import type { AdForm } from '@sprig/core/write';
import { select } from '../../db/connect.ts';
import { adTexts } from '../../plan/rebuild/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound } from '../../platform/failure.ts';
import { grouped } from '../../platform/grouped.ts';
import { type BidRules, bidRules, ROW_COLUMNS, ROW_TABLES, type StoredRow, toRow } from './rows.ts';

type Campaign = ClientPage['campaigns'][number];
type Group = Campaign['shown'][number];
type StoredGroup = Pick<Group, 'key' | 'name' | 'searches' | 'keywords' | 'status'> & { campaign: string };
type StoredAd = { group: string; form: AdForm; texts: string[]; url: string };

/**
 * The plan as whoever pays for it reads it: of each campaign the ad groups that are searched most, of each of them the keywords
 * that are, and an ad of each form.
 */
export async function clientPageOf(
  caller: PlanCaller,
  { groups: mostGroups, keywords: mostKeywords }: { groups: number; keywords: number },
): Promise<ClientPage> {
  const { database, plan, workspace } = caller;
  const read = <T extends object>(sql: string, ...bind: unknown[]) =>
    select<T>(database, sql, [plan, ...bind]);
  const [state] = await read<{ built: number }>(
    'select built_revision as built from plans where id = $1 and workspace_id = $2',
    workspace,
  );
  if (!state) throw notFound('plan');
  const rules = await bidRules(caller);
  const campaigns = await read<Omit<Campaign, 'shown'>>(
    `select c.key, c.name, c.daily_budget as "dailyBudget", c.status, count(g.key)::int as groups,
       coalesce(sum(g.keywords), 0)::int as keywords, coalesce(sum(g.rows), 0)::int as rows,
       coalesce(sum(g.searches), 0)::int as searches
     from campaigns c left join ad_groups g on g.plan_id = c.plan_id and g.campaign_key = c.key
     where c.plan_id = $1 group by c.plan_id, c.key order by c.position`,
  );
  const groups = await read<StoredGroup>(
    `select campaign_key as campaign, key, name, searches, keywords, status from (
       select *, row_number() over (partition by campaign_key order by searches desc nulls last, position, key) as n
       from ad_groups where plan_id = $1) ranked where n <= $2 order by campaign_key, n`,
    mostGroups,
  );
  const keys = groups.map(({ key }) => key);
  const rows = await read<StoredRow>(
    `select * from (select ${ROW_COLUMNS}, dense_rank() over (
         partition by r.group_key order by k.searches desc nulls last, r.text, r.keyword_id) as n
       from ${ROW_TABLES} where r.plan_id = $1 and r.group_key = any($2::text[])) ranked
     where n <= $3 order by group_key, n, type`,
    keys,
    mostKeywords,
  );
  const ads = await read<StoredAd>(
    `select distinct on (a.group_key, a.form) a.group_key as group, a.form, a.texts, a.final_url as url from ads a
     left join ad_patterns p on p.plan_id = a.plan_id and p.id = a.pattern_id
     where a.plan_id = $1 and a.outlet = $2 and a.group_key = any($3::text[]) and not a.misfit
     order by a.group_key, a.form, coalesce(p.position, 0), a.key`,
    plainOutlet.key,
    keys,
  );
  const negatives = await read<{ text: string; all: number }>(
    `select text, count(*) over ()::int as all from negatives where plan_id = $1 order by text limit ${MOST_ON_CLIENT_PAGE}`,
  );
  const lists = await read<{ name: string; negatives: number }>(
    `select l.name, (select count(*) from shared_negatives n where n.workspace_id = l.workspace_id and n.list_id = l.id)::int
       as negatives
     from attached_lists a join shared_lists l on l.workspace_id = a.workspace_id and l.id = a.list_id
     where a.plan_id = $1 order by l.name`,
  );
  const rowsOf = grouped(rows, ({ group_key }) => group_key);
  const adsOf = grouped(ads, ({ group }) => group);
  const groupsOf = grouped(groups, ({ campaign }) => campaign);
  return {
    builtRevision: state.built,
    campaigns: campaigns.map((campaign) => ({
      ...campaign,
      shown: (groupsOf.get(campaign.key) ?? []).map(({ campaign: _, ...group }) => ({
        ...group,
        shown: keywordsOf(rowsOf.get(group.key) ?? [], rules),
        ads: (adsOf.get(group.key) ?? []).map(({ form, texts, url }) => ({
          form,
          texts: adTexts(texts),
          finalUrl: url,
        })),
      })),
    })),
    negatives: negatives.map(({ text }) => text),
    negativeCount: negatives[0]?.all ?? 0,
    lists,
  };
}

/** Rows of one ad group as keywords, each once with its match types and what is bid for them. */
function keywordsOf(rows: readonly StoredRow[], rules: BidRules): Group['shown'] {
  return [...grouped(rows, ({ keyword }) => keyword).values()].map((own) => {
    const bids = own.map((row) => toRow(row, rules));
    const types = new Set<MatchType>(bids.map(({ type }) => type));
    const amounts: Micros[] = bids.map(({ bid }) => bid);
    return {
      text: own[0]?.text ?? '',
      types: matchTypes.filter((type) => types.has(type)),
      searches: own[0]?.searches ?? null,
      bidFrom: asMicros(Math.min(...amounts)),
      bidTo: asMicros(Math.max(...amounts)),
    };
  });
}
