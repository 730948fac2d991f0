import { type ResultsAbout, type ResultsBy, usualLook } from '@sprig/contracts';
import {
  addedTimes,
  askedBy,
  type GroupSums,
  groupsThat,
  type LookGrouping,
  type Met,
  type PlaceList,
  type ResultFigure,
  sumPlaces,
} from '@sprig/core/learn';
import { select } from '../../db/connect.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { KeptFew } from '../../platform/kept-few.ts';
import { type Account, aboutLook, accountFor, findGrain, rangesOf } from './account.ts';
import { planStamp } from './today.ts';

/** Results of what stands in the plan today, by its keys: those of each of several ad groups, for a theme. */
type Results = { about: ResultsAbout; sums: GroupSums | null; of: (key: string) => readonly number[] };

const kept = new KeptFew<Results>(6);
export const forgetResults = (): void => kept.clear();

/** What a report has to tell apart, and what of the plan its rows are then taken as: the first that is told. */
const TOLD_BY: Record<ResultsBy, readonly { by: LookGrouping; as: 'row' | 'group' | 'ad' }[]> = {
  keyword: [{ by: 'keyword', as: 'row' }],
  row: [{ by: 'keyword', as: 'row' }],
  group: [{ by: 'group', as: 'group' }],
  // Where a keyword is now, and not where it was when its ad group was shipped.
  theme: [
    { by: 'keyword', as: 'row' },
    { by: 'group', as: 'group' },
  ],
  ad: [{ by: 'ad', as: 'ad' }],
};
const nowhere: readonly number[] = [];

async function resultsBy(caller: PlanCaller, by: ResultsBy): Promise<Results> {
  const account = await accountFor(caller, null);
  if (!account) return { about: nobody, sums: null, of: () => nowhere };
  return kept.of(`${account.stamp}/${by}/${await planStamp(caller)}`, async () => {
    const { as, ...first } = firstTold(account, by);
    const { found } = first;
    const about = aboutLook(account, first);
    if (!found) return { about, sums: null, of: () => nowhere };
    const { places, table } = await account.series(found);
    const { groups, numberOf } = groupMet(places, as);
    const sums = sumPlaces(table, {
      added: addedTimes(table, places.campaigns, found.times),
      places: Uint8Array.from(groups.of, (group) => (group === NOT_MET ? 0 : 1)),
      groups,
    });
    return { about, sums, of: await placesOf(caller, by, as, numberOf) };
  });
}

function firstTold(account: Account, by: ResultsBy) {
  const [first, ...others] = TOLD_BY[by].map(({ by: told, as }) => ({
    as,
    ...findGrain(account.onHand, new Set(askedBy[told]), false, rangesOf(usualLook(), account.told)),
  }));
  return (first?.found ? first : (others.find(({ found }) => found) ?? first)) as NonNullable<typeof first>;
}

const nobody: ResultsAbout = { account: null, range: null, grain: null, why: { none: 'reports' } };
const NOT_MET = 0;

/** Places by what of the plan they are, whatever they were called; what is nothing of it stands together. */
export function groupMet(places: PlaceList, as: keyof Met) {
  const numberOf = new Map<string, number>();
  const of = Int32Array.from(places.met, (met) => {
    const key = met[as];
    if (key === null) return NOT_MET;
    const number = numberOf.get(key) ?? numberOf.size + 1;
    numberOf.set(key, number);
    return number;
  });
  const keys = ['', ...numberOf.keys()];
  return { groups: { of, keys, names: keys.map((key) => [key]) }, numberOf };
}

/** Where the figures of a key stand: of a keyword in all its match types, of a theme in all that are below it. */
async function placesOf(
  { database, plan }: PlanCaller,
  by: ResultsBy,
  as: keyof Met,
  numberOf: ReadonlyMap<string, number>,
): Promise<Results['of']> {
  if (by !== 'keyword' && by !== 'theme')
    return (key) => {
      const number = numberOf.get(key);
      return number === undefined ? nowhere : [number];
    };
  const rows = await select<{ key: string; own: number }>(
    database,
    OWN[by === 'keyword' ? 'keyword' : THEME_AS[as as keyof typeof THEME_AS]],
    [plan, [...numberOf.keys()]],
  );
  const known = new Map<string, number[]>();
  const put = (own: number, number: number) => {
    const there = known.get(String(own));
    if (there) there.push(number);
    else known.set(String(own), [number]);
  };
  const above = by === 'theme' ? await parentsOf({ database, plan }) : new Map<number, number | null>();
  for (const { key, own } of rows) {
    const seen = new Set<number>();
    for (let at: number | null = own; at !== null && !seen.has(at); at = above.get(at) ?? null) {
      seen.add(at);
      put(at, numberOf.get(key) as number);
    }
  }
  return (key) => known.get(key) ?? nowhere;
}

/** Of each key, the keyword or theme that it is of today. */
const OWN = {
  keyword: 'select key, keyword_id as own from keyword_rows where plan_id = $1 and key = any($2)',
  'theme-row': `select r.key, g.theme_id as own from keyword_rows r
    join ad_groups g on g.plan_id = r.plan_id and g.key = r.group_key where r.plan_id = $1 and r.key = any($2)`,
  'theme-group': 'select key, theme_id as own from ad_groups where plan_id = $1 and key = any($2)',
};

const THEME_AS = { row: 'theme-row', group: 'theme-group' } as const;

async function parentsOf({ database, plan }: Pick<PlanCaller, 'database' | 'plan'>) {
  const rows = await select<{ id: number; parent: number | null }>(
    database,
    'select id, parent_id as parent from themes where plan_id = $1',
    [plan],
  );
  return new Map(rows.map(({ id, parent }) => [id, parent]));
}

/** All figures of several keys; those of which nothing is told are left out. */
export async function resultsOf(caller: PlanCaller, by: ResultsBy, keys: readonly string[]) {
  const { about, sums, of } = await resultsBy(caller, by);
  const rows = keys.flatMap((key) => {
    const groups = sums ? of(key).filter((group) => sums.has(group)) : nowhere;
    return sums && groups.length > 0 ? [{ key, figures: sums.together(groups) }] : [];
  });
  return { about, rows };
}

/** One figure of every keyword of which it is told. */
export async function resultColumn(caller: PlanCaller, figure: ResultFigure) {
  const { about, sums, of } = await resultsBy(caller, 'keyword');
  const currency = about.account?.currency ?? null;
  const ids: number[] = [];
  const values: number[] = [];
  if (!sums || groupsThat(sums, []).length === 0) return { currency, ids, values };
  const keywords = await select<{ id: number }>(
    caller.database,
    'select distinct keyword_id as id from keyword_rows where plan_id = $1 order by 1',
    [caller.plan],
  );
  for (const { id } of keywords) {
    const groups = of(String(id)).filter((group) => sums.has(group));
    const value = groups.length > 0 ? sums.oneOf(figure, groups) : null;
    if (value === null) continue;
    ids.push(id);
    values.push(value);
  }
  return { currency, ids, values };
}
