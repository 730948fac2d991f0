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

type Stored = {
  id: number;
  text: string;
  asked: number;
  marks: number[];
  hand: number | null;
  built: number;
};
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
    const { told } = worked(await keywordsOf(rows, scope), layout, asked);
    return { ...told, revision: await revisionOf(caller) };
  }
  const label = ({ changed }: Told) => `Change the match types of ${counted(changed, 'keyword')}`;
  const { revision, result } = await inChange(caller, label, async (change) => {
    const { told, given } = worked(
      await keywordsOf((sql, bind) => change.rows(sql, bind), scope),
      layout,
      asked,
    );
    await giveTypes(change, given);
    return told;
  });
  return { ...result, revision };
}

type Told = Omit<TypesAnswer, 'revision'>;

function worked(
  keywords: readonly Stored[],
  layout: Layout,
  asked: TypesChange,
): { told: Told; given: GivenTypes[] } {
  const ofRules = laneUnion(layout.lanes);
  const told: Told = {
    keywords: keywords.length,
    changed: 0,
    bare: 0,
    before: eachType(() => 0),
    after: eachType(() => 0),
    samples: [],
  };
  const given: GivenTypes[] = [];
  for (const { id, text, asked: said, marks, hand, built } of keywords) {
    const isByHand = ((hand ?? 0) & BY_HAND.asked) !== 0;
    // What was just set by hand may not be built yet.
    const types = isByHand ? said : built || (layout.asAsked && said) || ofRules;
    const next = changedTypes({ types, isByHand }, asked);
    const after = typeof next === 'number' && next > 0 ? next : types;
    count(told.before, types);
    count(told.after, after);
    if (next === 'bare') told.bare++;
    if (typeof next !== 'number') continue;
    given.push({ id, types: next, hand: hand ?? 0, now: { asked: said, marks, hand } });
    if (told.samples.length < SAMPLES) told.samples.push({ id, text, before: types, after: next });
  }
  told.changed = given.length;
  return { told, given };
}

function count(by: Told['before'], types: number): void {
  for (const type of matchTypes) if (types & bitOf(type)) by[type]++;
}

/** The keywords of a scope, the most searched first, with the types that they are built in. */
function keywordsOf(rows: Rows, scope: TypesScope): Promise<Stored[]> {
  const [where, bind] = whereOf(scope);
  return rows(
    `select k.id, k.text, k.asked, k.marks, k.hand, coalesce(b.types, 0) as built from keywords k
     left join (select keyword_id, bit_or(1 << type) as types from keyword_rows where plan_id = $1 and key like 'k%'
       group by keyword_id) b on b.keyword_id = k.id
     where k.plan_id = $1 and k.id in (${where}) order by k.searches desc nulls last, k.id`,
    bind,
  );
}

function whereOf(scope: TypesScope): [string, unknown[]] {
  if ('keywords' in scope) return ['select unnest($2::int[])', [scope.keywords]];
  const rows = 'select r.keyword_id from keyword_rows r where r.plan_id = $1';
  if ('rows' in scope) return [`${rows} and r.key = any($2::text[])`, [scope.rows]];
  if ('groups' in scope) return [`${rows} and r.group_key = any($2::text[])`, [scope.groups]];
  if ('campaign' in scope)
    return [
      `${rows} and r.group_key in (select key from ad_groups where plan_id = $1 and campaign_key = $2)`,
      [scope.campaign],
    ];
  return [rows, []];
}
