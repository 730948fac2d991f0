/** Of ad groups g: those that have neither a negative of their own nor a fence. */
export const IS_BARE = `not exists (select from placed_negatives p where p.plan_id = g.plan_id and p.place = g.key)
  and not exists (select from fences f where f.plan_id = g.plan_id and f.key = g.key)`;
