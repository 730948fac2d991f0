import type { ImportResult } from '@sprig/contracts';
import { lookAlikeSignatures, sameSearchClasses } from '@sprig/core/prune';
import { readingRules } from '../../figures/reading-rules.ts';
import { type Change, refreshQuietly } from '../../plan/change/index.ts';
import { SprigFailure } from '../../platform/failure.ts';

type Said = { n: number; norm: string };
type Keyword = { id: number; norm: string; told: boolean };

/** The columns of told figures, of what comes in and of what is kept. */
export const FIGURES = 'searches, searches_about, cpc, cpc_about, competition';
const HAS_FIGURE = 'coalesce(i.searches, i.cpc, i.competition) is not null';

/**
 * Takes what was read (`incoming`) as figures of the keywords that are there: the same normal form is told; a look-alike
 * (number, order, function words) fills only a keyword without a told figure whose twins have none either, once, and is
 * told of its own text. No keyword goes in.
 */
export async function fillFigures(change: Change, source: number): Promise<Omit<ImportResult, 'problems'>> {
  const { workspace } = change.caller;
  await change.derive(
    `insert into mentions (plan_id, workspace_id, source_id, keyword_id, line, asked, marks, ${FIGURES}, extra)
     select $1, $3, $2, k.id, i.line, 0, '{}', ${FIGURES.split(', ')
       .map((field) => `i.${field}`)
       .join(', ')}, i.extra
     from incoming i join keywords k on k.plan_id = $1 and k.norm = i.norm where ${HAS_FIGURE} order by k.id`,
    [source, workspace],
  );
  const ofSource = 'select keyword_id as id from mentions where plan_id = $1 and source_id = $2';
  const [met] = await change.rows<{ count: number }>(`select count(*)::int as count from (${ofSource}) m`, [
    source,
  ]);
  await refreshQuietly(change, ofSource, [source]);
  const unmet = await change.rows<Said>(
    `select n, norm from incoming i where $1 > 0 and ${HAS_FIGURE}
       and not exists (select from keywords k where k.plan_id = $1 and k.norm = i.norm) order by n`,
  );
  const fills = unmet.length === 0 ? [] : await alike(change, unmet);
  if (fills.length > 0) {
    await change.derive(
      `insert into mentions (plan_id, workspace_id, source_id, keyword_id, line, asked, marks, ${FIGURES}, extra, told_of)
       select $1, $3, $2, f.id, i.line, 0, '{}', ${FIGURES.split(', ')
         .map((field) => `i.${field}`)
         .join(', ')}, i.extra, i.norm
       from jsonb_to_recordset($4::jsonb) as f(id int, n int) join incoming i on i.n = f.n`,
      [source, workspace, JSON.stringify(fills)],
    );
    await refreshQuietly(change, ofSource, [source]);
  }
  if ((met?.count ?? 0) + fills.length === 0)
    throw new SprigFailure(
      'invalid',
      'None of these figures is of a keyword in the pool, or of a look-alike of one. Take the list in as keywords instead.',
    );
  return {
    source,
    added: 0,
    alreadyThere: met?.count ?? 0,
    negatives: 0,
    byHand: 0,
    figures: { met: met?.count ?? 0, alike: fills.length, unmet: unmet.length - fills.length },
  };
}

/** Which keyword each text fills that is only alike: the shortest of those without a figure, where no twin has one. */
async function alike(change: Change, unmet: readonly Said[]): Promise<{ id: number; n: number }[]> {
  const { rules } = await readingRules(change.caller);
  const keywords = await change.rows<Keyword>(
    `select id, norm, coalesce(searches, cpc, competition) is not null as told from keywords where plan_id = $1
     order by length(norm), norm`,
  );
  const all = [...keywords.map(({ norm }) => norm), ...unmet.map(({ norm }) => norm)];
  const signature = lookAlikeSignatures(
    { length: all.length, normOf: (at) => all[at] as string, searchesOf: () => -1 },
    sameSearchClasses,
    rules.pack,
    () => true,
  );
  const free = new Map<string, number | null>();
  keywords.forEach(({ id, told }, at) => {
    const name = signature(at);
    if (told) free.set(name, null);
    else if (!free.has(name)) free.set(name, id);
  });
  const fills: { id: number; n: number }[] = [];
  unmet.forEach(({ n }, at) => {
    const name = signature(keywords.length + at);
    const id = free.get(name);
    if (id === undefined || id === null) return;
    fills.push({ id, n });
    free.set(name, null);
  });
  return fills;
}
