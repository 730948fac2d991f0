import {
  type ClientPage,
  type ClientPart,
  type ClientView,
  clientFactsOf,
  type SharedPlan,
} from '@sprig/contracts';
import { asMicros } from '@sprig/core/money';
import { select } from '../../db/connect.ts';
import { planFacts } from '../../plan/plan-facts.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound } from '../../platform/failure.ts';
import { clientPageOf } from './client-page.ts';
import { forecastOf } from './forecasts.ts';

type State = Pick<SharedPlan, 'name' | 'site' | 'currency' | 'isBehind'> & {
  rows: number;
  cut: number;
  blocked: number;
};

/** A plan as a client reads it by a link: what the link leaves out is not answered at all. */
export async function sharedPlanOf(caller: PlanCaller, view: ClientView): Promise<SharedPlan> {
  const [state] = await select<State>(
    caller.database,
    `select b.name, b.site, b.currency, p.built_revision < p.revision as "isBehind",
       (select count(*) from keyword_rows where plan_id = p.id)::int as rows, k.cut, k.blocked
     from plans p join briefs b on b.plan_id = p.id, lateral (
       select count(*) filter (where cut)::int as cut,
         count(*) filter (where not cut and folded_into is null and blocked_by is not null)::int as blocked
       from keywords where plan_id = p.id) k
     where p.id = $1 and p.workspace_id = $2`,
    [caller.plan, caller.workspace],
  );
  if (!state) throw notFound('plan');
  const { rows, cut, blocked, ...named } = state;
  const facts = await planFacts(caller);
  const has = (part: ClientPart) => !view.without.includes(part);
  const page = await clientPageOf(caller, view);
  return {
    ...named,
    counts: { rows, cut: has('out') ? cut : 0, blocked: has('out') ? blocked : 0 },
    ...clientFactsOf(facts),
    page: shortened(page, has),
    forecast: rows > 0 && has('forecast') ? await forecastOf(caller, { all: true }) : null,
  };
}

function shortened(page: ClientPage, has: (part: ClientPart) => boolean): ClientPage {
  const none = asMicros(0);
  return {
    ...page,
    ...(has('out') ? {} : { negatives: [], negativeCount: 0, lists: [] }),
    campaigns: page.campaigns.map((campaign) => ({
      ...campaign,
      shown: campaign.shown.map((group) => ({
        ...group,
        ads: has('ads') ? group.ads : [],
        shown: has('keywords')
          ? group.shown.map((keyword) => (has('bids') ? keyword : { ...keyword, bidFrom: none, bidTo: none }))
          : [],
      })),
    })),
  };
}
