import { kindOfKey } from '@sprig/core/build';
import type { NegativeType } from '@sprig/core/match';
import { select } from '../../db/connect.ts';
import { type Change, inChange } from '../../plan/change/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';
import { soundNegatives } from '../prune/index.ts';

/** Adds negatives to campaigns or ad groups; those that are there already are left. */
export async function placeNegatives(
  caller: PlanCaller,
  places: readonly string[],
  negatives: readonly { text: string; type: NegativeType }[],
): Promise<{ revision: number; added: number }> {
  for (const place of places)
    if (kindOfKey(place) !== 'campaign' && kindOfKey(place) !== 'group')
      throw new SprigFailure('invalid', 'Negatives go to campaigns and ad groups.', { at: 'places' });
  const rows = soundNegatives(negatives);
  const label = (added: number) => `Add ${counted(added, 'negative keyword')} in place`;
  const { revision, result } = await inChange(caller, label, (change) => placeIn(change, places, rows));
  return { revision, added: result };
}

/** Puts negatives into campaigns or ad groups; answers how many were not there. */
export async function placeIn(
  change: Change,
  places: readonly string[],
  rows: readonly ReturnType<typeof soundNegatives>[number][],
): Promise<number> {
  const there = await change.rows<{ at: string }>(
    `select place || ' ' || match_type || ' ' || norm as at from placed_negatives
     where plan_id = $1 and place = any($2::text[])`,
    [places],
  );
  const known = new Set(there.map(({ at }) => at));
  const fresh = [...new Set(places)].flatMap((place) =>
    rows
      .filter(({ match_type, norm }) => !known.has(`${place} ${match_type} ${norm}`))
      .map((row) => ({ ...row, place })),
  );
  const first = change.takeIds(fresh.length);
  await change.insert(
    'placed_negatives',
    fresh.map((row, at) => ({ id: first + at, ...row })),
  );
  return fresh.length;
}

export const removePlaced = (caller: PlanCaller, ids: readonly number[]): Promise<{ revision: number }> =>
  inChange(
    caller,
    (removed: number) => `Remove ${counted(removed, 'negative keyword')}`,
    (change) =>
      change.remove(
        'placed_negatives',
        ids.map((id) => ({ id })),
      ),
  );

export const listAttached = ({ database, plan, workspace }: PlanCaller) =>
  select<{ id: number; name: string; negatives: number; campaigns: string[] | null }>(
    database,
    `select l.id, l.name, a.campaigns, (select count(*) from shared_negatives n
       where n.workspace_id = l.workspace_id and n.list_id = l.id)::int as negatives
     from attached_lists a join shared_lists l on l.workspace_id = a.workspace_id and l.id = a.list_id
     where a.plan_id = $1 and a.workspace_id = $2 order by lower(l.name)`,
    [plan, workspace],
  );

/** Which campaigns an attached list is for. One that is not for all of them takes no keyword out of the pool. */
export const attachToCampaigns = (
  caller: PlanCaller,
  list: number,
  campaigns: string[] | null,
  refresh: (change: Parameters<Parameters<typeof inChange>[2]>[0]) => Promise<unknown>,
): Promise<{ revision: number }> =>
  inChange(caller, 'Choose the campaigns of a list', async (change) => {
    const [row] = await change.find('attached_lists', { columns: ['id'], where: { list_id: list } });
    if (!row) throw notFound('attached list');
    await change.update('attached_lists', [row.id], { campaigns });
    await refresh(change);
  });
