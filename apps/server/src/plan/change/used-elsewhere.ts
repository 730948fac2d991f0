import { SprigFailure } from '../../platform/failure.ts';
import type { Change } from './change.ts';
import type { Diff } from './diff.ts';

/** What plans share, with how other plans use it: `$2` are the keys of rows that are to go. */
const USES = {
  outlets: {
    what: 'an outlet',
    key: 'key',
    by: 'select o.plan_id from plan_outlets o where o.workspace_id = w.workspace_id and o.outlet = any($2::text[])',
  },
  shared_lists: {
    what: 'a shared list of negatives',
    key: 'id',
    by: 'select a.plan_id from attached_lists a where a.workspace_id = w.workspace_id and a.list_id = any($2::int[])',
  },
  shared_settings: {
    what: 'settings of the workspace',
    key: 'id',
    by: `select s.plan_id from setting_sets s where s.workspace_id = w.workspace_id and (s.body->>'shared')::int = any($2::int[])`,
  },
  word_lists: {
    what: 'a shared list of words',
    key: 'id',
    by: `select r.plan_id from recipes r, jsonb_array_elements(r.body->'lists') l where r.workspace_id = w.workspace_id
      and ((l->>'list')::int = any($2::int[])
        or exists (select from jsonb_array_elements_text(coalesce(l->'takes', '[]')) t where t::int = any($2::int[])))`,
  },
} as const;

/** Before something that plans share goes with a step that is taken back: nobody's plan loses what it uses by that. */
export async function refuseIfUsedElsewhere(change: Change, diff: Diff): Promise<void> {
  for (const name of ['outlets', 'shared_lists', 'shared_settings', 'word_lists'] as const) {
    const removed = diff[name]?.removed ?? [];
    if (removed.length === 0) continue;
    const { what, key, by } = USES[name];
    const used = await change.rows<{ name: string }>(
      `select b.name from plans w join briefs b on b.plan_id in (${by}) where w.id = $1 and b.plan_id <> $1 order by 1 limit 3`,
      [removed.map((row) => row[key])],
    );
    if (used.length === 0) continue;
    const plans = used.map((plan) => `“${plan.name}”`).join(', ');
    throw new SprigFailure(
      'conflict',
      `This step made ${what} that other plans use: ${plans}. Take that out there first, then step back.`,
    );
  }
}
