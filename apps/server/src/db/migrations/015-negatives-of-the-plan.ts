/**
 * Negatives that were said to stand in *their campaign* named none, and stood in all of them: they are the plan's. Those
 * of one campaign are placed there.
 */
export const up = `
delete from negatives c using negatives p
  where c.plan_id = p.plan_id and c.level = 'campaign' and p.level = 'plan' and c.norm = p.norm and c.match_type = p.match_type;
update negatives set level = 'plan' where level = 'campaign';
`;
