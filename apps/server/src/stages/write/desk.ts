import {
  DESK_PAGE,
  type DeskGroup,
  type DeskOnly,
  type DeskState,
  deskOnly,
  type listDesk,
  type Moved,
  type WhichGroups,
} from '@sprig/contracts';
import { plainOutlet } from '@sprig/core/outlets';
import { normalise } from '@sprig/core/text';
import type { Transaction } from 'sequelize';
import type { z } from 'zod';
import { execute, select } from '../../db/connect.ts';
import { todayOf } from '../../plan/today.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound } from '../../platform/failure.ts';
import { notify } from '../../platform/jobs/notify.ts';

/** SQL of a hash of what the ads of an ad group say; null: it has none. */
const stampOf = (
  group: string,
) => `(select md5(string_agg(concat_ws(e'\\x1f', a.key, array_to_string(a.texts, e'\\x1e', ''), a.final_url), e'\\x1d' order by a.key))
  from ads a where a.plan_id = ${group}.plan_id and a.outlet = '${plainOutlet.key}' and a.group_key = ${group}.key)`;

/** SQL of how ads stand, of a state that was said, of the stamp then and the stamp now. */
const STATE = `case when said is null then 'open' when said = 'back' then 'back' when kept = now then said else 'open' end`;

/** Ad groups with how their ads stand; `$1` the plan, `$2` who asks, `$3` words, `$4` whether all are to be accepted. */
const DESK = `with of_ads as (
  select group_key, count(*)::int as ads, (count(*) filter (where misfit))::int as misfits
  from ads where plan_id = $1 and outlet = '${plainOutlet.key}' group by 1
), seen as (
  select g.plan_id, g.key, g.name, c.name as campaign, g.keyword, g.searches, coalesce(a.ads, 0) as ads, coalesce(a.misfits, 0) as misfits,
    h.state as said, h.stamp as kept, h.reason, h.by_actor, h.at, case when h.state is not null then coalesce(${stampOf('g')}, '') end as now,
    n.note, n.actor, n.due, n.text
  from ad_groups g join campaigns c on c.plan_id = g.plan_id and c.key = g.campaign_key
  left join of_ads a on a.group_key = g.key
  left join hand_overs h on h.plan_id = g.plan_id and h.group_key = g.key
  left join (
    select distinct on (about_key) about_key, id as note, for_actor as actor, due, text from notes
    where plan_id = $1 and about_kind = 'group' and done_at is null and for_actor is not null
    order by about_key, for_actor = $2 desc, due nulls last, id
  ) n on n.about_key = g.key
  where g.plan_id = $1
    and ($3 = '' or strpos(lower(g.name), $3) > 0 or strpos(g.keyword, $3) > 0 or strpos(lower(c.name), $3) > 0)
), stood as (
  select *, ${STATE} as state, said is not null and kept is distinct from now as changed, actor is not distinct from $2 as is_mine
  from seen
), desk as (
  select *, state <> 'handed' and (ads = 0 or misfits > 0 or state = 'back' or changed or is_mine or ($4 and state = 'open'))
    and not (state = 'accepted' and not is_mine) as is_todo
  from stood
)`;

const ONLY: Record<DeskOnly, string> = {
  todo: 'is_todo',
  mine: 'is_mine',
  handed: `state = 'handed'`,
  back: `state = 'back'`,
  accepted: `state = 'accepted'`,
  all: 'true',
};

const ORDER = `order by is_mine desc, case when is_mine then due end nulls last, state = 'back' desc, ads = 0 desc, misfits > 0 desc,
  changed desc, searches desc nulls last, key`;

/** Whether nothing ships that nobody has accepted. */
async function asksAcceptance(
  { database, workspace }: Pick<PlanCaller, 'database' | 'workspace'>,
  transaction: Transaction | null = null,
): Promise<boolean> {
  const [own] = await select<{ asks: boolean }>(
    database,
    'select asks_acceptance as asks from workspaces where id = $1',
    [workspace],
    { transaction },
  );
  return own?.asks ?? false;
}

type Row = Omit<DeskGroup, 'given' | 'at' | 'hasChanged'> & {
  changed: boolean;
  at: Date | null;
  note: number | null;
  actor: number | null;
  givenTo: string | null;
  due: string | null;
  text: string | null;
  isYou: boolean;
};

export async function deskOf(
  caller: PlanCaller,
  { only, filter, from }: z.output<typeof listDesk.query>,
): Promise<z.output<typeof listDesk.answer>> {
  const { database, plan, actor } = caller;
  const asks = await asksAcceptance(caller);
  const bind = [plan, actor, normalise(filter), asks];
  const [counts] = await select<Record<DeskOnly, number> & { built: number }>(
    database,
    `${DESK} select (select built_revision from plans where id = $1) as built, ${deskOnly.map((one) => `(count(*) filter (where ${ONLY[one]}))::int as "${one}"`).join(', ')} from desk`,
    bind,
  );
  if (!counts) throw notFound('plan');
  const { built, ...all } = counts;
  const rows = await select<Row>(
    database,
    `${DESK}, page as (select *, row_number() over (${ORDER}) as place from desk where ${ONLY[only]} order by place limit ${DESK_PAGE} offset $5)
     select g.key, g.name, g.campaign, g.keyword, g.searches::int as searches, g.ads, g.misfits, g.state, g.changed,
       coalesce(g.reason, '') as reason, b.name as by, g.at, coalesce(g.now, ${stampOf('g')}, '') as stamp,
       g.note, g.actor, t.name as "givenTo", g.due::text as due, g.text, g.is_mine as "isYou"
     from page g left join actors b on b.id = g.by_actor left join actors t on t.id = g.actor order by g.place`,
    [...bind, from],
  );
  return {
    groups: rows.map(asGroup),
    total: all[only],
    counts: all,
    builtRevision: built,
    asksAcceptance: asks,
    today: await todayOf(caller),
  };
}

const asGroup = ({ changed, at, note, actor, givenTo, due, text, isYou, ...row }: Row): DeskGroup => ({
  ...row,
  hasChanged: changed,
  at: at?.toISOString() ?? null,
  given:
    note === null || actor === null
      ? null
      : { note, actor, name: givenTo ?? '', due, text: text ?? '', isYou },
});

/** Ads of an ad group that can be handed over or judged: it has some, and each fits. */
const IS_SOUND = 'ads > 0 and misfits = 0';

/**
 * Says of the ads of ad groups how they stand. What was seen is told by its stamp; of a whole list, what was handed over is as it
 * was then.
 */
export function moveAds(
  caller: PlanCaller,
  which: WhichGroups,
  state: DeskState,
  reason = '',
): Promise<Moved> {
  const { database, plan, workspace, actor } = caller;
  return database.transaction(async (transaction) => {
    const [found] = 'all' in which ? [which.all] : [];
    const keys = 'groups' in which ? which.groups : [];
    const judged = state === 'accepted' || state === 'back';
    // By their keys, what was seen is told with each; of a whole list, only what waits is judged.
    const told = `select key, min(stamp) as seen from jsonb_to_recordset($5::jsonb) as r(key text, stamp text) group by key`;
    const isChosen = found
      ? `${ONLY[found.only]} ${judged ? `and state = 'handed'` : ''}`
      : 'a.key is not null';
    const isSeen = found ? 'true' : 'stamp = seen';
    const targets = await select<{ key: string; stamp: string; sound: boolean }>(
      database,
      `${DESK}, asked as (${told}), chosen as (
         select d.key, d.ads, d.misfits, coalesce(d.now, ${stampOf('d')}, '') as stamp, a.seen
         from desk d left join asked a on a.key = d.key where ${isChosen})
       select key, stamp, ${state === 'open' ? 'true' : `${IS_SOUND} and ${isSeen}`} as sound from chosen`,
      [
        plan,
        actor,
        normalise(found?.filter ?? ''),
        await asksAcceptance(caller, transaction),
        JSON.stringify(keys),
      ],
      { transaction },
    );
    const sound = targets.filter((one) => one.sound);
    const chosen = sound.map(({ key }) => key);
    if (state === 'open')
      await execute(
        database,
        'delete from hand_overs where plan_id = $1 and workspace_id = $2 and group_key = any($3::text[])',
        [plan, workspace, chosen],
        { transaction },
      );
    else
      await execute(
        database,
        `insert into hand_overs (workspace_id, plan_id, group_key, state, stamp, reason, by_actor)
         select $1, $2, u.key, $3, u.stamp, $4, $5 from unnest($6::text[], $7::text[]) as u(key, stamp)
         on conflict (plan_id, group_key) do update set state = excluded.state, stamp = excluded.stamp, reason = excluded.reason,
           by_actor = excluded.by_actor, at = now()`,
        [workspace, plan, state, reason.trim(), actor, chosen, sound.map(({ stamp }) => stamp)],
        { transaction },
      );
    if (chosen.length > 0) await notify(database, transaction, { type: 'work', plan });
    const asked = found ? targets.length : keys.length;
    return { moved: chosen.length, left: asked - chosen.length };
  });
}

/** SQL of whether plan `p` has ads that nobody has accepted as they are, where its workspace asks for that. */
export const WAITS_FOR_ACCEPTANCE = `(select w.asks_acceptance from workspaces w where w.id = p.workspace_id) and (
  exists (select from ads a where a.plan_id = p.id and a.outlet = '${plainOutlet.key}' and not exists (
    select from hand_overs h where h.plan_id = a.plan_id and h.group_key = a.group_key and h.state = 'accepted'))
  or exists (select from ad_groups g join hand_overs h on h.plan_id = g.plan_id and h.group_key = g.key and h.state = 'accepted'
    where g.plan_id = p.id and h.stamp <> ${stampOf('g')}))`;

/** Ad groups that would ship ads which nobody has accepted as they are, the most searched first; none where nobody asks for that. */
export async function unaccepted(
  caller: PlanCaller,
  transaction: Transaction | null = null,
): Promise<{ key: string; name: string; searches: number | null }[]> {
  if (!(await asksAcceptance(caller, transaction))) return [];
  return select(
    caller.database,
    `select g.key, g.name, g.searches::int as searches from ad_groups g
     left join hand_overs h on h.plan_id = g.plan_id and h.group_key = g.key and h.state = 'accepted'
     where g.plan_id = $1 and g.workspace_id = $2 and (h.group_key is null or h.stamp is distinct from ${stampOf('g')})
       and exists (select from ads a where a.plan_id = g.plan_id and a.outlet = '${plainOutlet.key}' and a.group_key = g.key)
     order by g.searches desc nulls last, g.key`,
    [caller.plan, caller.workspace],
    { transaction },
  );
}
