import type { Sequelize } from 'sequelize';
import { select } from '../../db/connect.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { KeptFew } from '../../platform/kept-few.ts';
import type { Count, Counts } from '../stage.ts';

/** A keyword takes part in what is built. */
export const IS_IN = 'not cut and folded_into is null and blocked_by is null';

/** What stages count of a plan, by its name. */
export type CountQueries = Readonly<Record<keyof Counts, Count>>;

type Numbers = Readonly<Record<string, number>>;

/** Of what the large counts hang on: another text whenever keywords were changed or removed, or the plan was built anew. */
export type Stamps = { poolStamp: string; builtStamp: string };
export const STAMPS = `p.built_revision::text as "builtStamp",
  concat_ws(' ', (select max(changed_revision) from keywords where plan_id = p.id),
    'less', (select max(revision) from removed_keywords where plan_id = p.id)) as "poolStamp"`;

const numbers = (counts: CountQueries, sqlOf: (count: Count) => string | undefined): string =>
  Object.entries(counts)
    .flatMap(([name, count]) => {
      const sql = sqlOf(count);
      return sql === undefined ? [] : [`(${sql})::int as "${name}"`];
    })
    .join(', ');

/** The columns of all that is counted each time. */
export const numbersOf = (counts: CountQueries): string =>
  numbers(counts, (count) => (typeof count === 'string' ? count : undefined));

const KEYWORDS = `lateral (
  select count(*) filter (where ${IS_IN})::int as keywords, count(*) filter (where cut)::int as cut,
    count(*) filter (where not cut and folded_into is not null)::int as folded,
    count(*) filter (where not cut and folded_into is null and blocked_by is not null)::int as blocked
  from keywords where plan_id = p.id) k`;

/** So many plans are in work at a time, twice over: before a change and after it. */
const MOST_KEPT = 400;
const kept = new WeakMap<Sequelize, KeptFew<Numbers>>();

function keptOf(database: Sequelize): KeptFew<Numbers> {
  const known = kept.get(database) ?? new KeptFew<Numbers>(MOST_KEPT);
  kept.set(database, known);
  return known;
}

/**
 * The counts that take long in a large plan, as they are by these stamps or newer. They are kept until a stamp is another one:
 * a window that is told of a change asks again, and most changes are of neither.
 */
export async function largeCounts(
  { database, plan, workspace }: PlanCaller,
  counts: CountQueries,
  { poolStamp, builtStamp }: Stamps,
): Promise<Numbers> {
  const count = (stamp: string, columns: string, from: string) =>
    keptOf(database).of(`${workspace} ${plan} ${stamp}`, async () => {
      const bind = [plan, workspace];
      const sql = `select ${columns} from ${from} where p.id = $1 and p.workspace_id = $2`;
      const [row] = await select<Record<string, number>>(database, sql, bind);
      return row ?? {};
    });
  const [ofPool, ofBuilt] = await Promise.all([
    count(
      `pool ${poolStamp}`,
      numbers(counts, (one) => (typeof one === 'object' && 'ofPool' in one ? one.ofPool : undefined)),
      `plans p, ${KEYWORDS}`,
    ),
    count(
      `built ${builtStamp}`,
      numbers(counts, (one) => (typeof one === 'object' && 'ofBuilt' in one ? one.ofBuilt : undefined)),
      'plans p',
    ),
  ]);
  return { ...ofPool, ...ofBuilt };
}
