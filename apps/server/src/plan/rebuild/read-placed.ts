import { placingRules } from '@sprig/contracts';
import { TYPES_BY_HAND } from '@sprig/core/build';
import { BY_HAND } from '@sprig/core/gather';
import { type Placed, type PlacingRules, type PlanPool, place } from '@sprig/core/plan';
import type { InputReader, Inputs } from './load-inputs.ts';

const IS_IN = 'not cut and folded_into is null and blocked_by is null';
const PAGE = 50_000;

type Row = {
  id: number;
  text: string;
  norm: string;
  asked: number;
  marks: number[];
  cpc: number | null;
  taken_cpc: number | null;
  searches: number | null;
};

/** The pool of keywords that are in, by id, and where each of them stands. O(pool). */
export async function readPlaced(
  reader: InputReader,
  inputs: Inputs,
  tell: (done: number) => Promise<void>,
): Promise<{ pool: PlanPool; placed: Placed }> {
  const rows: Row[] = [];
  for (let last = 0; ; ) {
    const page = await reader.rows<Row>(
      `select id, text, norm, asked + case when hand & ${BY_HAND.asked} > 0 then ${TYPES_BY_HAND} else 0 end as asked, marks, cpc, taken_cpc, searches from keywords
       where plan_id = $1 and id > $2 and ${IS_IN} order by id limit ${PAGE}`,
      [last],
    );
    for (const row of page) rows.push(row);
    await tell(rows.length);
    if (page.length < PAGE) break;
    last = page.at(-1)?.id ?? last;
  }
  const sources = await sourcesOf(reader, [...inputs.sources.keys()]);
  const pool = poolOf(rows, sources);
  return { pool, placed: place(pool, placingRulesOf(inputs)) };
}

/** What the plan's keywords are placed by. */
export const placingRulesOf = ({ brief, facts, themes, placed, sortSettings }: Inputs): PlacingRules =>
  placingRules({ language: brief.language, facts, themes, placed, settings: sortSettings });

/** The sources of each keyword, the first one first. */
async function sourcesOf(
  reader: InputReader,
  all: readonly number[],
): Promise<(id: number) => readonly number[]> {
  // Where one source brought everything its keywords share one list.
  if (all.length === 1) return () => all;
  const lists = new Map<string, number[]>();
  const byKeyword = new Map<number, number[]>();
  for (let last = 0; ; ) {
    const page = await reader.rows<{ id: number; sources: number[] }>(
      `select keyword_id as id, array_agg(source_id order by source_id) as sources from mentions
       where plan_id = $1 and keyword_id > $2 group by keyword_id order by keyword_id limit ${PAGE}`,
      [last],
    );
    for (const { id, sources } of page) {
      const key = sources.join();
      const known = lists.get(key);
      if (!known) lists.set(key, sources);
      byKeyword.set(id, known ?? sources);
    }
    if (page.length < PAGE) break;
    last = page.at(-1)?.id ?? last;
  }
  return (id) => byKeyword.get(id) ?? NONE;
}

const NONE: readonly number[] = [];

/** The rows that were read as the pool that a plan is built of. */
function poolOf(rows: readonly Row[], sourcesOf: (id: number) => readonly number[]): PlanPool {
  const at = (row: number) => rows[row] as Row;
  let byId: Map<number, number> | null = null;
  return {
    length: rows.length,
    isIn: () => true,
    stateOf: () => 'in',
    idOf: (row) => at(row).id,
    rowOf: (id) => {
      byId ??= new Map(rows.map((one, row) => [one.id, row]));
      return byId.get(id);
    },
    textOf: (row) => at(row).text,
    normOf: (row) => at(row).norm,
    askedOf: (row) => at(row).asked,
    marksOf: (row) => at(row).marks,
    searchesOf: (row) => at(row).searches ?? -1,
    cpcOf: (row) => at(row).cpc ?? -1,
    takenCpcOf: (row) => at(row).taken_cpc ?? -1,
    sourcesOf: (row) => sourcesOf(at(row).id),
  };
}
