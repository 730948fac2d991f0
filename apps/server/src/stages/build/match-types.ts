import type { TypesAnswer, TypesChange, TypesScope } from '@sprig/contracts';
import { changedTypes, type Layout, laneUnion } from '@sprig/core/build';
import { BY_HAND } from '@sprig/core/gather';
import { bitOf, eachType, matchTypes } from '@sprig/core/match';
import { select } from '../../db/connect.ts';
import { inChange } from '../../plan/change/index.ts';
import { revisionOf } from '../../plan/revision-of.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { giveTypesKnown } from '../gather/index.ts';
import { bidRules } from './rows.ts';

/** Keywords that stand alike. `ids`: the most searched first. `built`: the types that they are built in. */
type Kind = { ids: number[]; asked: number; marks: number[]; hand: number | null; built: number };
type Rows = <T extends object>(sql: string, bind: unknown[]) => Promise<T[]>;

const SAMPLES = 60;

/** Sets in which match types keywords are built, or says what it would do. */
export async function changeTypes(
  caller: PlanCaller,
  { scope, change: asked, dry }: { scope: TypesScope; change: TypesChange; dry: boolean },
): Promise<TypesAnswer> {
  const { layout } = await bidRules(caller);
  if (dry) {
    const rows: Rows = (sql, bind) => select(caller.database, sql, [caller.plan, ...bind]);
    const told = await toldOf(rows, typed(await kindsOf(rows, scope), layout, asked));
    return { ...told, revision: await revisionOf(caller) };
  }
  const label = ({ changed }: Told) => `Change the match types of ${counted(changed, 'keyword')}`;
  const { revision, result } = await inChange(caller, label, async (change) => {
    const rows: Rows = (sql, bind) => change.rows(sql, bind);
    const kinds = typed(await kindsOf(rows, scope), layout, asked);
    const told = await toldOf(rows, kinds);
    await giveTypesKnown(
      change,
      kinds.flatMap(({ ids, next, built: _, types: __, ...now }) =>
        typeof next === 'number' ? [{ ids, types: next, now }] : [],
      ),
    );
    return told;
  });
  return { ...result, revision };
}

type Told = Omit<TypesAnswer, 'revision'>;

type WithNext = Kind & { types: number; next: ReturnType<typeof changedTypes> };

/** Keywords with the types that they have now, and those that they would have. */
function typed(kinds: readonly Kind[], layout: Layout, asked: TypesChange): WithNext[] {
  const ofRules = laneUnion(layout.lanes);
  return kinds.map((one) => {
    const isByHand = ((one.hand ?? 0) & BY_HAND.asked) !== 0;
    // What was just set by hand may not be built yet.
    const types = isByHand ? one.asked : one.built || (layout.asAsked && one.asked) || ofRules;
    return { ...one, types, next: changedTypes({ types, isByHand }, asked) };
  });
}

async function toldOf(rows: Rows, kinds: readonly WithNext[]): Promise<Told> {
  const told: Told = {
    keywords: 0,
    changed: 0,
    bare: 0,
    before: eachType(() => 0),
    after: eachType(() => 0),
    samples: [],
  };
  const shown = new Map<number, { before: number; after: number }>();
  for (const { ids, types, next } of kinds) {
    told.keywords += ids.length;
    count(told.before, types, ids.length);
    count(told.after, typeof next === 'number' && next > 0 ? next : types, ids.length);
    if (next === 'bare') told.bare += ids.length;
    if (typeof next !== 'number') continue;
    told.changed += ids.length;
    for (const id of ids.slice(0, SAMPLES)) shown.set(id, { before: types, after: next });
  }
  const texts = await rows<{ id: number; text: string }>(
    `select id, text from keywords where plan_id = $1 and id = any($2::int[]) ${MOST_SEARCHED} limit ${SAMPLES}`,
    [[...shown.keys()]],
  );
  for (const { id, text } of texts) {
    const types = shown.get(id);
    if (types) told.samples.push({ id, text, ...types });
  }
  return told;
}

function count(by: Told['before'], types: number, times: number): void {
  for (const type of matchTypes) if (types & bitOf(type)) by[type] += times;
}

const MOST_SEARCHED = 'order by searches desc nulls last, id';

/** The keywords of a scope by how they stand: what a change does is worked out once for each kind, however many they are. */
function kindsOf(rows: Rows, scope: TypesScope): Promise<Kind[]> {
  const [where, bind] = whereOf(scope);
  return rows(
    `select k.asked, k.marks, k.hand, coalesce(b.types, 0) as built,
       json_agg(k.id ${MOST_SEARCHED}) as ids
     from keywords k left join (select keyword_id, coalesce(bit_or(1 << type) filter (where key like 'k%'), 0) as types
       from keyword_rows where plan_id = $1 group by keyword_id) b on b.keyword_id = k.id
     where k.plan_id = $1 and ${where} group by 1, 2, 3, 4`,
    bind,
  );
}

function whereOf(scope: TypesScope): [string, unknown[]] {
  if ('keywords' in scope) return ['k.id = any($2::int[])', [scope.keywords]];
  const ofRows = (which: string) =>
    `k.id in (select r.keyword_id from keyword_rows r where r.plan_id = $1 and ${which})`;
  if ('rows' in scope) return [ofRows('r.key = any($2::text[])'), [scope.rows]];
  if ('groups' in scope) return [ofRows('r.group_key = any($2::text[])'), [scope.groups]];
  if ('campaign' in scope)
    return [
      ofRows('r.group_key in (select key from ad_groups where plan_id = $1 and campaign_key = $2)'),
      [scope.campaign],
    ];
  return ['b.keyword_id is not null', []];
}
