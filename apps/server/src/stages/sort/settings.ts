import { type FieldEdit, type SortSettings, sortSettingsSchema, usualSortSettings } from '@sprig/contracts';
import { execute, select } from '../../db/connect.ts';
import { findOne } from '../../db/rows.ts';
import { inChange } from '../../plan/change/index.ts';
import { applyEdits } from '../../plan/documents.ts';
import { revisionOf } from '../../plan/revision-of.ts';
import type { PlanCaller } from '../../platform/caller.ts';

const read = (body: unknown): SortSettings => sortSettingsSchema.parse(body ?? usualSortSettings);

export async function sortSettings({ database, plan, workspace }: PlanCaller): Promise<SortSettings> {
  const [row] = await select<{ body: unknown }>(
    database,
    'select body from sort_settings where plan_id = $1 and workspace_id = $2',
    [plan, workspace],
  );
  return read(row?.body);
}

const WORDS: Record<string, string> = {
  target: 'Change the most keywords of a group',
  least: 'Change the fewest keywords of a group',
  floor: 'Change from how many searches a small group will do',
  signals: 'Change the words that tell the stage',
  dismissed: 'Dismiss a suggestion',
};

export const editSortSettings = (
  caller: PlanCaller,
  edits: readonly FieldEdit[],
): Promise<{ revision: number }> =>
  inChange(caller, WORDS[edits[0]?.at ?? ''] ?? 'Change how the plan is sorted', async (change) => {
    const [row] = await change.find('sort_settings', { columns: ['body'], lock: true });
    const body = applyEdits<SortSettings>(read(row?.body), edits, sortSettingsSchema);
    if (row) await change.update('sort_settings', [1], { body });
    else await change.insert('sort_settings', [{ id: 1, body }]);
  });

/** The greatest keyword that the caller has seen in Sort; 0 where they never looked. */
export async function seenBy(caller: PlanCaller): Promise<number> {
  const row = await findOne(caller, 'sort_seen', {
    columns: ['keyword_id'],
    where: { actor_id: caller.actor },
  });
  return row?.keyword_id ?? 0;
}

/** What somebody has seen is theirs, and no input of the plan: it takes no revision and is not undone. */
export async function noteSeen(caller: PlanCaller, keyword: number): Promise<{ revision: number }> {
  const { database, plan, workspace, actor } = caller;
  await execute(
    database,
    `insert into sort_seen (plan_id, actor_id, workspace_id, keyword_id) values ($1, $2, $3, $4)
     on conflict (plan_id, actor_id) do update set keyword_id = greatest(sort_seen.keyword_id, excluded.keyword_id)`,
    [plan, actor, workspace, keyword],
  );
  return { revision: await revisionOf(caller) };
}
