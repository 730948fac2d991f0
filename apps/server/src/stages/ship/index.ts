import { outletRules } from '@sprig/core/findings';
import { plainOutlet } from '@sprig/core/outlets';
import type { Stage } from '../stage.ts';
import { WAITS_FOR_ACCEPTANCE } from '../write/index.ts';
import { checkJob } from './check-job.ts';
import { handInJob } from './hand-in-job.ts';
import { partLookJob } from './part.ts';
import { readBackJob, takeBackJob } from './read-back/index.ts';
import { shipRoutes } from './routes.ts';
import { rowLookJob } from './row-look.ts';
import { shipJob } from './ship-job.ts';
import { trafficJob } from './traffic-job.ts';

export { writePlainDown } from './outlets.ts';

/** Rules whose outcome hangs on an outlet count for the outlets that the plan ships to. */
const byOutlet = [...outletRules].map((rule) => `'${rule}'`).join(', ');

/** What was shipped was a part, after which nothing was left to be told. */
const HAS_ALL = `exists (select from ship_checks c where c.plan_id = p.id and c.outlet = s.outlet and c.revision >= p.built_revision
  and c.body->'check'->'difference'->>'receipt' = s.id::text
  and (c.body#>>'{check,difference,added}')::int + (c.body#>>'{check,difference,changed}')::int
    + (c.body#>>'{check,difference,removed}')::int = 0)`;

export const shipStage = {
  routes: shipRoutes,
  jobs: {
    check: checkJob,
    'part-look': partLookJob,
    'row-look': rowLookJob,
    'hand-in': handInJob,
    'read-back': readBackJob,
    ship: shipJob,
    'take-back': takeBackJob,
    traffic: trafficJob,
  },
  counts: {
    blockers: `select count(*) from (
      select body->>'rule', body->>'field' from findings where plan_id = p.id and severity = 'blocker'
        and (not body->>'rule' in (${byOutlet}) or not exists (select from plan_outlets where plan_id = p.id)
          or exists (select from plan_outlets where plan_id = p.id and outlet = 'plain'))
      union
      select f->>'rule', f->>'field' from ship_checks c, jsonb_array_elements(c.body->'findings') f
        where c.plan_id = p.id and f->>'severity' = 'blocker'
          and exists (select from plan_outlets o where o.plan_id = p.id and o.outlet = c.outlet)
      union
      select 'ads-not-accepted', null where ${WAITS_FOR_ACCEPTANCE}) b`,
    warnings: `select count(*) from findings where plan_id = p.id and severity = 'warning'`,
    outlets: 'select count(*) from plan_outlets where plan_id = p.id',
    shipped: `select count(distinct outlet) from sheet_sets s where plan_id = p.id and state <> 'withdrawn' and (part is null or ${HAS_ALL})
      and revision >= p.built_revision and (exists (select from plan_outlets o where o.plan_id = p.id and o.outlet = s.outlet)
        or (outlet = '${plainOutlet.key}' and not exists (select from plan_outlets where plan_id = p.id)))`,
    unanswered: `select count(*) from sheet_sets where plan_id = p.id and state = 'written' and revision >= p.built_revision
      and outlet <> '${plainOutlet.key}'`,
  },
} satisfies Stage;
