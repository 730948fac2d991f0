import { type FieldEdit, factsOf, type SettingSet, settingSetSchema, soundReach } from '@sprig/contracts';
import type { z } from 'zod';
import { select } from '../../db/connect.ts';
import { type Change, inChange } from '../../plan/change/index.ts';
import { applyEdits } from '../../plan/documents.ts';
import { settingSetsOf } from '../../plan/setting-sets.ts';
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
    const { id: _, ...body } = settingSetSchema.strip().parse({ ...source, id, name: name.trim() });
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
    await change.update('setting_sets', [id], { body });
  });

/** Campaigns that had it have the brief's settings again. */
export const removeSet = (caller: PlanCaller, id: number): Promise<{ revision: number }> =>
  inChange(caller, 'Remove campaign settings', async (change) => {
    const held = await change.rows<{ id: number }>(
      `select id from holds where plan_id = $1 and field = 'settings' and value = to_jsonb($2::int)`,
      [id],
    );
    await change.remove('holds', held);
    const removed = await change.remove('setting_sets', [{ id }]);
    if (removed === 0) throw notFound('set of settings');
  });
