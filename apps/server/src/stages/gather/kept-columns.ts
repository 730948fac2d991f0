import { seasonOf, yearOfHeadings } from '@sprig/core/figures';
import { columnMark, readCount } from '@sprig/core/gather';
import { select } from '../../db/connect.ts';
import { FIGURES_DAY } from '../../plan/change/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';

const MOST_HEADINGS = 60;
/** More keywords say next to nothing new of the year. */
const MOST_OF_SEASON = 20_000;

/** The headings of columns that were kept as they are, those of most keywords first. */
export const listKeptColumns = ({
  database,
  plan,
  workspace,
}: PlanCaller): Promise<{ heading: string; keywords: number }[]> =>
  select(
    database,
    `select e.key as heading, count(distinct m.keyword_id)::int as keywords
     from mentions m cross join lateral jsonb_object_keys(m.extra) as e(key)
     where m.plan_id = $1 and m.workspace_id = $2 and m.extra is not null
     group by 1 order by 2 desc, 1 limit ${MOST_HEADINGS}`,
    [plan, workspace],
  );

/** What stands under a heading, by keyword: the newest source's that has it. */
export async function readKeptColumn(
  { database, plan, workspace }: PlanCaller,
  heading: string,
): Promise<{ ids: number[]; texts: string[] }> {
  const rows = await select<{ id: number; text: string }>(
    database,
    `select distinct on (m.keyword_id) m.keyword_id as id, m.extra->>$3 as text
     from mentions m join sources s on s.plan_id = m.plan_id and s.id = m.source_id
     where m.plan_id = $1 and m.workspace_id = $2 and coalesce(m.extra->>$3, '') <> ''
     order by m.keyword_id, ${FIGURES_DAY} desc, m.source_id desc`,
    [plan, workspace, heading],
  );
  return { ids: rows.map(({ id }) => id), texts: rows.map(({ text }) => text) };
}

/** The year as columns of months tell it, by the keywords searched most; null where a month is missing. */
export async function readSeason({ database, plan, workspace }: PlanCaller) {
  const headings = await select<{ heading: string }>(
    database,
    `select distinct e.key as heading
     from mentions m cross join lateral jsonb_object_keys(m.extra) as e(key)
     where m.plan_id = $1 and m.workspace_id = $2 and m.extra is not null`,
    [plan, workspace],
  );
  const year = yearOfHeadings(headings.map(({ heading }) => heading));
  if (!year) return null;
  const rows = await select<{ months: (string | null)[] }>(
    database,
    `select array(select m.extra->>h from unnest($3::text[]) with ordinality as u(h, n) order by n) as months
     from (
       select distinct on (m.keyword_id) m.keyword_id, m.extra, k.searches
       from mentions m
       join keywords k on k.plan_id = m.plan_id and k.id = m.keyword_id
       join sources s on s.plan_id = m.plan_id and s.id = m.source_id
       where m.plan_id = $1 and m.workspace_id = $2 and jsonb_exists_all(m.extra, $3::text[])
       order by m.keyword_id, ${FIGURES_DAY} desc, m.source_id desc
     ) m
     order by searches desc nulls last, keyword_id
     limit ${MOST_OF_SEASON}`,
    [plan, workspace, year],
  );
  const decimal =
    columnMark(
      rows.flatMap(({ months }) => months.map((cell) => cell ?? '')),
      true,
    )?.decimal ?? '.';
  return seasonOf(
    year.map((_, at) =>
      rows.map(({ months }) => {
        const read = readCount(months[at] ?? '', decimal);
        return read.status === 'figure' ? read.figure.value : -1;
      }),
    ),
  );
}
