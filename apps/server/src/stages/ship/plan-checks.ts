import type { Status } from '@sprig/core/build';
import { type Finding, Findings, Tightness } from '@sprig/core/findings';
import { codeOf } from '@sprig/core/match';
import { asMicros } from '@sprig/core/money';
import { plainOutlet } from '@sprig/core/outlets';
import { ListedWords, languagePack } from '@sprig/core/text';
import { execute } from '../../db/connect.ts';
import { IS_BARE } from '../../plan/bare-groups.ts';
import { InputReader, type Inputs } from '../../plan/rebuild/load-inputs.ts';
import { settingsOf } from '../../plan/setting-sets.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { costBeyond, type Entered } from '../build/index.ts';
import { copiesNotMade } from './copies-not-made.ts';
import type { Moment } from './moment.ts';

/** Fewer keywords can hardly be of two minds; a group in which they share less than this is loose. */
const LEAST_OF_A_MIND = 8;
const LOOSE = 0.35;

type CampaignRow = {
  key: string;
  name: string;
  daily_budget: number;
  status: Status;
  settings_id: number | null;
  broad: number;
  negatives: number;
  searches: number | null;
};

/** What stands against the plan whatever outlet it ships to: campaigns as they are set, negatives, what is loose or left over. */
export async function planChecks(
  caller: PlanCaller,
  moment: Moment,
  most: ConstructorParameters<typeof Findings>[0],
): Promise<Finding[]> {
  const found = new Findings(most);
  const reader = new InputReader(caller, moment.reading);
  const inputs = await moment.inputs();
  // Rows of a large plan are sorted and grouped in memory.
  await execute(caller.database, `set local work_mem = '64MB'`, [], { transaction: moment.reading });
  const campaigns = await reader.rows<CampaignRow>(CAMPAIGNS);
  for (const campaign of campaigns) checkCampaign(campaign, inputs, found);
  await checkGroups(reader, found);
  const texts = await reader.rows<GroupTexts>(TEXTS);
  // Read while the texts are gone through.
  const entered = reader.rows<Entered>(ENTERED);
  entered.catch(() => {});
  checkLoose(texts, inputs, found);
  await checkCopies(reader, found);
  await checkRivals(reader, inputs, found);
  await checkAddresses(reader, found);
  await checkSpend(caller, await entered, campaigns, inputs.brief.currency, found);
  return found.list();
}

/** Negatives of every level that stand in a campaign: the plan's, attached lists', its own, its groups', its fences. */
const CAMPAIGNS = `
with of_all as (
  select (select count(*) from negatives where plan_id = $1)
    + (select count(*) from attached_lists a join shared_negatives n on n.workspace_id = a.workspace_id and n.list_id = a.list_id
       where a.plan_id = $1 and a.campaigns is null) as n),
of_groups as (
  select g.campaign_key as key, count(p.*) + sum(coalesce(cardinality(f.texts), 0)) as n, sum(g.searches) as searches
  from ad_groups g left join fences f on f.plan_id = g.plan_id and f.key = g.key
    left join placed_negatives p on p.plan_id = g.plan_id and p.place = g.key
  where g.plan_id = $1 group by g.campaign_key),
broad as (
  select g.campaign_key as key, count(*) as n from keyword_rows k join ad_groups g on g.plan_id = k.plan_id and g.key = k.group_key
  where k.plan_id = $1 and k.type = ${codeOf('broad')} group by g.campaign_key)
select c.key, c.name, c.daily_budget, c.status, c.settings_id, coalesce(b.n, 0)::int as broad, g.searches::int as searches,
  ((select n from of_all) + coalesce(g.n, 0)
    + (select count(*) from placed_negatives p where p.plan_id = c.plan_id and p.place = c.key)
    + (select count(*) from attached_lists a join shared_negatives n on n.workspace_id = a.workspace_id and n.list_id = a.list_id
       where a.plan_id = c.plan_id and c.key = any(a.campaigns)))::int as negatives
from campaigns c left join of_groups g on g.key = c.key left join broad b on b.key = c.key
where c.plan_id = $1 order by c.position`;

function checkCampaign(campaign: CampaignRow, { settingSets, facts }: Inputs, found: Findings) {
  const { key, name, searches } = campaign;
  const settings = settingsOf(settingSets, facts, campaign.settings_id);
  const say = (rule: Parameters<Findings['addGroup']>[1][number]['rule'], text = name, count = 1) =>
    found.addGroup(key, [{ rule, field: null, count, text }], searches);
  if (settings.locations.length === 0) say('no-location');
  else if (settings.presence !== 'in') say('presence-interested');
  if (settings.languages.length === 0) say('no-language');
  const { strategy, targetCost, targetReturn } = settings;
  if (strategy === 'target-cost' && targetCost === null) say('no-target');
  if (strategy === 'target-return' && targetReturn === null) say('no-target');
  if (campaign.daily_budget <= 0) say('no-budget');
  if (campaign.negatives === 0) {
    if (campaign.broad > 0) say('broad-without-negatives', name, campaign.broad);
    else say('campaign-without-negatives');
  }
}

async function checkGroups(reader: InputReader, found: Findings) {
  const bare = await reader.rows<{ key: string; name: string; searches: number | null }>(
    `select g.key, g.name, g.searches from ad_groups g where g.plan_id = $1 and ${IS_BARE}
     order by g.searches desc nulls last, g.key`,
  );
  for (const { key, name, searches } of bare)
    found.addGroup(key, [{ rule: 'group-without-negatives', field: null, count: 1, text: name }], searches);
  const unplaced = await reader.rows<{
    key: string;
    name: string;
    keywords: number;
    searches: number | null;
  }>(
    `select min(key) as key, name, max(keywords)::int as keywords, max(searches)::int as searches from ad_groups
     where plan_id = $1 and theme_id = 0 and exists (select from themes where plan_id = $1) group by name, keyword_id order by 2`,
  );
  for (const { key, name, keywords, searches } of unplaced)
    found.addGroup(key, [{ rule: 'keywords-unplaced', field: null, count: keywords, text: name }], searches);
}

type GroupTexts = { key: string; name: string; searches: number | null; texts: string };
/** Each ad group's keywords in one text: arrays take the driver longer than all else here. */
const TEXTS = `
select g.key, g.name, g.searches, string_agg(k.text, e'\\n') as texts
from ad_groups g join keyword_rows k on k.plan_id = g.plan_id and k.group_key = g.key
where g.plan_id = $1 and g.keywords >= ${LEAST_OF_A_MIND} group by g.key, g.name, g.searches order by g.key collate "C"`;

function checkLoose(groups: readonly GroupTexts[], { brief, facts }: Inputs, found: Findings) {
  const tightness = new Tightness(languagePack(brief.language, facts.functionWords));
  for (const { key, name, searches, texts } of groups)
    if (tightness.of([...new Set(texts.split('\n'))]) < LOOSE)
      found.addGroup(key, [{ rule: 'group-loose', field: null, count: 1, text: name }], searches);
}

/** Copies that make nothing: what they follow is made no more, or all keywords of their own are cut. */
async function checkCopies(reader: InputReader, found: Findings) {
  for (const { id, name } of await copiesNotMade((sql) => reader.rows(sql)))
    found.add('copy-not-made', { key: String(id), text: name });
}

async function checkRivals(reader: InputReader, { facts }: Inputs, found: Findings) {
  const rivals = new ListedWords(facts.rivals);
  if (rivals.isEmpty) return;
  const rows = await reader.rows<{ text: string }>(
    'select distinct text from keyword_rows where plan_id = $1 order by text',
  );
  for (const { text } of rows)
    if (rivals.in(text) !== null) found.add('rival-in-keyword', { key: text, text });
}

/** Final URLs as they answered when they were last asked, and how many never were. */
async function checkAddresses(reader: InputReader, found: Findings) {
  const addresses = await reader.rows<{ address: string; asked: boolean }>(
    `select distinct a.final_url as address, c.checked_at is not null as asked
     from ads a left join address_checks c on c.plan_id = a.plan_id and c.address = a.final_url
     where a.plan_id = $1 and a.outlet = $2 and a.final_url <> ''
       and (c.checked_at is null or c.status is null or c.status >= 400) order by 1`,
    [plainOutlet.key],
  );
  for (const { address, asked } of addresses)
    found.add(asked ? 'address-no-answer' : 'addresses-not-asked', { key: address, text: address });
}

/** What a day is forecast to cost, against the budgets of the campaigns that have one. */
async function checkSpend(
  caller: PlanCaller,
  entered: readonly Entered[],
  campaigns: readonly CampaignRow[],
  currency: string,
  found: Findings,
) {
  const budget = asMicros(
    campaigns.reduce((sum, { status, daily_budget }) => sum + (status === 'enabled' ? daily_budget : 0), 0),
  );
  if (budget === 0) return;
  const { cost, isWhole } = await costBeyond(caller, entered, budget);
  if (cost <= budget) return;
  const format = new Intl.NumberFormat('en-GB', { style: 'currency', currency });
  const amount = (micros: number) => format.format(micros / 1_000_000);
  found.add('spend-over-budget', {
    text: `${isWhole ? '' : 'more than '}${amount(cost)} a day, budgets of ${amount(budget)}: they reach ${isWhole ? '' : 'less than '}${Math.max(1, Math.floor((budget * 100) / cost))}% of it`,
  });
}

/** Each search once, at the highest bid that it is entered with, the dearest first. */
const ENTERED = `
select r.text collate "C" as text, max(r.bid) as bid
from keyword_rows r join ad_groups g on g.plan_id = r.plan_id and g.key = r.group_key
join campaigns c on c.plan_id = g.plan_id and c.key = g.campaign_key
where r.plan_id = $1 and r.status = 'enabled' and g.status = 'enabled' and c.status = 'enabled' and c.daily_budget > 0
group by 1 order by 2 desc, 1`;
