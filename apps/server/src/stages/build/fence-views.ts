import type { AuditView, countFences, FencesView } from '@sprig/contracts';
import { auditFences, makeFences } from '@sprig/core/build';
import { plainOutlet } from '@sprig/core/outlets';
import type { z } from 'zod';
import { select } from '../../db/connect.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { type IndexedGroup, planIndex } from './plan-index.ts';

const PAIRS = 200;
const FAILURES = 500;
const SAMPLES = 4;

/** How many fences there would be of either kind, and in the group that would have most. */
export async function fenceCounts(caller: PlanCaller): Promise<z.output<(typeof countFences)['answer']>> {
  const { fencePlan, limit } = await planIndex(caller);
  const counted = { ...fencePlan, limit: Number.POSITIVE_INFINITY };
  const exact = makeFences(counted, 'exact');
  const tight = makeFences(counted, 'tight');
  const byGroup = new Uint32Array(fencePlan.groups);
  for (const group of exact.group) byGroup[group] = (byGroup[group] as number) + 1;
  return {
    exact: exact.length,
    tight: tight.length,
    keywords: fencePlan.index.textNorms.length,
    mostInGroup: byGroup.reduce((most, one) => Math.max(most, one), 0),
    limit,
  };
}

type Pair = FencesView['pairs'][number];

/** Which ad groups would have taken searches from which, the most searched first; and the fullest groups. */
export async function fencesView({ database, plan }: PlanCaller): Promise<FencesView> {
  const pairs = await select<Pair & { total: number }>(
    database,
    `select f.key as from, fg.name as "fromName", u.k as keeper, kg.name as "keeperName", count(*)::int as fences,
       coalesce(sum(kw.searches), 0)::int as searches,
       (array_agg(u.t order by kw.searches desc nulls last, u.t))[1:${SAMPLES}] as samples, (count(*) over ())::int as total
     from fences f cross join lateral unnest(f.texts, f.keepers) as u(t, k)
     join ad_groups fg on fg.plan_id = f.plan_id and fg.key = f.key
     join ad_groups kg on kg.plan_id = f.plan_id and kg.key = u.k
     left join keywords kw on kw.plan_id = f.plan_id and kw.norm = u.t
     where f.plan_id = $1 group by f.key, fg.name, u.k, kg.name
     order by 6 desc, 5 desc, 1, 3 limit ${PAIRS}`,
    [plan],
  );
  const fullest = await select<{ key: string; name: string; fences: number }>(
    database,
    `select f.key, g.name, cardinality(f.texts) as fences from fences f
     join ad_groups g on g.plan_id = f.plan_id and g.key = f.key
     where f.plan_id = $1 order by 3 desc, f.key limit 20`,
    [plan],
  );
  return {
    pairs: pairs.map(({ total: _, ...pair }) => pair),
    pairCount: pairs[0]?.total ?? 0,
    fullest,
    limit: plainOutlet.limits.negativesPerGroup,
  };
}

/** Tries the text of every keyword as a search, as the plan stands, with all of its negatives. */
export async function auditView(caller: PlanCaller): Promise<AuditView> {
  const { fencePlan, blocks, groups, index, rowKeys } = await planIndex(caller);
  const audit = auditFences(
    fencePlan,
    (group, search) => blocks.blockOf(group, search) !== undefined,
    FAILURES,
  );
  const nameOf = (group: number) => (groups[group] as IndexedGroup).name;
  const keyOf = (group: number) => (groups[group] as IndexedGroup).key;
  return {
    tried: audit.tried,
    kept: audit.kept,
    failed: audit.failed,
    failures: audit.failures.map(({ row, others }) => {
      const own = index.ownerOfRow[row] as number;
      const text = index.normOfRow(row);
      const holders = new Set(
        Array.from(index.rowsOfText(index.textOfRow[row] as number))
          .filter((one) => index.typeOfRow[one] === index.typeOfRow[row])
          .map((one) => index.ownerOfRow[one] as number),
      );
      return {
        key: rowKeys[row] as string,
        text,
        group: keyOf(own),
        groupName: nameOf(own),
        blockedBy: blocks.blockOf(own, text)?.text ?? null,
        others: others
          .slice(0, 5)
          .map((group) => ({ key: keyOf(group), name: nameOf(group), has: holders.has(group) })),
      };
    }),
  };
}
