import { type Change, type Diff, type Follow, redo, undo, undoOne } from '../../plan/change/index.ts';
import { tellShippers } from '../../plan/outlets.ts';
import { tellOfSettings } from '../../plan/setting-sets.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { followRecipes, followShared, leavePool, tellOtherPlans } from '../mix/index.ts';
import { refreshBlocks, tellOthers } from '../prune/index.ts';

/**
 * Takes the caller's newest change back, or does it again. What blocks the pool may have changed since in another plan,
 * by a shared list, so that which keywords are blocked is found anew and not only put back.
 */
export async function stepBack(
  caller: PlanCaller,
  direction: 'undo' | 'redo',
  force: boolean,
): Promise<{ revision: number; label: string }> {
  const { revision, result } = await (direction === 'undo' ? undo : redo)(caller, force, follow);
  return { revision, label: result };
}

/** Takes one change back, whoever made it. */
export async function stepBackOne(
  caller: PlanCaller,
  change: number,
  force: boolean,
): Promise<{ revision: number; label: string }> {
  const { revision, result } = await undoOne(caller, change, force, follow);
  return { revision, label: result };
}

const follow: Follow = async (change, diff) => {
  const lists = new Set<number>();
  for (const row of [...(diff.shared_negatives?.inserted ?? []), ...(diff.shared_negatives?.removed ?? [])])
    lists.add(Number(row.list_id));
  const words = await followBack(change, diff);
  const concerned =
    diff.came ?? diff.keywords ?? diff.negatives ?? diff.attached_lists ?? diff.shared_negatives;
  if (concerned) await refreshBlocks(change);
  for (const list of lists) await tellOthers(change, list);
  for (const { key } of diff.outlets?.changed ?? []) await tellShippers(change, Number(key.id));
  const settings = (diff.shared_settings?.changed ?? []).map(({ key }) => Number(key.id));
  if (settings.length > 0) await tellOfSettings(change, settings);
  if (words.size > 0) await tellOtherPlans(change, words);
};

/** What recipes make follows from them, so it follows them back; answers which shared word lists were changed. */
async function followBack(change: Change, diff: Diff): Promise<Set<number>> {
  for (const { kind, id } of diff.sources?.removed ?? [])
    if (kind === 'recipe') await leavePool(change, Number(id));
  const changed = new Set<number>([
    ...(diff.recipes?.inserted ?? []).map(({ id }) => Number(id)),
    ...(diff.recipes?.changed ?? []).map(({ key }) => Number(key.id)),
    ...[...(diff.recipe_cuts?.inserted ?? []), ...(diff.recipe_cuts?.removed ?? [])].map(({ recipe_id }) =>
      Number(recipe_id),
    ),
  ]);
  if (diff.facts) await followRecipes(change);
  else if (changed.size > 0) await followRecipes(change, ({ id }) => changed.has(id));
  const words = new Set((diff.word_lists?.changed ?? []).map(({ key }) => Number(key.id)));
  if (words.size > 0) await followShared(change, words);
  return words;
}
