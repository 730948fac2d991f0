import type {
  AllNegative,
  changeAllNegatives as changeEndpoint,
  NegativesChange,
  orderAllNegatives,
} from '@sprig/contracts';
import { kindOfKey } from '@sprig/core/build';
import type { NegativeType } from '@sprig/core/match';
import { normalise } from '@sprig/core/text';
import type { z } from 'zod';
import { select } from '../../db/connect.ts';
import { type Change, inChange } from '../../plan/change/index.ts';
import { directionOf, orderedKeys } from '../../plan/ordered-keys.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { SprigFailure } from '../../platform/failure.ts';
import { grouped } from '../../platform/grouped.ts';
import { addToPlan, refreshBlocks } from '../prune/index.ts';
import { placeIn } from './negatives.ts';

/** Which table a negative's key is of: its first letter. Behind it stands a number, of a fence its place, type and text. */
const OF_PLAN = 'p';
const OF_LIST = 'l';
const PLACED = 'n';
const FENCE = 'f';
const OUT = 'o';
const FENCE_KEY = /^f([^/]+)\/([pe])\/(.+)$/s;

/** All negatives of a plan, `$1`, whatever their level; of fences those that meet a condition on `f`. */
const allNegatives = (fences: string) => `(
  select '${OF_PLAN}' || id as key, 'plan' as level, text, match_type as type, '' as place, '' as "placeName", '' as note,
    reason = 'block' as blocks from negatives where plan_id = $1
  union all
  select '${OF_LIST}' || n.id, 'list', n.text, n.match_type, '', l.name, '', a.campaigns is null
    from attached_lists a join shared_lists l on l.workspace_id = a.workspace_id and l.id = a.list_id
    join shared_negatives n on n.workspace_id = l.workspace_id and n.list_id = l.id where a.plan_id = $1
  union all
  select '${PLACED}' || p.id, case when p.place ~ '^(x[0-9]+[.])*c' then 'campaign' else 'group' end, p.text, p.match_type,
    p.place, coalesce(c.name, g.name, ''), '', false
    from placed_negatives p left join campaigns c on c.plan_id = p.plan_id and c.key = p.place
    left join ad_groups g on g.plan_id = p.plan_id and g.key = p.place where p.plan_id = $1
  union all
  select '${FENCE}' || f.key || '/' || case u.phrase when 1 then 'p' else 'e' end || '/' || u.text, 'fence', u.text,
    case u.phrase when 1 then 'phrase' else 'exact' end, f.key, g.name, coalesce(k.name, ''), false
    from fences f cross join lateral unnest(f.texts, f.phrases, f.keepers) as u(text, phrase, keeper)
    join ad_groups g on g.plan_id = f.plan_id and g.key = f.key
    left join ad_groups k on k.plan_id = f.plan_id and k.key = u.keeper where f.plan_id = $1 and ${fences}
  union all
  select '${OUT}' || o.id, 'out', o.norm, o.match_type, o.place, coalesce(g.name, ''), o.reason, false
    from fences_out o left join ad_groups g on g.plan_id = o.plan_id and g.key = o.place where o.plan_id = $1
) n`;

const ORDERS = {
  text: 'text',
  type: 'type',
  place: 'lower("placeName")',
  level: `array_position(array['plan', 'list', 'campaign', 'group', 'fence', 'out'], level)`,
};

type Query = z.output<(typeof orderAllNegatives)['query']>;

export const orderNegatives = (caller: PlanCaller, { filter, level, sort, down }: Query) =>
  orderedKeys(caller, {
    sql: `select key from ${allNegatives('true')} where ($2 = '' or strpos(lower(text), $2) > 0 or strpos(lower("placeName"), $2) > 0)
       and ($3 = 'all' and level <> 'out' or level = $3) order by ${ORDERS[sort]} ${directionOf(down)}, text, key`,
    bind: [normalise(filter), level],
  });

export async function pageNegatives(
  { database, plan }: PlanCaller,
  keys: readonly string[],
): Promise<AllNegative[]> {
  const groups = keys.flatMap((key) => FENCE_KEY.exec(key)?.[1] ?? []);
  const rows = await select<AllNegative>(
    database,
    `select * from ${allNegatives('f.key = any($3::text[])')} where key = any($2::text[])`,
    [plan, keys, groups],
  );
  const byKey = new Map(rows.map((row) => [row.key, row]));
  return keys.flatMap((key) => byKey.get(key) ?? []);
}

type Asked = z.output<(typeof changeEndpoint)['body']>;
type Done = { changed: number; left: number };

/** Changes many negatives of whatever level; what can't be done to one is counted. */
export async function changeNegatives(
  caller: PlanCaller,
  { keys, change: asked }: Asked,
): Promise<Done & { revision: number }> {
  const verb = asked.kind === 'remove' ? 'Take away' : 'Change';
  const label = ({ changed }: Done) => `${verb} ${counted(changed, 'negative keyword')}`;
  const { revision, result } = await inChange(caller, label, async (change) => {
    const done = await new NegativeChange(change, keys).make(asked);
    if (keys.some((key) => key.startsWith(OF_PLAN)) || asked.kind === 'plan') await refreshBlocks(change);
    return done;
  });
  return { ...result, revision };
}

type Row = { id: number; text: string; norm: string; match_type: NegativeType; place?: string };

class NegativeChange {
  private readonly ids = new Map<string, number[]>();
  private readonly fences: { place: string; match_type: 'exact' | 'phrase'; norm: string }[] = [];

  constructor(
    private readonly change: Change,
    private readonly keys: readonly string[],
  ) {
    for (const key of keys) {
      const kind = key.slice(0, 1);
      const fence = FENCE_KEY.exec(key);
      if (fence)
        this.fences.push({
          place: fence[1] as string,
          match_type: fence[2] === 'p' ? 'phrase' : 'exact',
          norm: fence[3] as string,
        });
      const id = Number(key.slice(1));
      if (fence || !Number.isSafeInteger(id)) continue;
      const list = this.ids.get(kind);
      if (list) list.push(id);
      else this.ids.set(kind, [id]);
    }
  }

  async make(asked: NegativesChange): Promise<Done> {
    const changed = await this.done(asked);
    return { changed, left: this.keys.length - changed };
  }

  private done(asked: NegativesChange): Promise<number> {
    switch (asked.kind) {
      case 'type':
        return this.retype(asked.type);
      case 'plan':
        return this.move(
          async (rows) => void (await addToPlan(this.change, rows, { reason: 'hand' })),
          [PLACED],
        );
      case 'campaign':
        return this.toCampaigns();
      case 'places':
        return this.move(
          async (rows) => void (await placeIn(this.change, asked.places, rows)),
          [OF_PLAN, PLACED],
          new Set(asked.places),
        );
      case 'remove':
        return this.remove(asked.reason);
      case 'back':
        return this.change.remove('fences_out', idsOf(this.ids.get(OUT) ?? []));
    }
  }

  private of(kind: typeof OF_PLAN | typeof PLACED): Promise<Row[]> {
    const ids = this.ids.get(kind) ?? [];
    if (ids.length === 0) return Promise.resolve([]);
    return this.change.rows<Row>(
      kind === OF_PLAN
        ? 'select id, text, norm, match_type from negatives where plan_id = $1 and id = any($2::int[]) for update'
        : 'select id, text, norm, match_type, place from placed_negatives where plan_id = $1 and id = any($2::int[]) for update',
      [ids],
    );
  }

  /** Another type; where the same stands there in it already, one of the two is enough. */
  private async retype(type: NegativeType): Promise<number> {
    const [ofPlan, placed] = [await this.of(OF_PLAN), await this.of(PLACED)];
    const there = new Set(
      (
        await this.change.rows<{ at: string }>(
          `select '' || ' ' || norm as at from negatives where plan_id = $1 and match_type = $2
           union all select place || ' ' || norm from placed_negatives where plan_id = $1 and match_type = $2`,
          [type],
        )
      ).map(({ at }) => at),
    );
    const [kept, twice] = [[] as number[], [] as number[]];
    const sorted = (rows: readonly Row[]) => {
      kept.length = 0;
      twice.length = 0;
      for (const { id, norm, place = '', match_type } of rows) {
        if (match_type === type) continue;
        const at = `${place} ${norm}`;
        (there.has(at) ? twice : kept).push(id);
        there.add(at);
      }
    };
    sorted(ofPlan);
    let changed = await this.change.update('negatives', kept, { match_type: type });
    changed += await this.change.remove('negatives', idsOf(twice));
    sorted(placed);
    changed += await this.change.update('placed_negatives', kept, { match_type: type });
    return changed + (await this.change.remove('placed_negatives', idsOf(twice)));
  }

  /** Elsewhere, each once. One that is where it is to go stays there. */
  private async move(
    put: (rows: ReturnType<typeof onceEach>) => Promise<void>,
    kinds: readonly (typeof OF_PLAN | typeof PLACED)[],
    stays: ReadonlySet<string> = new Set(),
  ): Promise<number> {
    let moved = 0;
    for (const kind of kinds) {
      const rows = await this.of(kind);
      if (rows.length === 0) continue;
      await put(onceEach(rows));
      const gone = rows.filter(({ place }) => place === undefined || !stays.has(place));
      await this.change.remove(
        kind === OF_PLAN ? 'negatives' : 'placed_negatives',
        idsOf(gone.map(({ id }) => id)),
      );
      moved += rows.length;
    }
    return moved;
  }

  /** Of ad groups into their campaigns. */
  private async toCampaigns(): Promise<number> {
    const rows = (await this.of(PLACED)).filter(({ place = '' }) => kindOfKey(place) === 'group');
    const campaigns = new Map(
      (
        await this.change.rows<{ key: string; campaign: string }>(
          'select key, campaign_key as campaign from ad_groups where plan_id = $1 and key = any($2::text[])',
          [rows.map(({ place }) => place)],
        )
      ).map(({ key, campaign }) => [key, campaign]),
    );
    const found = rows.filter(({ place = '' }) => campaigns.has(place));
    const byCampaign = grouped(found, ({ place = '' }) => campaigns.get(place) as string);
    for (const [campaign, own] of byCampaign) await placeIn(this.change, [campaign], onceEach(own));
    await this.change.remove('placed_negatives', idsOf(found.map(({ id }) => id)));
    return found.length;
  }

  private async remove(reason: string): Promise<number> {
    let removed = await this.change.remove('negatives', idsOf(this.ids.get(OF_PLAN) ?? []));
    removed += await this.change.remove('placed_negatives', idsOf(this.ids.get(PLACED) ?? []));
    if (this.fences.length === 0) return removed;
    if (reason.trim() === '')
      throw new SprigFailure('invalid', 'Say why these fences are taken away: it is kept with them.', {
        at: 'reason',
      });
    const there = new Set(
      (
        await this.change.rows<{ at: string }>(
          `select place || ' ' || match_type || ' ' || norm as at from fences_out where plan_id = $1`,
        )
      ).map(({ at }) => at),
    );
    const fresh = this.fences.filter(
      ({ place, match_type, norm }) => !there.has(`${place} ${match_type} ${norm}`),
    );
    const first = this.change.takeIds(fresh.length);
    await this.change.insert(
      'fences_out',
      fresh.map((one, at) => ({ id: first + at, ...one, reason: reason.trim() })),
    );
    return removed + fresh.length;
  }
}

const idsOf = (ids: readonly number[]) => ids.map((id) => ({ id }));

const onceEach = (rows: readonly Row[]) => [
  ...new Map(
    rows.map(({ text, norm, match_type }) => [`${match_type} ${norm}`, { text, norm, match_type }]),
  ).values(),
];
