import { namesOf } from '../../db/tables/index.ts';
import type { Change } from './change.ts';
import { collectionOf } from './collections.ts';
import { refreshQuietly } from './refresh-keywords.ts';

/** Small tables that hold what a source brought beside its keywords; a negative that blocks words has become the plan's. */
const BROUGHT = { line_problems: '', negatives: `and t.reason = 'hand'` } as const;

const ONLY_HERE = `select m.keyword_id as id from mentions m where m.plan_id = $1 and m.source_id = $2 and not exists (
  select from mentions o where o.plan_id = m.plan_id and o.keyword_id = m.keyword_id and o.source_id <> m.source_id)`;

const OF_SOURCE = 'a.plan_id = $1 and a.source_id = $2';
const columnsOf = (name: 'keywords' | 'mentions') => collectionOf(name).columns;
const KEYWORD = namesOf(columnsOf('keywords'));
const MENTION = namesOf(columnsOf('mentions'));

const PLACE = `- 'plan_id' - 'workspace_id' - 'changed_revision'`;

/**
 * Takes a source and what only it brought out of the plan, aside in archived tables; other sources' keywords keep the others'
 * figures. All of it within the database: memory does not grow with the source.
 */
export async function setAside(change: Change, source: number): Promise<void> {
  change.went(source);
  await unfoldFrom(change, source);
  const keep = (kind: string, rows: string) =>
    change.derive(
      `insert into archived_rows (plan_id, source_id, workspace_id, kind, body)
       select t.plan_id, $2, t.workspace_id, '${kind}', to_jsonb(t) ${PLACE} from ${rows}`,
      [source],
    );
  await change.derive(
    `insert into archived_keywords (source_id, plan_id, workspace_id, ${KEYWORD})
     select $2, plan_id, workspace_id, ${KEYWORD} from keywords t where t.plan_id = $1 and t.id in (${ONLY_HERE})`,
    [source],
  );
  await change.derive(
    `insert into archived_mentions (plan_id, workspace_id, ${MENTION})
     select plan_id, workspace_id, ${MENTION} from mentions where plan_id = $1 and source_id = $2`,
    [source],
  );
  await keep('sources', 'sources t where t.plan_id = $1 and t.id = $2');
  for (const [table, filter] of Object.entries(BROUGHT))
    await keep(table, `${table} t where t.plan_id = $1 and t.source_id = $2 ${filter}`);
  await change.derive('delete from mentions where plan_id = $1 and source_id = $2', [source]);
  for (const [table, filter] of Object.entries(BROUGHT))
    await change.derive(`delete from ${table} t where plan_id = $1 and source_id = $2 ${filter}`, [source]);
  await change.derive('update negatives set source_id = null where plan_id = $1 and source_id = $2', [
    source,
  ]);
  await change.deriveMany(
    await countAside(change, 'archived_keywords', source),
    `with gone as (delete from keywords k using archived_keywords a
       where ${OF_SOURCE} and k.plan_id = $1 and k.id = a.id returning k.id, k.workspace_id)
     insert into removed_keywords (plan_id, revision, workspace_id, keyword_id) select $1, $3, workspace_id, id from gone`,
    [source, change.revision],
  );
  await change.derive('delete from sources where plan_id = $1 and id = $2', [source]);
  await refreshQuietly(
    change,
    `select distinct k.id from archived_mentions a join keywords k on k.plan_id = a.plan_id and k.id = a.keyword_id
     where ${OF_SOURCE}`,
    [source],
  );
}

async function countAside(
  change: Change,
  table: 'archived_keywords' | 'archived_mentions',
  source: number,
): Promise<number> {
  const [aside] = await change.rows<{ rows: number }>(
    `select count(*)::int as rows from ${table} a where ${OF_SOURCE}`,
    [source],
  );
  return aside?.rows ?? 0;
}

/** Keywords that were folded into one that leaves stand for themselves again. */
async function unfoldFrom(change: Change, source: number) {
  const folded = await change.rows<{ id: number }>(
    `select k.id from keywords k where k.plan_id = $1 and k.folded_into in (${ONLY_HERE}) and k.id not in (${ONLY_HERE})`,
    [source],
  );
  await change.update(
    'keywords',
    folded.map(({ id }) => id),
    { folded_into: null },
  );
}

/**
 * Brings a source back from the archived tables. A keyword whose text has come in by another way since is not put in twice:
 * what the source says goes to the one that is there.
 */
export async function bringBack(change: Change, source: number): Promise<void> {
  change.came(source);
  const put = (table: string) =>
    change.derive(
      `insert into ${table} select r.* from archived_rows a
       cross join lateral jsonb_populate_record(null::${table},
         a.body || jsonb_build_object('plan_id', a.plan_id, 'workspace_id', a.workspace_id)) r
       where ${OF_SOURCE} and a.kind = '${table}' on conflict do nothing`,
      [source],
    );
  await put('sources');
  const rows = await countAside(change, 'archived_mentions', source);
  await change.deriveMany(
    rows,
    `insert into keywords (plan_id, workspace_id, changed_revision, ${KEYWORD})
     select plan_id, workspace_id, $3::int, ${KEYWORD} from archived_keywords a where ${OF_SOURCE} on conflict do nothing`,
    [source, change.revision],
  );
  await change.derive(
    `update keywords k set folded_into = null, changed_revision = $2 where plan_id = $1 and folded_into is not null
       and not exists (select from keywords o where o.plan_id = $1 and o.id = k.folded_into)`,
    [change.revision],
  );
  // The keyword as it is called now: by its text where it left with the source, else by its number.
  const now = 'coalesce(by_text.id, by_id.id)';
  const said = columnsOf('mentions').map(({ name }) => (name === 'keyword_id' ? now : `a.${name}`));
  await change.deriveMany(
    rows,
    `insert into mentions (plan_id, workspace_id, ${MENTION})
     select a.plan_id, a.workspace_id, ${said.join(', ')} from archived_mentions a
     left join archived_keywords o on o.plan_id = a.plan_id and o.source_id = a.source_id and o.id = a.keyword_id
     left join keywords by_text on by_text.plan_id = $1 and by_text.norm = o.norm
     left join keywords by_id on by_id.plan_id = $1 and o.id is null and by_id.id = a.keyword_id
     where ${OF_SOURCE} and ${now} is not null on conflict do nothing`,
    [source],
  );
  await put('line_problems');
  await put('negatives');
  await change.derive(
    `delete from archived_rows where plan_id = $1 and source_id = $2 and kind not like 'left-%'`,
    [source],
  );
  for (const table of ['archived_keywords', 'archived_mentions'])
    await change.derive(`delete from ${table} where plan_id = $1 and source_id = $2`, [source]);
  await refreshQuietly(
    change,
    `select m.keyword_id as id from mentions m where m.plan_id = $1 and m.source_id = $2 and exists (
       select from mentions o where o.plan_id = m.plan_id and o.keyword_id = m.keyword_id and o.source_id <> m.source_id)`,
    [source],
  );
}

/** How many of a source's keywords somebody else has changed after `revision`. */
export async function changedSince(change: Change, source: number, revision: number): Promise<number> {
  const [found] = await change.rows<{ count: number }>(
    `select count(*)::int as count from mentions m
     join keywords k on k.plan_id = m.plan_id and k.id = m.keyword_id
     join changes c on c.plan_id = k.plan_id and c.revision = k.changed_revision
     where m.plan_id = $1 and m.source_id = $2 and k.changed_revision > $3 and c.actor_id <> $4`,
    [source, revision, change.caller.actor],
  );
  return found?.count ?? 0;
}
