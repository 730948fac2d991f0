/** Copies of which nothing is built; `rows` runs a query whose `$1` is the plan. */
export const copiesNotMade = (
  rows: <T extends object>(sql: string) => Promise<T[]>,
): Promise<{ id: number; name: string }[]> =>
  rows(
    `select c.id, c.body->>'name' as name from copies c where c.plan_id = $1
       and not exists (select from ad_groups g where g.plan_id = c.plan_id and starts_with(g.key, 'x' || c.id || '.'))
       and not exists (select from campaigns g where g.plan_id = c.plan_id and starts_with(g.key, 'x' || c.id || '.'))
       and not exists (select from keywords k where k.plan_id = c.plan_id and not k.cut and k.folded_into is null and k.blocked_by is null
         and c.body->'own'->'keywords' @> to_jsonb(k.id))
     order by c.id`,
  );
