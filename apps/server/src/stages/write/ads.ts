import { type AdQuery, type AdRow, patternFrom, type ReviewState } from '@sprig/contracts';
import { plainOutlet } from '@sprig/core/outlets';
import { normalise } from '@sprig/core/text';
import type { AdField } from '@sprig/core/write';
import { select } from '../../db/connect.ts';
import { inChange } from '../../plan/change/index.ts';
import { directionOf, orderedKeys } from '../../plan/ordered-keys.ts';
import { adTexts } from '../../plan/rebuild/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';

const ORDERS = {
  made: 'a.position',
  group: 'lower(g.name)',
  pattern: 'a.pattern_id',
  searches: 'g.searches',
  relevance: 'a.relevance',
};
const REVIEW = `coalesce((select v.state from ad_reviews v where v.plan_id = a.plan_id and v.ad_key = a.key), 'ready')`;
const ONLY: Record<AdQuery['only'], string> = {
  all: 'true',
  misfit: 'a.misfit',
  held: 'exists (select from holds h where h.plan_id = a.plan_id and h.row_key = a.key)',
  problems: 'a.problems > 0',
  ready: `${REVIEW} = 'ready'`,
  review: `${REVIEW} = 'review'`,
  limited: `${REVIEW} = 'limited'`,
  refused: `${REVIEW} = 'refused'`,
};

/** The keys of the ads that the query leaves, in its order. */
export async function orderAds(
  caller: PlanCaller,
  query: AdQuery,
): Promise<{ builtRevision: number; keys: string[] }> {
  return orderedKeys(caller, {
    sql: `select a.key from ads a join ad_groups g on g.plan_id = a.plan_id and g.key = a.group_key
     join campaigns c on c.plan_id = g.plan_id and c.key = g.campaign_key
     where a.plan_id = $1 and a.outlet = $2
       and ($3 = '' or strpos(lower(array_to_string(a.texts, ' ')), $3) > 0 or strpos(lower(g.name), $3) > 0
         or strpos(g.keyword, $3) > 0 or $3 = any(a.labels))
       and ($4 = 0 or a.pattern_id = $4) and ($5 = '' or a.group_key = $5) and ${ONLY[query.only]}
     order by ${ORDERS[query.sort]} ${directionOf(query.down)}, c.position, a.position, a.group_key, a.pattern_id, a.key`,
    bind: [plainOutlet.key, normalise(query.filter), query.pattern, query.group],
  });
}

type StoredAd = Omit<AdRow, 'texts' | 'patternName' | 'held' | 'relevance'> & {
  texts: string[];
  relevance: number;
  body: unknown;
  held: string[] | null;
};

/** Ads in the order of `keys`. */
export async function pageAds({ database, plan }: PlanCaller, keys: readonly string[]): Promise<AdRow[]> {
  const rows = await select<StoredAd>(
    database,
    `select a.key, a.group_key as "group", g.name as "groupName", c.name as "campaignName", g.keyword, g.searches,
       a.pattern_id as pattern, p.body, a.form, a.status, a.labels, a.texts, a.final_url as "finalUrl", a.misfit,
       a.relevance, a.problems, coalesce(v.state, 'ready') as review, coalesce(v.reason, '') as reason,
       (select array_agg(h.field order by h.id) from holds h where h.plan_id = a.plan_id and h.row_key = a.key) as held
     from ads a join ad_groups g on g.plan_id = a.plan_id and g.key = a.group_key
     join campaigns c on c.plan_id = g.plan_id and c.key = g.campaign_key
     left join ad_patterns p on p.plan_id = a.plan_id and p.id = a.pattern_id
     left join ad_reviews v on v.plan_id = a.plan_id and v.ad_key = a.key
     where a.plan_id = $1 and a.outlet = $2 and a.key = any($3::text[])`,
    [plan, plainOutlet.key, keys],
  );
  const names = new Map<number, string>();
  const byKey = new Map(
    rows.map(({ body, held, texts, relevance, ...row }) => {
      const patternName = names.get(row.pattern) ?? patternFrom(body).name;
      names.set(row.pattern, patternName);
      const ad: AdRow = {
        ...row,
        patternName,
        texts: adTexts(texts),
        relevance: relevance / 10_000,
        held: held ?? [],
      };
      return [row.key, ad];
    }),
  );
  return keys.flatMap((key) => byKey.get(key) ?? []);
}

const STATE_WORDS: Record<ReviewState, string> = {
  ready: 'ready',
  review: 'in review',
  limited: 'limited',
  refused: 'refused',
};

/** Keeps what editors said of ads; of refused ones it remembers the texts of the named fields, of all (none named), or none (null). */
export const reviewAds = (
  caller: PlanCaller,
  keys: readonly string[],
  state: ReviewState,
  reason: string,
  fields: readonly AdField[] | null,
  outlet: string | null = null,
) =>
  inChange(caller, `Mark ${counted(keys.length, 'ad')} ${STATE_WORDS[state]}`, async (change) => {
    const ads = await change.find('ads', {
      columns: ['key', 'texts'],
      where: { outlet: plainOutlet.key, key: keys },
      order: ['key'],
    });
    const there = await change.find('ad_reviews', { columns: ['id', 'ad_key'], where: { ad_key: keys } });
    if (state === 'ready') return void (await change.remove('ad_reviews', there));
    const known = new Map(there.map(({ id, ad_key }) => [ad_key, id]));
    const said = (texts: readonly string[]) =>
      state !== 'refused' || fields === null
        ? []
        : Object.entries(adTexts(texts))
            .filter(([field]) => fields.length === 0 || fields.includes(field as AdField))
            .map(([, text]) => text);
    const fresh = ads.filter(({ key }) => !known.has(key));
    const first = change.takeIds(fresh.length);
    await change.insert(
      'ad_reviews',
      fresh.map(({ key, texts }, at) => ({
        id: first + at,
        ad_key: key,
        state,
        reason,
        texts: said(texts),
        outlet,
      })),
    );
    const changed = ads.flatMap(({ key, texts }) => {
      const id = known.get(key);
      return id === undefined ? [] : [{ id, state, reason, texts: said(texts), outlet }];
    });
    await change.updateEach('ad_reviews', changed, ['state', 'reason', 'texts', 'outlet']);
  });

export const refusedTexts = ({ database, workspace, plan }: PlanCaller) =>
  select<{ text: string; reason: string; outlet: string | null }>(
    database,
    `select text, outlet, (array_agg(reason order by id desc))[1] as reason from ad_reviews, unnest(texts) as text
     where plan_id = $1 and workspace_id = $2 and state = 'refused' group by text, outlet order by max(id) desc, text limit 1000`,
    [plan, workspace],
  );
