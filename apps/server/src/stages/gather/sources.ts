import { type ProblemLine, problemWords, type Source } from '@sprig/contracts';
import { type Figures, fromMentions, readList } from '@sprig/core/gather';
import type { PlanCaller } from '../../caller.ts';
import { type Change, inChange } from '../../change/index.ts';
import { select } from '../../database/connect.ts';
import { notFound, SprigFailure } from '../../failure.ts';

export const listSources = ({ database, workspace, plan }: PlanCaller): Promise<Source[]> =>
  select<Source>(
    database,
    `select s.id, s.kind, s.name, s.made_at as "madeAt", a.name as actor, s.lines, s.repeated,
       coalesce(m.keywords, 0)::int as keywords, coalesce(m.only_here, 0)::int as "onlyHere",
       (select count(*) from line_problems l where l.plan_id = s.plan_id and l.source_id = s.id)::int as problems
     from sources s join actors a on a.id = s.actor_id
     left join (
       select source_id, count(*) as keywords, count(*) filter (where brought = 1) as only_here
       from (select source_id, count(*) over (partition by keyword_id) as brought from mentions where plan_id = $1) each
       group by source_id) m on m.source_id = s.id
     where s.plan_id = $1 and s.workspace_id = $2 order by s.id`,
    [plan, workspace],
  );

/** The first 500 lines of a source that wait to be mended; the source tells how many there are. */
export const listProblems = (
  { database, workspace, plan }: PlanCaller,
  source: number,
): Promise<ProblemLine[]> =>
  select<ProblemLine>(
    database,
    `select id, line, raw, code, at, character, kept from line_problems
     where plan_id = $1 and workspace_id = $2 and source_id = $3 order by line, id limit 500`,
    [plan, workspace, source],
  );

type Mention = { source: number; asked: number; marks: number[] } & Omit<Figures, 'from'>;

/** Takes the keywords' figures, match types and marks from what their sources say now; by hand goes before all. */
export async function refreshKeywords(change: Change, ids: readonly number[]): Promise<void> {
  if (ids.length === 0) return;
  const mentions = await change.rows<Mention & { id: number }>(
    `select m.keyword_id as id, m.source_id as source, m.asked, m.marks, m.searches, m.searches_about as "searchesAbout",
       m.cpc, m.cpc_about as "cpcAbout"
     from mentions m join sources s on s.plan_id = m.plan_id and s.id = m.source_id
     where m.plan_id = $1 and m.keyword_id = any($2::int[]) order by s.kind = 'hand', m.source_id`,
    [ids],
  );
  const byKeyword = new Map<number, Mention[]>();
  for (const mention of mentions) {
    const list = byKeyword.get(mention.id);
    if (list) list.push(mention);
    else byKeyword.set(mention.id, [mention]);
  }
  const rows = [...byKeyword].map(([id, list]) => {
    const sum = fromMentions(list);
    return {
      id,
      asked: sum.asked,
      marks: sum.marks,
      searches: sum.searches,
      searches_about: sum.searchesAbout,
      cpc: sum.cpc,
      cpc_about: sum.cpcAbout,
      figures_from: sum.from,
    };
  });
  const fields = ['asked', 'marks', 'searches', 'searches_about', 'cpc', 'cpc_about', 'figures_from'];
  await change.updateEach('keywords', rows, fields);
}

/** Removes a source, what only it brought, and its lines to mend; others' keywords keep the others' figures. */
export async function removeSource(caller: PlanCaller, id: number): Promise<{ revision: number }> {
  const [source] = await select<{ name: string }>(
    caller.database,
    'select name from sources where plan_id = $1 and workspace_id = $2 and id = $3',
    [caller.plan, caller.workspace, id],
  );
  if (!source) throw notFound('source');
  return inChange(caller, `Remove the source ${source.name}`, async (change) => {
    const mentions = await change.rows<{ keyword_id: number; only: boolean }>(
      `select keyword_id, not exists (
         select from mentions o where o.plan_id = m.plan_id and o.keyword_id = m.keyword_id and o.source_id <> $2) as only
       from mentions m where plan_id = $1 and source_id = $2`,
      [id],
    );
    await change.remove(
      'mentions',
      mentions.map(({ keyword_id }) => ({ source_id: id, keyword_id })),
    );
    await change.remove(
      'keywords',
      mentions.filter(({ only }) => only).map(({ keyword_id }) => ({ id: keyword_id })),
    );
    await refreshKeywords(
      change,
      mentions.filter(({ only }) => !only).map(({ keyword_id }) => keyword_id),
    );
    for (const table of ['line_problems', 'negatives'] as const) {
      const rows = await change.rows<{ id: number }>(
        `select id from ${table} where plan_id = $1 and source_id = $2`,
        [id],
      );
      await change.remove(table, rows);
    }
    await change.remove('sources', [{ id }]);
  });
}

type Problem = { source_id: number; line: number };

/** Reads a mended line again, as a line of its source; null only lets it go. */
export async function mendProblem(
  caller: PlanCaller,
  id: number,
  text: string | null,
): Promise<{ revision: number }> {
  return inChange(caller, text === null ? 'Let a line go' : 'Mend a line', async (change) => {
    const [problem] = await change.rows<Problem>(
      'select source_id, line from line_problems where plan_id = $1 and id = $2',
      [id],
    );
    if (!problem) throw notFound('line');
    await change.remove('line_problems', [{ id }]);
    if (text !== null) await takeLine(change, problem, text);
  });
}

async function takeLine(change: Change, { source_id, line }: Problem, text: string) {
  const reading = readList(text, { delimiter: null, headerLine: null });
  const [bad] = reading.problems;
  if (bad) throw new SprigFailure('invalid', problemWords(bad), { at: 'text' });
  for (const { text: negative, norm, type } of reading.negatives) {
    const match = type === null || type === 'modified' ? 'broad' : type;
    const there = await change.rows(
      'select 1 from negatives where plan_id = $1 and norm = $2 and match_type = $3',
      [norm, match],
    );
    if (there.length === 0)
      await change.insert('negatives', [
        { id: change.takeIds(1), text: negative, norm, match_type: match, source_id },
      ]);
  }
  const [keyword] = reading.keywords;
  if (!keyword) {
    if (reading.negatives.length === 0)
      throw new SprigFailure('invalid', 'Nothing is left of this line.', { at: 'text' });
    return;
  }
  const id = await keywordByNorm(change, keyword.text, keyword.norm);
  const there = await change.rows(
    'select 1 from mentions where plan_id = $1 and keyword_id = $2 and source_id = $3',
    [id, source_id],
  );
  const says = { asked: keyword.asked, marks: keyword.marks };
  const none = { searches: null, searches_about: false, cpc: null, cpc_about: false, extra: null };
  if (there.length === 0)
    await change.insert('mentions', [{ source_id, keyword_id: id, line, ...says, ...none }]);
  else await change.updateEach('mentions', [{ source_id, keyword_id: id, ...says }], ['asked', 'marks']);
  await refreshKeywords(change, [id]);
}

async function keywordByNorm(change: Change, text: string, norm: string): Promise<number> {
  const [there] = await change.rows<{ id: number }>(
    'select id from keywords where plan_id = $1 and norm = $2',
    [norm],
  );
  if (there) return there.id;
  const id = change.takeIds(1);
  const none = { searches: null, searches_about: false, cpc: null, cpc_about: false, figures_from: null };
  await change.insert('keywords', [{ id, text, norm, asked: 0, marks: [], cut: false, ...none }]);
  return id;
}
