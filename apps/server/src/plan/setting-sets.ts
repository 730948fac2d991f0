import { type Facts, type SettingSet, settingSetSchema } from '@sprig/contracts';
import type { Change } from './change/index.ts';

/** The plan's named campaign settings; `rows` runs a query whose `$1` is the plan. */
export async function settingSetsOf(
  rows: <T extends object>(sql: string) => Promise<T[]>,
): Promise<SettingSet[]> {
  const found = await rows<{ id: number; body: object }>(
    'select id, body from setting_sets where plan_id = $1 order by id',
  );
  return found.map(({ id, body }) => settingSetSchema.parse({ ...body, id }));
}

/** What a campaign is set to: its named set, or the brief where it has none or that is gone. */
export const settingsOf = (
  sets: readonly SettingSet[],
  facts: Facts,
  set: number | null,
): Omit<SettingSet, 'id' | 'name' | 'shared'> => sets.find(({ id }) => id === set) ?? facts;

/** Settings of the workspace as they stand, by their numbers. */
export const sharedSettingsOf = async (
  change: Change,
  ids: readonly number[],
): Promise<{ id: number; body: Record<string, unknown> }[]> =>
  change.rows(
    `select s.id, s.body from shared_settings s join plans p on p.workspace_id = s.workspace_id
     where p.id = $1 and s.id = any($2::int[]) order by s.id`,
    [ids],
  );

/** The plan's copies of settings of the workspace follow these. */
export async function followSettings(change: Change, ids: readonly number[]): Promise<void> {
  const sets = await settingSetsOf((sql) => change.rows(sql));
  for (const { id: shared, body } of await sharedSettingsOf(change, ids))
    for (const { id } of sets.filter((set) => set.shared === shared))
      await change.update('setting_sets', [id], { body: { ...body, shared } });
}

/** Tells every other plan that has them that settings of the workspace were changed. */
export async function tellOfSettings(change: Change, ids: readonly number[]): Promise<void> {
  const others = await change.rows<{ plan: number; sets: number[]; name: string }>(
    `select s.plan_id as plan, array_agg(w.id) as sets, min(w.body->>'name') as name
     from plans p join shared_settings w on w.workspace_id = p.workspace_id
       join setting_sets s on s.workspace_id = w.workspace_id and (s.body->>'shared')::int = w.id
     where p.id = $1 and s.plan_id <> $1 and w.id = any($2::int[]) group by 1 order by 1`,
    [ids],
  );
  for (const { plan, sets, name } of others)
    await change.tell(plan, { what: 'settings', sets, label: `The settings ${name} were changed` });
}
