import { factsOf, newThemeOf } from '@sprig/contracts';
import {
  PoolWords,
  placeKeywords,
  propose,
  Signals,
  signalsFor,
  type Theme,
  UNPLACED,
  Units,
} from '@sprig/core/sort';
import { languagePack } from '@sprig/core/text';
import { z } from 'zod';
import type { PlanCaller } from '../../caller.ts';
import { select } from '../../database/connect.ts';
import type { JobContext } from '../../jobs/context.ts';
import { listByHand } from './by-hand.ts';
import { sortSettings } from './settings.ts';
import { belowOf, listThemes, makeThemes } from './themes.ts';

const sortJobInput = z.object({ parent: z.number().int().nullable(), instead: z.boolean() });

export type Proposed = { themes: number; placed: number; keywords: number };

const PAGE = 50_000;

/**
 * Proposes the whole plan for a pool that is too large for the browser, and makes its themes as one change. It reads
 * the pool in pages, and keeps of each keyword its text, its number and its searches. Run again after a crash it
 * proposes again.
 */
export const sortJob = (context: JobContext): Promise<Proposed> =>
  proposeWithin(context.caller, sortJobInput.parse(context.input), context);

/** Who is told how far it is. */
type Told = Pick<JobContext, 'progress' | 'phase'>;

/** Proposes what is unplaced within a theme, or within the plan, and makes the themes. */
export async function proposeWithin(
  caller: PlanCaller,
  { parent, instead }: z.infer<typeof sortJobInput>,
  told: Told,
): Promise<Proposed> {
  const { ids, norms, searches } = await readPool(caller, told);
  await told.phase('proposing themes');
  const [brief] = await select<{ language: string; body: unknown }>(
    caller.database,
    'select b.language, f.body from briefs b join facts f on f.plan_id = b.plan_id where b.plan_id = $1 and b.workspace_id = $2',
    [caller.plan, caller.workspace],
  );
  const { places, functionWords } = factsOf(brief?.body);
  const settings = await sortSettings(caller);
  const words = new PoolWords(
    {
      length: norms.length,
      isIn: () => true,
      normOf: (row) => norms[row] as string,
      searchesOf: (row) => searches[row] as number,
    },
    languagePack(brief?.language ?? 'en', functionWords),
  );
  const signals = new Signals(words, signalsFor(words.pack, settings.signals, places.flat()));
  const themes = await listThemes(caller);
  const rows = await rowsToSort(caller, words, signals, ids, themes, parent, instead);
  const { target, least, floor } = settings;
  const proposal = propose(new Units(words, signals), rows, {
    target,
    least,
    floor,
    inside: parent !== null,
  });
  if (proposal.themes.length > 0) {
    await told.phase('making themes');
    await makeThemes(
      caller,
      parent,
      proposal.themes.map(({ name, sift, parent: within }) => newThemeOf(name, sift, within)),
      instead,
    );
  }
  return {
    themes: proposal.themes.length,
    placed: rows.length - proposal.unplaced.length,
    keywords: rows.length,
  };
}

async function readPool(caller: PlanCaller, told: Told) {
  const ids: number[] = [];
  const norms: string[] = [];
  const searches: number[] = [];
  for (let last = 0; ; ) {
    const page = await select<{ id: number; norm: string; searches: number | null }>(
      caller.database,
      `select id, norm, searches from keywords where plan_id = $1 and workspace_id = $2 and id > $3
         and not cut and folded_into is null and blocked_by is null order by id limit ${PAGE}`,
      [caller.plan, caller.workspace, last],
    );
    for (const row of page) {
      ids.push(row.id);
      norms.push(row.norm);
      searches.push(row.searches ?? -1);
    }
    last = page.at(-1)?.id ?? last;
    await told.progress('reading the pool', ids.length, 0);
    if (page.length < PAGE) return { ids, norms, searches };
  }
}

/** The rows that are to be sorted: what no theme has, or what `parent` has, of its own or with its sub-themes. */
async function rowsToSort(
  caller: PlanCaller,
  words: PoolWords,
  signals: Signals,
  ids: readonly number[],
  themes: readonly Theme[],
  parent: number | null,
  instead: boolean,
): Promise<Uint32Array> {
  const rowOf = new Map(ids.map((id, row) => [id, row]));
  const held = new Map<number, number>();
  for (const { keyword, theme } of await listByHand(caller)) {
    const row = rowOf.get(keyword);
    if (row !== undefined && theme !== null) held.set(row, theme);
  }
  const placing = placeKeywords(words, { themes, held, stageOf: (row) => signals.stageOf(row) });
  const inside = new Set([parent ?? UNPLACED, ...(instead ? belowOf(themes, parent) : [])]);
  const rows = new Uint32Array(ids.length);
  let length = 0;
  placing.forEach((theme, row) => {
    if (inside.has(theme)) rows[length++] = row;
  });
  return rows.subarray(0, length);
}
