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
    const told = toldOf(typed(await kindsOf(rows, scope), layout, asked));
    return { ...told, revision: await revisionOf(caller) };
  }
  const label = ({ changed }: Told) => `Change the match types of ${counted(changed, 'keyword')}`;
  const { revision, result } = await inChange(caller, label, async (change) => {
    const keywords = await keywordsOf((sql, bind) => change.rows(sql, bind), scope);
    const all = typed(keywords, layout, asked);
    await giveTypes(change, givenOf(all));
    return toldOf(all);
  });
  return { ...result, revision };
}

type Told = Omit<TypesAnswer, 'revision'>;

type WithNext<T> = T & { types: number; next: ReturnType<typeof changedTypes> };

/** Keywords with the types that each has now, and those that it would have. */
function typed<T extends Typed>(keywords: readonly T[], layout: Layout, asked: TypesChange): WithNext<T>[] {
  const ofRules = laneUnion(layout.lanes);
  return keywords.map((one) => {
    const isByHand = ((one.hand ?? 0) & BY_HAND.asked) !== 0;
    // What was just set by hand may not be built yet.
    const types = isByHand ? one.asked : one.built || (layout.asAsked && one.asked) || ofRules;
    return { ...one, types, next: changedTypes({ types, isByHand }, asked) };
  });
}

/** @param keywords the most searched first; `times`: as how many each counts, one where nothing is said */
function toldOf(keywords: readonly WithNext<Typed & { times?: number }>[]): Told {
  const told: Told = {
    keywords: 0,
    changed: 0,
    bare: 0,
    before: eachType(() => 0),
    after: eachType(() => 0),
    samples: [],
  };
  for (const { id, text, types, next, times = 1 } of keywords) {
    told.keywords += times;
    count(told.before, types, times);
    count(told.after, typeof next === 'number' && next > 0 ? next : types, times);
    if (next === 'bare') told.bare += times;
    if (typeof next !== 'number') continue;
    told.changed += times;
    if (told.samples.length < SAMPLES) told.samples.push({ id, text, before: types, after: next });
  }
  return told;
}

const givenOf = (keywords: readonly WithNext<Stored>[]): GivenTypes[] =>
  keywords.flatMap(({ id, asked, marks, hand, next }) =>
    typeof next === 'number' ? [{ id, types: next, hand: hand ?? 0, now: { asked, marks, hand } }] : [],
  );

function count(by: Told['before'], types: number, times: number): void {
  for (const type of matchTypes) if (types & bitOf(type)) by[type] += times;
}

/** The keywords of a scope, each with the types that it is built in. */
function scoped(scope: TypesScope): [string, unknown[]] {
  const [where, bind] = whereOf(scope);
  const sql = `select k.id, k.text, k.searches, k.asked, k.marks, k.hand, coalesce(b.types, 0) as built from keywords k
    left join (select keyword_id, coalesce(bit_or(1 << type) filter (where key like 'k%'), 0) as types
      from keyword_rows where plan_id = $1 group by keyword_id) b on b.keyword_id = k.id
    where k.plan_id = $1 and ${where}`;
  return [sql, bind];
}

const MOST_SEARCHED = 'order by searches desc nulls last, id';

function keywordsOf(rows: Rows, scope: TypesScope): Promise<Stored[]> {
  const [sql, bind] = scoped(scope);
  return rows(`select id, text, asked, marks, hand, built from (${sql}) of_scope ${MOST_SEARCHED}`, bind);
}

/**
 * Of the keywords of a scope that stand alike, each kind counted once, the most searched: what a change would do is told by
 * them, however many they are.
 */
function kindsOf(rows: Rows, scope: TypesScope): Promise<(Typed & { times: number })[]> {
  const [sql, bind] = scoped(scope);
  const alike = `partition by asked, coalesce(hand, 0) & ${BY_HAND.asked}, built`;
  return rows(
    `select id, text, asked, hand, built, case when place = 1 then alike else 0 end as times from (
       select *, row_number() over (${alike} ${MOST_SEARCHED}) as place, (count(*) over (${alike}))::int as alike
       from (${sql}) of_scope
     ) ranked where place <= ${SAMPLES} ${MOST_SEARCHED}`,
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
