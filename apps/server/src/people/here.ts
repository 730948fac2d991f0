import { execute } from '../db/connect.ts';
import type { PlanCaller } from '../platform/caller.ts';
import { CHANNEL } from '../platform/jobs/notify.ts';

/** Tells all windows that are open on the plan, at every server, who else has it open and where: one statement, and nothing is kept. */
export const announceHere = (
  { database, plan, actor }: PlanCaller,
  place: string,
  field: string,
): Promise<void> =>
  execute(
    database,
    `select pg_notify($1, json_build_object('type', 'here', 'plan', $2::int, 'actor', id, 'name', name, 'place', $4::text, 'field', $5::text)::text)
     from actors where id = $3`,
    [CHANNEL, plan, actor, place, field],
  );
