import type { Days, ReportAccount } from '@sprig/contracts';
import { select } from '../../db/connect.ts';
import type { PlanCaller } from '../../platform/caller.ts';

export type MarkedDay = { day: string; count: number; labels: string[] };

const SHOWN = 4;

/** Days of a range on which the plan was changed, or shipped to the account's outlet, by the account's clock. */
export const markedDays = (
  { database, plan, workspace }: PlanCaller,
  { outlet, timeZone }: ReportAccount,
  { from, to }: Days,
): Promise<MarkedDay[]> =>
  select<MarkedDay>(
    database,
    `with happened as (
       select at, label from changes where plan_id = $1 and workspace_id = $2 and kind = 'edit' and not undone
       union all
       select created_at, 'Shipped (' || n || ')' from sheet_sets
         where plan_id = $1 and workspace_id = $2 and outlet = $3 and state <> 'withdrawn'
     )
     select (at at time zone $4)::date::text as day, count(*)::int as count,
       (array_agg(label order by at desc))[1:${SHOWN}] as labels
     from happened where (at at time zone $4)::date between $5::date and $6::date group by 1 order by 1`,
    [plan, workspace, outlet ?? '', timeZone, from, to],
  );
