import { factsOf } from '@sprig/contracts';
import type { LookGrouping, Today } from '@sprig/core/learn';
import { ListedWords } from '@sprig/core/text';
import { select } from '../../db/connect.ts';
import { find } from '../../db/rows.ts';
import type { PlanCaller } from '../../platform/caller.ts';

/** What hangs on the plan as it is today, and not on what was shipped. */
export const ofToday: ReadonlySet<LookGrouping> = new Set(['theme', 'stage', 'source', 'brand', 'label']);

const nothing: Today = {
  theme: () => '',
  stage: () => '',
  source: () => '',
  brand: () => '',
  label: () => '',
};

/** Reads of today's plan what a look by these has to know. */
export async function todayOf(caller: PlanCaller, by: ReadonlySet<LookGrouping>): Promise<Today> {
  const { plan, database } = caller;
  const mapOf = async (sql: string): Promise<(key: string) => string> => {
    const rows = await select<{ key: string; name: string | null }>(database, sql, [plan]);
    const known = new Map(rows.map(({ key, name }) => [key, name ?? '']));
    return (key) => known.get(key) ?? '';
  };
  const today = { ...nothing };
  if (by.has('theme'))
    today.theme = await mapOf(
      `select g.key, t.body->>'name' as name from ad_groups g
       left join themes t on t.plan_id = g.plan_id and t.id = g.theme_id where g.plan_id = $1`,
    );
  if (by.has('stage'))
    today.stage = await mapOf('select key, stage as name from ad_groups where plan_id = $1');
  if (by.has('source'))
    today.source = await mapOf(
      `select r.key, m.name from keyword_rows r join (
         select keyword_id, string_agg(s.name, ' and ' order by s.id) as name from mentions m
         join sources s on s.plan_id = m.plan_id and s.id = m.source_id where m.plan_id = $1 group by keyword_id
       ) m on m.keyword_id = r.keyword_id where r.plan_id = $1`,
    );
  if (by.has('brand')) today.brand = await brandsOf(caller);
  if (by.has('label')) today.label = await labelsOf(caller);
  return today;
}

/** Keywords that name the client or one of its brands, and those that do not. */
async function brandsOf(caller: PlanCaller): Promise<Today['brand']> {
  const [kept] = await find(caller, 'facts', { columns: ['body'] });
  const { client, brands } = factsOf(kept?.body);
  const words = new ListedWords([client, ...brands].filter((name) => name.trim() !== ''));
  const rows = await find(caller, 'keyword_rows', { columns: ['key', 'text'] });
  const known = new Map(rows.map(({ key, text }) => [key, words.in(text) !== null ? 'Brand' : 'No brand']));
  return (row) => known.get(row) ?? '';
}

/** All labels that a row has, by itself, by its ad group and by its campaign: rows with the same labels stand together. */
async function labelsOf({ database, plan }: PlanCaller): Promise<Today['label']> {
  const groups = await select<{ key: string; labels: string[] }>(
    database,
    `select g.key, g.labels || c.labels as labels from ad_groups g
     join campaigns c on c.plan_id = g.plan_id and c.key = g.campaign_key where g.plan_id = $1`,
    [plan],
  );
  const rows = await select<{ key: string; labels: string[] }>(
    database,
    `select key, labels from keyword_rows where plan_id = $1 and labels <> '{}'`,
    [plan],
  );
  const ofGroup = new Map(groups.map(({ key, labels }) => [key, labels]));
  const ofRow = new Map(rows.map(({ key, labels }) => [key, labels]));
  return (group, row) => {
    const labels = new Set([...(ofGroup.get(group) ?? []), ...(row === null ? [] : (ofRow.get(row) ?? []))]);
    return [...labels].sort().join(', ');
  };
}
