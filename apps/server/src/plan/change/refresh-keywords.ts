import { fromMentions, type Mention } from '@sprig/core/gather';
import { keywords } from '../../db/tables/gather.ts';
import { pick, shapeOf } from '../../db/tables/index.ts';
import type { Change } from './change.ts';

type StoredMention = Mention & { id: number };

const FIELDS = [
  'asked',
  'marks',
  'searches',
  'searches_about',
  'cpc',
  'cpc_about',
  'competition',
  'figures_from',
  'hand',
  'told_of',
  'taken_cpc',
  'made_searches',
  'made_cpc',
  'made_competition',
] as const;

/** The day that a source's figures are of, else the day it came in; `s` is the source. */
export const FIGURES_DAY = "coalesce(s.figures_on, to_char(s.made_at at time zone 'UTC', 'YYYY-MM-DD'))";

/**
 * What the keywords are by all that their sources say now: what is set by hand goes before all, then what is told, the
 * newest by the day that its figures are of, else by the day it came in.
 */
async function sumsOf(change: Change, ids: readonly number[]) {
  const mentions = await change.rows<StoredMention>(
    `select m.keyword_id as id, m.source_id as source, m.asked, m.marks, m.searches,
       m.searches_about as "searchesAbout", m.cpc, m.cpc_about as "cpcAbout", m.competition,
       s.kind, m.told_of as "toldOf"
     from mentions m join sources s on s.plan_id = m.plan_id and s.id = m.source_id
     where m.plan_id = $1 and m.keyword_id = any($2::int[]) order by s.kind = 'hand', ${FIGURES_DAY}, m.source_id`,
    [ids],
  );
  const byKeyword = new Map<number, Mention[]>();
  for (const mention of mentions) {
    const list = byKeyword.get(mention.id);
    if (list) list.push(mention);
    else byKeyword.set(mention.id, [mention]);
  }
  return [...byKeyword].map(([id, list]) => {
    const sum = fromMentions(list);
    return {
      id,
      asked: sum.asked,
      marks: sum.marks,
      searches: sum.searches,
      searches_about: sum.searchesAbout,
      cpc: sum.cpc,
      cpc_about: sum.cpcAbout,
      competition: sum.competition,
      figures_from: sum.from,
      hand: sum.hand || null,
      told_of: sum.toldOf,
      taken_cpc: sum.takenCpc,
      made_searches: sum.madeSearches,
      made_cpc: sum.madeCpc,
      made_competition: sum.madeCompetition,
    };
  });
}

/** Takes the keywords' figures, match types and marks from their sources, each change logged. */
export async function refreshKeywords(change: Change, ids: readonly number[]): Promise<void> {
  if (ids.length > 0) await change.updateEach('keywords', await sumsOf(change, ids), FIELDS);
}

const PAGE = 5_000;

/**
 * Takes figures, match types and marks from their sources for the keywords that `idsQuery` selects as `id`, a page at a time and without a line in the log for each:
 * what the sources say is logged, and this follows from it. All of them count as changed.
 */
export async function refreshQuietly(change: Change, idsQuery: string, bind: unknown[] = []): Promise<void> {
  for (let last = 0; ; ) {
    const page = await change.rows<{ id: number }>(
      `select id from (${idsQuery}) q where id > $${bind.length + 2} order by id limit ${PAGE}`,
      [...bind, last],
    );
    if (page.length === 0) return;
    last = page.at(-1)?.id ?? last;
    const rows = await sumsOf(
      change,
      page.map(({ id }) => id),
    );
    await change.derive(
      `update keywords k set changed_revision = $2, ${FIELDS.map((field) => `${field} = r.${field}`).join(', ')}
       from jsonb_to_recordset($3::jsonb) as r(${shapeOf(pick(keywords, ['id', ...FIELDS]))})
       where k.plan_id = $1 and k.id = r.id`,
      [change.revision, JSON.stringify(rows)],
    );
  }
}
