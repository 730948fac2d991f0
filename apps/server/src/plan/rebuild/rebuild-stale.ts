import { dayIn, type Facts, factsOf, offerOn } from '@sprig/contracts';
import { type Layout, layoutOn } from '@sprig/core/build';
import type { Sequelize } from 'sequelize';
import { select } from '../../db/connect.ts';
import { enqueueRebuild } from '../../platform/jobs/enqueue.ts';
import { inChange } from '../change/index.ts';

type Stale = { id: number; workspace: number; actor: number };

/** Queues a rebuild of every plan that lags behind its inputs without one: after a migration, or a lost queue. */
export async function rebuildStale(database: Sequelize): Promise<void> {
  const plans = await select<Stale>(
    database,
    `select p.id, p.workspace_id as workspace, p.created_by as actor from plans p where built_revision < revision
       and not exists (select from jobs j where j.plan_id = p.id and j.kind = 'rebuild' and j.status in ('queued', 'running'))`,
  );
  for (const { id, workspace, actor } of plans)
    await database.transaction((transaction) =>
      enqueueRebuild({ database, workspace, actor, plan: id }, transaction),
    );
}

/** Where a day begins first. */
const FARTHEST_EAST = '14 hours';

type Dated = Stale & { builtDay: string; facts: unknown; layout: Layout };

/**
 * Builds anew every plan for which something ends or begins with a day that has come since it was built, in the plan's
 * own time zone: an offer, bids that start high, the year. What is built then is another revision: nobody takes what
 * they remember of the day before for it.
 */
export async function rebuildForTheDay(database: Sequelize, now: Date): Promise<void> {
  const plans = await select<Dated>(
    database,
    `select p.id, p.workspace_id as workspace, p.created_by as actor, p.built_day::text as "builtDay", f.body as facts, l.body as layout
     from plans p join layouts l on l.plan_id = p.id left join facts f on f.plan_id = p.id
     where p.built_revision = p.revision and p.built_day < (($1::timestamptz at time zone 'UTC') + interval '${FARTHEST_EAST}')::date`,
    [now.toISOString()],
  );
  for (const plan of plans) {
    const facts = factsOf(plan.facts);
    const day = dayIn(facts.timeZone, now);
    if (day === plan.builtDay || isTheSame(plan, facts, day)) continue;
    const caller = { database, workspace: plan.workspace, actor: plan.actor, plan: plan.id };
    await inChange(caller, 'A new day began', async () => {}, { undoable: false, always: true });
  }
}

function isTheSame({ layout, builtDay }: Dated, facts: Facts, day: string): boolean {
  const at = (when: string) => [offerOn(facts, when), layoutOn(layout, when).startHigh.on, when.slice(0, 4)];
  return JSON.stringify(at(day)) === JSON.stringify(at(builtDay));
}
