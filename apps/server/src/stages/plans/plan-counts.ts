import { select } from '../../db/connect.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { KeptFew } from '../../platform/kept-few.ts';
import { ofDatabase } from '../../platform/of-database.ts';
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

/** How a count is told, and so when it is counted: each time, or when the pool or what is built has changed. */
type Kind = 'each' | 'ofPool' | 'ofBuilt';

const asTold = (count: Count): Partial<Record<Kind, string>> =>
  typeof count === 'string' ? { each: count } : count;

/** The columns of all that are counted so. */
export const countColumns = (counts: CountQueries, kind: Kind): string =>
  Object.entries(counts)
    .map(([name, count]) => [name, asTold(count)[kind]])
    .filter(([, sql]) => sql !== undefined)
    .map(([name, sql]) => `(${sql})::int as "${name}"`)
    .join(', ');

const KEYWORDS = `lateral (
  select count(*) filter (where ${IS_IN})::int as keywords, count(*) filter (where cut)::int as cut,
    count(*) filter (where not cut and folded_into is not null)::int as folded,
    count(*) filter (where not cut and folded_into is null and blocked_by is not null)::int as blocked
  from keywords where plan_id = p.id) k`;

/** So many plans are in work at a time, twice over: before a change and after it. */
const MOST_KEPT = 400;
const keptOf = ofDatabase(() => new KeptFew<Numbers>(MOST_KEPT));

/**
 * The counts that take long in a large plan, as they are by these stamps or newer. They are kept until a stamp is another one:
 * a window that is told of a change asks again, and most changes are of neither.
 */
export async function largeCounts(
  { database, plan, workspace }: PlanCaller,
  counts: CountQueries,
  { poolStamp, builtStamp }: Stamps,
): Promise<Numbers> {
  const count = (kind: Kind, stamp: string, from: string) =>
    keptOf(database).of(`${workspace} ${plan} ${kind} ${stamp}`, async () => {
      const [row] = await select<Record<string, number>>(
        database,
        `select ${countColumns(counts, kind)} from ${from} where p.id = $1 and p.workspace_id = $2`,
        [plan, workspace],
      );
      return row ?? {};
    });
  const [ofPool, ofBuilt] = await Promise.all([
    count('ofPool', poolStamp, `plans p, ${KEYWORDS}`),
    count('ofBuilt', builtStamp, 'plans p'),
  ]);
  return { ...ofPool, ...ofBuilt };
}
