import type { TypesAnswer, TypesChange, TypesScope } from '@sprig/contracts';
import { changedTypes, type Layout, laneUnion } from '@sprig/core/build';
import { BY_HAND } from '@sprig/core/gather';
import { bitOf, eachType, matchTypes } from '@sprig/core/match';
import { select } from '../../db/connect.ts';
import { inChange } from '../../plan/change/index.ts';
import { revisionOf } from '../../plan/revision-of.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { type GivenTypes, giveTypes } from '../gather/index.ts';
import { bidRules } from './rows.ts';

/** `hand`: what of it was set by hand. `built`: the types that it is built in. */
type Typed = { id: number; text: string; asked: number; hand: number | null; built: number };
type Stored = Typed & { marks: number[] };
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
    const told = toldOf(await kindsOf(rows, scope), layout, asked);
    return { ...told, revision: await revisionOf(caller) };
  }
  const label = ({ changed }: Told) => `Change the match types of ${counted(changed, 'keyword')}`;
  const { revision, result } = await inChange(caller, label, async (change) => {
    const keywords = await keywordsOf((sql, bind) => change.rows(sql, bind), scope);
    await giveTypes(change, givenOf(keywords, layout, asked));
    return toldOf(
      keywords.map((one) => ({ ...one, times: 1 })),
      layout,
      asked,
    );
  });
  return { ...result, revision };
}

type Told = Omit<TypesAnswer, 'revision'>;

/** The types that a keyword has now, and those that it would have. */
function typesOf({ asked: said, hand, built }: Typed, layout: Layout, asked: TypesChange) {
  const isByHand = ((hand ?? 0) & BY_HAND.asked) !== 0;
  // What was just set by hand may not be built yet.
  const types = isByHand ? said : built || (layout.asAsked && said) || laneUnion(layout.lanes);
  return { types, next: changedTypes({ types, isByHand }, asked) };
}

/** @param keywords the most searched first; `times`: as how many it counts */
function toldOf(keywords: readonly (Typed & { times: number })[], layout: Layout, asked: TypesChange): Told {
  const told: Told = {
    keywords: 0,
    changed: 0,
    bare: 0,
    before: eachType(() => 0),
    after: eachType(() => 0),
    samples: [],
  };
  for (const one of keywords) {
    const { types, next } = typesOf(one, layout, asked);
    told.keywords += one.times;
    count(told.before, types, one.times);
    count(told.after, typeof next === 'number' && next > 0 ? next : types, one.times);
    if (next === 'bare') told.bare += one.times;
    if (typeof next !== 'number') continue;
    told.changed += one.times;
    const { id, text } = one;
    if (told.samples.length < SAMPLES) told.samples.push({ id, text, before: types, after: next });
  }
  return told;
}

const givenOf = (keywords: readonly Stored[], layout: Layout, asked: TypesChange): GivenTypes[] =>
  keywords.flatMap((one) => {
    const { next } = typesOf(one, layout, asked);
    const { id, asked: said, marks, hand } = one;
    if (typeof next !== 'number') return [];
    return [{ id, types: next, hand: hand ?? 0, now: { asked: said, marks, hand } }];
  });

function count(by: Told['before'], types: number, times: number): void {
  for (const type of matchTypes) if (types & bitOf(type)) by[type] += times;
}

/** The types that each keyword is built in. */
const BUILT = `(select keyword_id, coalesce(bit_or(1 << type) filter (where key like 'k%'), 0) as types
  from keyword_rows where plan_id = $1 group by keyword_id)`;

/** The keywords of a scope, the most searched first, with the types that they are built in. */
function keywordsOf(rows: Rows, scope: TypesScope): Promise<Stored[]> {
  const [where, bind] = whereOf(scope);
  return rows(
    `select k.id, k.text, k.asked, k.marks, k.hand, coalesce(b.types, 0) as built from keywords k
     left join ${BUILT} b on b.keyword_id = k.id
     where k.plan_id = $1 and ${where} order by k.searches desc nulls last, k.id`,
    bind,
  );
}

/**
 * Of the keywords of a scope that stand alike, each kind counted once, the most searched: what a change would do is told by
 * them, however many they are.
 */
function kindsOf(rows: Rows, scope: TypesScope): Promise<(Typed & { times: number })[]> {
  const [where, bind] = whereOf(scope);
  return rows(
    `select id, text, asked, hand, built, case when place = 1 then alike else 0 end as times from (
       select *, row_number() over (partition by asked, hand, built order by searches desc nulls last, id) as place,
         (count(*) over (partition by asked, hand, built))::int as alike
       from (select k.id, k.text, k.searches, k.asked, coalesce(k.hand, 0) & ${BY_HAND.asked} as hand,
           coalesce(b.types, 0) as built
         from keywords k left join ${BUILT} b on b.keyword_id = k.id where k.plan_id = $1 and ${where}) of_scope
     ) ranked where place <= ${SAMPLES} order by searches desc nulls last, id`,
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
