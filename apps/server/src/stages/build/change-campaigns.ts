import {
  type changeCampaigns as endpoint,
  factsOf,
  type SettingValues,
  type SettledSet,
  settingSetSchema,
  soundReach,
} from '@sprig/contracts';
import { type NamedSettings, type SettledCampaign, type Settling, settleCampaigns } from '@sprig/core/build';
import type { z } from 'zod';
import { select } from '../../db/connect.ts';
import { parse } from '../../http/mount.ts';
import { type Change, inChange } from '../../plan/change/index.ts';
import { settingSetsOf } from '../../plan/setting-sets.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { notFound } from '../../platform/failure.ts';
import { holdAll, holdOf } from './holds.ts';

type Asked = z.output<(typeof endpoint)['body']>;
type Answer = z.output<(typeof endpoint)['answer']>;
type Rows = <T extends object>(sql: string) => Promise<T[]>;

const settings = settingSetSchema.omit({ id: true, name: true, shared: true }).strip();
const soundSettings = soundReach(settings);
type Settings = z.output<typeof settings>;

/** Values of many campaigns, and what some of them are set to, as one change. `dry`: says what they would have. */
export async function changeCampaigns(
  caller: PlanCaller,
  { values, settings: asked, dry }: Asked,
): Promise<Answer> {
  if (dry) {
    const { database, plan, workspace } = caller;
    const [{ revision = 0 } = {}] = await select<{ revision: number }>(
      database,
      'select revision from plans where id = $1 and workspace_id = $2',
      [plan, workspace],
    );
    let next = 0;
    const rows: Rows = (sql) => select(database, sql, [plan]);
    const settled = await settle(rows, asked, () => --next);
    const sets = settled.map((one) => ({ ...told(one), ...(one.how === 'made' ? { id: null } : {}) }));
    return { revision, held: values.length, sets };
  }
  const campaigns = new Set([...values.map(([key]) => key), ...asked.flatMap(({ campaigns: keys }) => keys)]);
  const label = `Change ${counted(campaigns.size, 'campaign')}`;
  const { revision, result } = await inChange(caller, label, async (change) => {
    const held = await holdOf(change, values);
    const rows: Rows = (sql) => change.rows(sql);
    const settled = await settle(rows, asked, () => change.takeIds(1));
    await keep(change, settled);
    return { held, sets: settled.map(told) };
  });
  return { revision, ...result };
}

const told = ({ id, name, how, campaigns }: Settling<Settings>): SettledSet => ({
  id,
  name,
  how,
  campaigns: campaigns.length,
});

/** What the campaigns of each request come to have, one request upon the other. */
async function settle(
  rows: Rows,
  asked: Asked['settings'],
  newId: () => number,
): Promise<Settling<Settings>[]> {
  if (asked.length === 0) return [];
  const [facts] = await rows<{ body: unknown }>('select body from facts where plan_id = $1');
  const brief = parse(settings, factsOf(facts?.body), 'the brief');
  let sets = (await settingSetsOf(rows)).map(({ id, name, shared, ...body }) => ({
    id,
    name,
    body: settings.parse(body),
    isShared: shared !== null,
  }));
  let campaigns = await campaignsOf(rows);
  const all: Settling<Settings>[] = [];
  const there = new Set(campaigns.map(({ key }) => key));
  if (asked.some(({ campaigns: keys }) => keys.some((key) => !there.has(key))))
    throw notFound('campaign any more');
  for (const one of asked) {
    const settled =
      'set' in one
        ? [named(sets, brief, one)]
        : settleCampaigns({ sets, brief, campaigns }, new Set(one.campaigns), given(one.values), newId);
    for (const one of settled) {
      const { id, name, how, body } = one;
      parse(soundSettings, body, 'the settings');
      if (how === 'changed') sets = sets.map((set) => (set.id === id ? { ...set, body } : set));
      if (how === 'made' && id !== null) sets = [...sets, { id, name, body, isShared: false }];
      const having = new Set(one.campaigns);
      campaigns = campaigns.map((had) => (having.has(had.key) ? { ...had, settings: id } : had));
    }
    all.push(...settled);
  }
  return all;
}

function named(
  sets: readonly NamedSettings<Settings>[],
  brief: Settings,
  { campaigns, set: id }: { campaigns: string[]; set: number | null },
): Settling<Settings> {
  if (id === null) return { id, name: '', how: 'there', body: brief, campaigns };
  const set = sets.find((one) => one.id === id);
  if (!set) throw notFound('set of settings any more');
  return { ...set, how: 'there', campaigns };
}

/** What was left out says nothing; `null` says none. */
const given = (values: SettingValues): Partial<Settings> =>
  Object.fromEntries(Object.entries(values).filter(([, value]) => value !== undefined));

/** Campaigns with the settings that they have by what is held, which may not be built yet. */
const campaignsOf = (rows: Rows): Promise<SettledCampaign[]> =>
  rows(
    `select coalesce(c.key, h.row_key) as key, coalesce(c.name, '') as name, (h.value #>> '{}')::int as settings
     from (select * from campaigns where plan_id = $1) c
     full join (select * from holds where plan_id = $1 and field = 'settings' and outlet is null) h on h.row_key = c.key
     order by c.position`,
  );

async function keep(change: Change, settled: readonly Settling<Settings>[]): Promise<void> {
  for (const { id, name, how, body, campaigns } of settled) {
    if (id !== null && how === 'made') await change.insert('setting_sets', [{ id, body: { ...body, name } }]);
    if (id !== null && how === 'changed')
      await change.update('setting_sets', [id], { body: { ...body, name } });
    if (id !== null)
      await holdAll(
        change,
        campaigns.map((rowKey) => ({ rowKey, value: id })),
        'settings',
      );
    else await letSettingsGo(change, campaigns);
  }
}

async function letSettingsGo(change: Change, campaigns: readonly string[]): Promise<void> {
  const held = await change.rows<{ id: number }>(
    `select id from holds where plan_id = $1 and field = 'settings' and outlet is null and row_key = any($2::text[])`,
    [campaigns],
  );
  await change.remove('holds', held);
}
