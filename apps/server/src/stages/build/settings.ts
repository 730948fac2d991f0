import {
  type FieldEdit,
  factsOf,
  type SettingSet,
  type SharedSettings,
  settingSetSchema,
  soundReach,
} from '@sprig/contracts';
import type { z } from 'zod';
import { select } from '../../db/connect.ts';
import { type Change, inChange } from '../../plan/change/index.ts';
import { applyEdits } from '../../plan/documents.ts';
import { settingSetsOf, sharedSettingsOf, tellOfSettings } from '../../plan/setting-sets.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';
import { holdAll } from './holds.ts';

export const listSets = ({ database, plan }: PlanCaller): Promise<SettingSet[]> =>
  settingSetsOf((sql) => select(database, sql, [plan]));

const setsIn = (change: Change): Promise<SettingSet[]> => settingSetsOf((sql) => change.rows(sql));

function assertFree(sets: readonly SettingSet[], name: string, own = 0) {
  if (sets.some((set) => set.id !== own && set.name.toLowerCase() === name.trim().toLowerCase()))
    throw new SprigFailure(
      'invalid',
      `There are settings called “${name.trim()}”. Give these another name.`,
      {
        at: 'name',
      },
    );
}

/** Makes a set of the brief's settings, or of another's, and gives it to campaigns. */
export async function makeSet(
  caller: PlanCaller,
  name: string,
  from: number | null,
  campaigns: readonly string[],
): Promise<{ revision: number; id: number }> {
  const { revision, result } = await inChange(caller, `Make the settings ${name}`, async (change) => {
    const sets = await setsIn(change);
    assertFree(sets, name);
    const [brief] = await change.find('facts', { columns: ['body'] });
    const source = from === null ? factsOf(brief?.body) : sets.find((set) => set.id === from);
    if (!source) throw notFound('set of settings');
    const id = change.takeIds(1);
    const { id: _, ...body } = settingSetSchema
      .strip()
      .parse({ ...source, id, name: name.trim(), shared: null });
    await change.insert('setting_sets', [{ id, body }]);
    await holdAll(
      change,
      campaigns.map((rowKey) => ({ rowKey, value: id })),
      'settings',
    );
    return id;
  });
  return { revision, id: result };
}

export const editSet = (
  caller: PlanCaller,
  id: number,
  edits: readonly FieldEdit[],
): Promise<{ revision: number }> =>
  inChange(caller, 'Change campaign settings', async (change) => {
    const sets = await setsIn(change);
    const set = sets.find((one) => one.id === id);
    if (!set) throw notFound('set of settings');
    const { id: _, ...body } = applyEdits(
      set,
      edits,
      soundReach(settingSetSchema as unknown as z.ZodType<SettingSet>),
    );
    assertFree(sets, body.name, id);
    if (body.shared !== set.shared)
      throw new SprigFailure('invalid', 'This is not changed so.', { at: 'shared' });
    await keepSet(change, id, body);
  });

/** Keeps settings as they are now; those of the workspace change with them, and every other plan is told. */
export async function keepSet(change: Change, id: number, body: Omit<SettingSet, 'id'>): Promise<void> {
  await change.update('setting_sets', [id], { body });
  const { shared, ...own } = body;
  if (shared === null) return;
  await change.lockShared();
  await assertFreeShared(change, own.name, shared);
  await change.update('shared_settings', [shared], { body: own });
  await tellOfSettings(change, [shared]);
}

async function assertFreeShared(change: Change, name: string, own = 0) {
  const twins = await change.rows(
    `select 1 from shared_settings s join plans p on p.workspace_id = s.workspace_id
     where p.id = $1 and lower(s.body->>'name') = lower($2) and s.id <> $3`,
    [name.trim(), own],
  );
  if (twins.length > 0)
    throw new SprigFailure(
      'invalid',
      `The workspace has settings called “${name.trim()}”. Give these another name first.`,
      { at: 'name' },
    );
}

/** The settings of the workspace, with how many plans have them. */
export const listSharedSettings = ({ database, workspace, plan }: PlanCaller): Promise<SharedSettings[]> =>
  select<SharedSettings>(
    database,
    `select w.id, w.body->>'name' as name,
       (select count(distinct s.plan_id) from setting_sets s where s.workspace_id = $1 and (s.body->>'shared')::int = w.id)::int as plans,
       (select min(s.id) from setting_sets s where s.plan_id = $2 and (s.body->>'shared')::int = w.id) as here
     from shared_settings w where w.workspace_id = $1 order by lower(w.body->>'name')`,
    [workspace, plan],
  );

/** Makes settings the workspace's, or the plan's own again. Those that no plan has any more go. */
export const shareSet = (caller: PlanCaller, id: number, isShared: boolean): Promise<{ revision: number }> =>
  inChange(
    caller,
    isShared ? 'Make campaign settings the workspace’s' : 'Make campaign settings the plan’s own',
    async (change) => {
      const set = (await setsIn(change)).find((one) => one.id === id);
      if (!set) throw notFound('set of settings');
      if ((set.shared !== null) === isShared) return;
      const { id: _, shared: before, ...body } = set;
      await change.lockShared();
      if (isShared) {
        await assertFreeShared(change, body.name);
        const [shared = 0] = await change.takeSharedIds(1);
        await change.insert('shared_settings', [{ id: shared, body }]);
        await change.update('setting_sets', [id], { body: { ...body, shared } });
      } else {
        await change.update('setting_sets', [id], { body: { ...body, shared: null } });
        await leaveShared(change, before);
      }
    },
  );

/** Takes settings of the workspace away that no plan has any more. */
async function leaveShared(change: Change, shared: number | null) {
  if (shared === null) return;
  const used = await change.rows(
    `select 1 from plans p join setting_sets s on s.workspace_id = p.workspace_id
     where p.id = $1 and (s.body->>'shared')::int = $2 limit 1`,
    [shared],
  );
  if (used.length === 0) await change.remove('shared_settings', [{ id: shared }]);
}

/** Gives campaigns settings of the workspace, which the plan has from then on. */
export async function takeShared(
  caller: PlanCaller,
  shared: number,
  campaigns: readonly string[],
): Promise<{ revision: number; id: number }> {
  const label = 'Take settings of the workspace';
  const { revision, result } = await inChange(caller, label, async (change) => {
    await change.lockShared();
    const [there] = await sharedSettingsOf(change, [shared]);
    if (!there) throw notFound('set of settings any more');
    const sets = await setsIn(change);
    const own = sets.find((set) => set.shared === shared);
    const id = own?.id ?? change.takeIds(1);
    if (!own) {
      const { id: _, ...body } = settingSetSchema.parse({ ...there.body, id, shared });
      assertFree(sets, body.name);
      await change.insert('setting_sets', [{ id, body }]);
    }
    await holdAll(
      change,
      campaigns.map((rowKey) => ({ rowKey, value: id })),
      'settings',
    );
    return id;
  });
  return { revision, id: result };
}

/** Campaigns that had it have the brief's settings again. */
export const removeSet = (caller: PlanCaller, id: number): Promise<{ revision: number }> =>
  inChange(caller, 'Remove campaign settings', async (change) => {
    const held = await change.rows<{ id: number }>(
      `select id from holds where plan_id = $1 and field = 'settings' and value = to_jsonb($2::int)`,
      [id],
    );
    const set = (await setsIn(change)).find((one) => one.id === id);
    if (!set) throw notFound('set of settings');
    await change.remove('holds', held);
    await change.remove('setting_sets', [{ id }]);
    if (set.shared !== null) {
      await change.lockShared();
      await leaveShared(change, set.shared);
    }
  });
