import { type Facts, type SettingSet, settingSetSchema } from '@sprig/contracts';

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
): Omit<SettingSet, 'id' | 'name'> => sets.find(({ id }) => id === set) ?? facts;
