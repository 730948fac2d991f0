import type { BuildKeyword } from '@sprig/core/build';
import { asMicros } from '@sprig/core/money';
import {
  PoolWords,
  placeKeywords,
  placesOfRows,
  Signals,
  signalsFor,
  stageOfRow,
  type Theme,
} from '@sprig/core/sort';
import { type FunnelStage, languagePack } from '@sprig/core/text';
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

/** A keyword that is built, with all that Build asks of it. */
export type PlacedKeyword = BuildKeyword & {
  searches: number | null;
  theme: number;
  stage: FunnelStage | null;
  place: string | null;
};

/** The keywords that are in, by id, each in its theme, with its stage, its place and its sources. O(pool). */
export async function placedKeywords(
  reader: InputReader,
  inputs: Inputs,
  tell: (done: number) => Promise<void>,
): Promise<PlacedKeyword[]> {
  const rows: Row[] = [];
  for (let last = 0; ; ) {
    const page = await reader.rows<Row>(
      `select id, text, norm, asked, marks, cpc, taken_cpc, searches from keywords
       where plan_id = $1 and id > $2 and ${IS_IN} order by id limit ${PAGE}`,
      [last],
    );
    for (const row of page) rows.push(row);
    await tell(rows.length);
    if (page.length < PAGE) break;
    last = page.at(-1)?.id ?? last;
  }
  const sources = await sourcesOf(reader, [...inputs.sources.keys()]);
  return withPlaces(rows, inputs, sources);
}

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

function withPlaces(
  rows: readonly Row[],
  { brief, facts, themes, placed, sortSettings }: Inputs,
  sourcesOf: (id: number) => readonly number[],
): PlacedKeyword[] {
  const words = new PoolWords(
    {
      length: rows.length,
      isIn: () => true,
      normOf: (row) => (rows[row] as Row).norm,
      searchesOf: (row) => (rows[row] as Row).searches ?? -1,
      cpcOf: (row) => (rows[row] as Row).cpc ?? -1,
      sourcesOf: (row) => sourcesOf((rows[row] as Row).id),
    },
    languagePack(brief.language, facts.functionWords),
  );
  const signals = new Signals(words, signalsFor(words.pack, sortSettings.signals, facts.places.flat()));
  const rowOf = new Map(placed.length > 0 ? rows.map(({ id }, row) => [id, row] as const) : []);
  const held = new Map<number, number>();
  const heldStages = new Map<number, FunnelStage>();
  for (const { keyword, theme, stage } of placed) {
    const row = rowOf.get(keyword);
    if (row === undefined) continue;
    if (theme !== null) held.set(row, theme);
    if (stage !== null) heldStages.set(row, stage);
  }
  const stageOf = (row: number) => heldStages.get(row) ?? signals.stageOf(row);
  const placing = placeKeywords(words, { themes, held, stageOf });
  const byId = new Map<number, Theme>(themes.map((theme) => [theme.id, theme]));
  const places = placesOfRows(words, facts.places);
  return rows.map(({ taken_cpc: taken, ...row }, at) => ({
    ...row,
    takenCpc: taken === null ? null : asMicros(taken),
    cpc: row.cpc === null ? null : asMicros(row.cpc),
    theme: placing[at] as number,
    stage: stageOfRow(at, signals, heldStages, placing, byId)?.stage ?? null,
    place: places(at),
    sources: sourcesOf(row.id),
  }));
}
