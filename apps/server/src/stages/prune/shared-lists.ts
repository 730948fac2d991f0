import type { SharedList } from '@sprig/contracts';
import type { NegativeType } from '@sprig/core/match';
import { starterLists } from '@sprig/core/prune';
import { normalise } from '@sprig/core/text';
import { select } from '../../db/connect.ts';
import { type Change, inChange } from '../../plan/change/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { changedMeanwhile, notFound, SprigFailure } from '../../platform/failure.ts';
import { refreshBlocks } from './blocks.ts';

type Row = { text: string; norm: string; match_type: NegativeType };

/** The workspace's lists of negatives, with what of them the plan has attached. */
export async function listShared(caller: PlanCaller): Promise<SharedList[]> {
  const { database, workspace, plan } = caller;
  return select<SharedList>(
    database,
    `select l.id, l.name, l.about, exists (select from attached_lists a where a.plan_id = $2 and a.list_id = l.id) as attached,
       (select count(*) from attached_lists a where a.workspace_id = l.workspace_id and a.list_id = l.id)::int as plans,
       coalesce((select json_agg(json_build_object('id', n.id, 'text', n.text, 'norm', n.norm, 'type', n.match_type) order by n.id)
         from shared_negatives n where n.workspace_id = l.workspace_id and n.list_id = l.id), '[]') as negatives
     from shared_lists l where l.workspace_id = $1 order by l.id`,
    [workspace, plan],
  );
}

/** Puts the starter lists into a new workspace, as a part of the change that makes its first plan. */
export async function makeStarterLists(change: Change): Promise<void> {
  await change.lockShared();
  const [there] = await change.rows<{ any: boolean }>(
    `select exists (select from shared_lists l join plans p on p.workspace_id = l.workspace_id where p.id = $1) as any`,
  );
  if (there?.any) return;
  for (const { name, about, negatives } of starterLists) {
    const [id = 0] = await change.takeSharedIds(1);
    await change.insert('shared_lists', [{ id, name, about }]);
    await insertInto(
      change,
      id,
      negatives.map(({ text, type }) => ({ text, norm: normalise(text), match_type: type })),
    );
  }
}

async function insertInto(change: Change, list: number, rows: readonly Row[]) {
  const ids = await change.takeSharedIds(rows.length);
  await change.insert(
    'shared_negatives',
    rows.map((row, at) => ({ id: ids[at] as number, list_id: list, ...row })),
  );
}

async function assertList(change: Change, list: number): Promise<{ name: string }> {
  await change.lockShared();
  const [row] = await change.rows<{ name: string }>(
    'select l.name from shared_lists l join plans p on p.workspace_id = l.workspace_id where p.id = $1 and l.id = $2',
    [list],
  );
  if (!row) throw notFound('shared list');
  return row;
}

/** Adds to a shared list and attaches it to the plan in which that is done. */
export async function addToShared(change: Change, list: number, rows: readonly Row[]): Promise<number> {
  await assertList(change, list);
  const there = await change.rows<{ place: string }>(
    `select n.match_type || ':' || n.norm as place from shared_negatives n join plans p on p.workspace_id = n.workspace_id
     where p.id = $1 and n.list_id = $2`,
    [list],
  );
  const known = new Set(there.map(({ place }) => place));
  const fresh = rows.filter(({ match_type, norm }) => !known.has(`${match_type}:${norm}`));
  await insertInto(change, list, fresh);
  await attach(change, list);
  return fresh.length;
}

async function attach(change: Change, list: number) {
  const there = await change.find('attached_lists', { columns: ['id'], where: { list_id: list } });
  if (there.length === 0)
    await change.insert('attached_lists', [{ id: change.takeIds(1), list_id: list, campaigns: null }]);
}

export async function makeShared(
  caller: PlanCaller,
  { name, about }: { name: string; about: string },
): Promise<{ revision: number; id: number }> {
  const { revision, result } = await inChange(caller, `Make the list ${name}`, async (change) => {
    await refuseTwin(change, name, 0);
    const [id = 0] = await change.takeSharedIds(1);
    await change.insert('shared_lists', [{ id, name: name.trim(), about }]);
    return id;
  });
  return { revision, id: result };
}

async function refuseTwin(change: Change, name: string, but: number) {
  await change.lockShared();
  const twins = await change.rows(
    `select 1 from shared_lists l join plans p on p.workspace_id = l.workspace_id
     where p.id = $1 and lower(l.name) = lower($2) and l.id <> $3`,
    [name.trim(), but],
  );
  if (twins.length > 0)
    throw new SprigFailure('invalid', `Another shared list is called “${name.trim()}”.`, { at: 'name' });
}

export const renameShared = (
  caller: PlanCaller,
  list: number,
  name: string,
  before: string,
): Promise<{ revision: number }> =>
  inChange(caller, `Rename the list ${before}`, async (change) => {
    const there = await assertList(change, list);
    if (there.name !== before) throw changedMeanwhile('name', there.name);
    await refuseTwin(change, name, list);
    await change.update('shared_lists', [list], { name: name.trim() });
  });

/** Attaches a list to the plan: its negatives stand in the campaigns, and block the pool's keywords. */
export const attachShared = (caller: PlanCaller, list: number, on: boolean): Promise<{ revision: number }> =>
  inChange(
    caller,
    (name: string) => `${on ? 'Attach' : 'Take off'} the list ${name}`,
    async (change) => {
      const { name } = await assertList(change, list);
      if (on) await attach(change, list);
      else {
        const rows = await change.find('attached_lists', { columns: ['id'], where: { list_id: list } });
        await change.remove('attached_lists', rows);
      }
      await refreshBlocks(change);
      return name;
    },
  );

export async function removeFromShared(
  caller: PlanCaller,
  list: number,
  ids: readonly number[],
): Promise<{ revision: number }> {
  const changed = await inChange(
    caller,
    (removed: number) => `Remove ${counted(removed, 'negative keyword')} from a shared list`,
    async (change) => {
      await assertList(change, list);
      const rows = await change.rows<{ id: number }>(
        `select n.id from shared_negatives n join plans p on p.workspace_id = n.workspace_id
         where p.id = $1 and n.list_id = $2 and n.id = any($3::int[]) for update of n`,
        [list, ids],
      );
      if (rows.length === 0) throw notFound('negative of this list');
      const removed = await change.remove('shared_negatives', rows);
      await refreshBlocks(change);
      await tellOthers(change, list);
      return removed;
    },
  );
  return changed;
}

/** Other plans that attach a list take its change in as a change of their own, which is not theirs to undo. */
export async function tellOthers(change: Change, list: number): Promise<void> {
  const others = await change.rows<{ plan: number; name: string }>(
    `select a.plan_id as plan, l.name from attached_lists a
       join shared_lists l on l.workspace_id = a.workspace_id and l.id = a.list_id
       join plans p on p.workspace_id = a.workspace_id
     where p.id = $1 and a.list_id = $2 and a.plan_id <> $1 order by 1`,
    [list],
  );
  for (const { plan, name } of others)
    await change.tell(plan, { what: 'negatives', label: `The shared list ${name} was changed` });
}
