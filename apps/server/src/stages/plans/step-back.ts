import type { PlanCaller } from '../../caller.ts';
import { type Follow, redo, undo } from '../../change/index.ts';
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
  const lists = new Set<number>();
  const follow: Follow = async (change, diff) => {
    for (const row of [...(diff.shared_negatives?.inserted ?? []), ...(diff.shared_negatives?.removed ?? [])])
      lists.add(Number(row.list_id));
    const concerned =
      diff.came ?? diff.keywords ?? diff.negatives ?? diff.attached_lists ?? diff.shared_negatives;
    if (concerned) await refreshBlocks(change);
  };
  const { revision, result } = await (direction === 'undo' ? undo : redo)(caller, force, follow);
  for (const list of lists) await tellOthers(caller, list);
  return { revision, label: result };
}
