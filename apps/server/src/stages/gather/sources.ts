import { type ProblemLine, problemWords, type Source } from '@sprig/contracts';
import { figuresOf, readList } from '@sprig/core/gather';
import { negativeTypeOf } from '@sprig/core/match';
import { select } from '../../db/connect.ts';
import { find } from '../../db/rows.ts';
import { type Change, inChange, refreshKeywords, setAside } from '../../plan/change/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { changedMeanwhile, notFound, SprigFailure } from '../../platform/failure.ts';
import { renameBySource, takeOutSource } from '../mix/index.ts';
import { blockQuietly } from '../prune/index.ts';
import { handMention, newKeyword } from './new-rows.ts';

export const listSources = ({ database, workspace, plan }: PlanCaller): Promise<Source[]> =>
  select<Source>(
    database,
    `select s.id, s.kind, s.name, s.made_at as "madeAt", s.figures_on as "figuresOn", a.name as actor, s.repeated,
       case when s.kind = 'recipe' then coalesce(m.keywords, 0)::int else s.lines end as lines,
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

/** Removes a source, what only it brought, and its lines to mend; others' keywords keep the others' figures. */
export async function removeSource(caller: PlanCaller, id: number): Promise<{ revision: number }> {
  const [source] = await find(caller, 'sources', { columns: ['name', 'kind'], where: { id } });
  if (!source) throw notFound('source');
  return inChange(caller, `Remove the source ${source.name}`, (change) =>
    source.kind === 'recipe' ? takeOutSource(change, id) : setAside(change, id),
  );
}

export const renameSource = (
  caller: PlanCaller,
  id: number,
  name: string,
  before: string,
): Promise<{ revision: number }> =>
  inChange(caller, `Rename the source ${before}`, async (change) => {
    const [source] = await change.find('sources', { columns: ['name'], where: { id }, lock: true });
    if (!source) throw notFound('source');
    if (source.name !== before) throw changedMeanwhile('name', source.name);
    await change.update('sources', [id], { name: name.trim() });
    await renameBySource(change, id, name.trim());
  });

type Problem = { source_id: number; line: number };

/** Reads a mended line again, as a line of its source; null only lets it go. */
export async function mendProblem(
  caller: PlanCaller,
  id: number,
  text: string | null,
): Promise<{ revision: number }> {
  return inChange(caller, text === null ? 'Let a line go' : 'Mend a line', async (change) => {
    const [problem] = await change.find('line_problems', { columns: ['source_id', 'line'], where: { id } });
    if (!problem) throw notFound('line');
    await change.remove('line_problems', [{ id }]);
    if (text !== null) await takeLine(change, problem, text);
  });
}

async function takeLine(change: Change, { source_id, line }: Problem, text: string) {
  // A row of a table keeps its figures; whatever it looks like, it is a keyword now.
  const reading = readList(text, {
    headerLine: null,
    taken: [1],
    ...(text.includes('\t') ? {} : { delimiter: null }),
  });
  const [bad] = reading.problems;
  if (bad) throw new SprigFailure('invalid', problemWords(bad), { at: 'text' });
  for (const { text: negative, norm, type } of reading.negatives) {
    const match = negativeTypeOf(type);
    const there = await change.rows(
      `select 1 from negatives where plan_id = $1 and level = 'plan' and norm = $2 and match_type = $3`,
      [norm, match],
    );
    if (there.length === 0)
      await change.insert('negatives', [
        {
          id: change.takeIds(1),
          text: negative,
          norm,
          match_type: match,
          source_id,
          level: 'plan',
          reason: 'hand',
        },
      ]);
  }
  const [keyword] = reading.keywords;
  if (!keyword) {
    if (reading.negatives.length === 0)
      throw new SprigFailure('invalid', 'Nothing is left of this line.', { at: 'text' });
    return;
  }
  const id = await keywordByNorm(change, keyword.text, keyword.norm);
  const there = await change.find('mentions', {
    columns: ['keyword_id'],
    where: { keyword_id: id, source_id },
  });
  const { searches, searchesAbout, cpc, cpcAbout, competition } = figuresOf(keyword);
  const figures = { searches, searches_about: searchesAbout, cpc, cpc_about: cpcAbout, competition };
  const says = { asked: keyword.asked, marks: keyword.marks };
  if (there.length === 0)
    await change.insert('mentions', [{ ...handMention(source_id, id), line, ...says, ...figures }]);
  else await change.updateEach('mentions', [{ source_id, keyword_id: id, ...says }], ['asked', 'marks']);
  await refreshKeywords(change, [id]);
}

async function keywordByNorm(change: Change, text: string, norm: string): Promise<number> {
  const [there] = await change.find('keywords', { columns: ['id'], where: { norm } });
  if (there) return there.id;
  const id = change.takeIds(1);
  await change.insert('keywords', [newKeyword(id, text, norm)]);
  await blockQuietly(change, id);
  return id;
}
