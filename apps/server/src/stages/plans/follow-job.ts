import { inChange, sharedNote } from '../../plan/change/index.ts';
import { followSettings } from '../../plan/setting-sets.ts';
import type { JobContext } from '../../platform/jobs/context.ts';
import { followShared } from '../mix/index.ts';
import { refreshBlocks } from '../prune/index.ts';

/**
 * A plan follows what was changed in another one of that which they share: a change of its own, which is not its user's
 * to undo. Run again after a crash it finds all done.
 */
export async function followJob({ caller, input }: JobContext): Promise<{ revision: number }> {
  const note = sharedNote.parse(input);
  const { revision } = await inChange(
    caller,
    note.label,
    async (change) => {
      if (note.what === 'negatives') await refreshBlocks(change);
      if (note.what === 'settings') await followSettings(change, note.sets);
      if (note.what === 'words') await followShared(change, new Set(note.lists));
    },
    { undoable: false, always: true },
  );
  return { revision };
}
