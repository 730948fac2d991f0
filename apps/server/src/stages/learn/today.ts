import type { Facts } from '@sprig/contracts';
import type { LookGrouping, Today } from '@sprig/core/learn';
import { ListedWords } from '@sprig/core/text';
import { select } from '../../db/connect.ts';
import { find } from '../../db/rows.ts';
import { planFacts } from '../../plan/plan-facts.ts';
import type { PlanCaller } from '../../platform/caller.ts';

/** What hangs on the plan as it is today, and not on what was shipped. */
export const ofToday: ReadonlySet<LookGrouping> = new Set(['theme', 'stage', 'source', 'brand', 'label']);

export const nothingToday: Today = {
  theme: () => '',
  stage: () => '',
  source: () => '',
  brand: () => '',
  label: () => '',
};

/** Changes when today's plan was changed or built. */
export async function planStamp({ database, plan, workspace }: PlanCaller): Promise<string> {
  const [state] = await select<{ stamp: string }>(
    database,
    `select revision || ' ' || built_revision as stamp from plans where id = $1 and workspace_id = $2`,
    [plan, workspace],
  );
  return state?.stamp ?? '';
}

/** Reads of today's plan what a look by these has to know. */
export async function todayOf(caller: PlanCaller, by: ReadonlySet<LookGrouping>): Promise<Today> {
  const { plan, database } = caller;
  const mapOf = async (sql: string): Promise<(key: string) => string> => {
    const rows = await select<{ key: string; name: string | null }>(database, sql, [plan]);
    const known = new Map(rows.map(({ key, name }) => [key, name ?? '']));
    return (key) => known.get(key) ?? '';
  };
  const today = { ...nothingToday };
  const needs = (['theme', 'stage', 'label'] as const).some((one) => by.has(one));
  const groupOf = needs ? await groupsOfRows(caller) : new Map<string, string>();
  const now = (of: (group: string) => string) => (group: string, row: string | null) =>
    of((row === null ? undefined : groupOf.get(row)) ?? group);
  if (by.has('theme'))
    today.theme = now(
      await mapOf(
        `select g.key, t.body->>'name' as name from ad_groups g
       left join themes t on t.plan_id = g.plan_id and t.id = g.theme_id where g.plan_id = $1`,
      ),
    );
  if (by.has('stage'))
    today.stage = now(await mapOf('select key, stage as name from ad_groups where plan_id = $1'));
  if (by.has('source'))
    today.source = await mapOf(
      `select r.key, m.name from keyword_rows r join (
         select keyword_id, string_agg(s.name, ' and ' order by s.id) as name from mentions m
         join sources s on s.plan_id = m.plan_id and s.id = m.source_id where m.plan_id = $1 group by keyword_id
       ) m on m.keyword_id = r.keyword_id where r.plan_id = $1`,
    );
  if (by.has('brand')) today.brand = await brandsOf(caller);
  if (by.has('label')) today.label = await labelsOf(caller, groupOf);
  return today;
}

/** The ad group that each keyword row is in now. As one text: rows by themselves take the driver longer than all else. */
async function groupsOfRows({ database, plan }: PlanCaller): Promise<Map<string, string>> {
  const [all] = await select<{ pairs: string | null }>(
    database,
    `select string_agg(key || ' ' || group_key, e'\\n') as pairs from keyword_rows where plan_id = $1`,
    [plan],
  );
  const groupOf = new Map<string, string>();
  for (const line of all?.pairs?.split('\n') ?? []) {
    const [row = '', group = ''] = line.split(' ');
    groupOf.set(row, group);
  }
  return groupOf;
}

/** The names of the client and of its brands, to be found in keywords. */
export const brandWords = ({ client, brands }: Pick<Facts, 'client' | 'brands'>): ListedWords =>
  new ListedWords([client, ...brands].filter((name) => name.trim() !== ''));

/** Keywords that name the client or one of its brands, and those that do not. */
async function brandsOf(caller: PlanCaller): Promise<Today['brand']> {
  const words = brandWords(await planFacts(caller));
  const rows = await find(caller, 'keyword_rows', { columns: ['key', 'text'] });
  const known = new Map(rows.map(({ key, text }) => [key, words.in(text) !== null ? 'Brand' : 'No brand']));
  return (row) => known.get(row) ?? '';
}

/** All labels that a row has, by itself, by its ad group and by its campaign: rows with the same labels stand together. */
async function labelsOf(
  { database, plan }: PlanCaller,
  groupOf: ReadonlyMap<string, string>,
): Promise<Today['label']> {
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
    const now = (row === null ? undefined : groupOf.get(row)) ?? group;
    const labels = new Set([...(ofGroup.get(now) ?? []), ...(row === null ? [] : (ofRow.get(row) ?? []))]);
    return [...labels].sort().join(', ');
  };
}
