import { newThemeOf } from '@sprig/contracts';
import { propose, UNPLACED, Units } from '@sprig/core/sort';
import { z } from 'zod';
import { InputReader } from '../../plan/rebuild/load-inputs.ts';
import { readPlaced } from '../../plan/rebuild/read-placed.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import type { JobContext } from '../../platform/jobs/context.ts';
import { belowOf, makeThemes } from './themes.ts';

const sortJobInput = z.object({ parent: z.number().int().nullable(), instead: z.boolean() });

export type Proposed = { themes: number; placed: number; keywords: number };

/**
 * Proposes the whole plan for a pool that is too large for the browser, and makes its themes as one change. It sorts
 * what the rebuild finds unplaced, whatever kind of rule or hand has placed the rest. Run again after a crash it proposes
 * again.
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
  const { inputs, pool, placed: stands } = await readInPlace(caller, told);
  await told.phase('proposing themes');
  const { themes, placed, sortSettings: settings } = inputs;
  const held = new Set(placed.flatMap(({ keyword, theme }) => (theme === null ? [] : [keyword])));
  const inside = new Set([parent ?? UNPLACED, ...(instead ? belowOf(themes, parent) : [])]);
  // What is placed by hand stays where it is put: no rule that is proposed here is for it.
  const rows = Uint32Array.from({ length: pool.length }, (_, row) => row).filter(
    (row) => inside.has(stands.placing[row] as number) && !held.has(pool.idOf(row)),
  );
  const { target, least, floor } = settings;
  const proposal = propose(new Units(stands.words, stands.signals), rows, {
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

/** The keywords that are in, each in its theme, as the rebuild places them: by rules of any kind and by hand. */
const readInPlace = (caller: PlanCaller, told: Told) =>
  caller.database.transaction(async (transaction) => {
    const reader = new InputReader(caller, transaction);
    const inputs = await reader.inputs();
    const tell = (done: number) => told.progress('reading the pool', done, 0);
    return { inputs, ...(await readPlaced(reader, inputs, tell)) };
  });
