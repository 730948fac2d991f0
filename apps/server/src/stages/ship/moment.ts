import type { Outlet } from '@sprig/core/outlets';
import { Transaction } from 'sequelize';
import { execute, select } from '../../db/connect.ts';
import { rebuild } from '../../plan/rebuild/index.ts';
import { InputReader, type Inputs } from '../../plan/rebuild/load-inputs.ts';
import type { PlanCaller } from '../../platform/caller.ts';

/**
 * A transaction that sees the plan as it stands at one moment, and one that keeps what is made of it; and the plan's inputs
 * of that moment, read once when they are first asked for.
 */
export type Moment = { reading: Transaction; writing: Transaction; inputs: () => Promise<Inputs> };

/**
 * Reads the plan at one moment and keeps what is made of it in a transaction of its own, all or nothing: what changes
 * meanwhile neither waits for it nor makes it fail.
 */
export const atOneMoment = <T>(caller: PlanCaller, work: (moment: Moment) => Promise<T>): Promise<T> =>
  readAtOnce(caller, (reading) => {
    let inputs: Promise<Inputs> | null = null;
    const readInputs = () => {
      inputs ??= new InputReader(caller, reading).inputs();
      return inputs;
    };
    return caller.database.transaction((writing) => work({ reading, writing, inputs: readInputs }));
  });

/** Reads the plan at one moment, however long that takes. */
export const readAtOnce = <T>(caller: PlanCaller, work: (reading: Transaction) => Promise<T>): Promise<T> =>
  caller.database.transaction({ isolationLevel: Transaction.ISOLATION_LEVELS.REPEATABLE_READ }, work);

/**
 * Does two things at the same moment side by side, the second on a connection of its own: while the database works for one
 * of them, the other goes on here. Both have ended when this does.
 */
export async function sideBySide(
  caller: PlanCaller,
  moment: Moment,
  first: (moment: Moment) => Promise<void>,
  second: (moment: Moment) => Promise<void>,
): Promise<void> {
  const [snapshot] = await select<{ id: string }>(caller.database, 'select pg_export_snapshot() as id', [], {
    transaction: moment.reading,
  });
  const beside = readAtOnce(caller, async (reading) => {
    await execute(caller.database, `set transaction snapshot '${snapshot?.id}'`, [], {
      transaction: reading,
    });
    await second({ ...moment, reading });
  });
  const ended = await Promise.allSettled([first(moment), beside]);
  for (const end of ended) if (end.status === 'rejected') throw end.reason;
}

/** Builds what has changed since the plan was built last. */
export async function bringUpToDate(caller: PlanCaller): Promise<void> {
  const [plan] = await select<{ stale: boolean }>(
    caller.database,
    'select built_revision < revision as stale from plans where id = $1',
    [caller.plan],
  );
  if (plan?.stale) await rebuild(caller);
}

/** How many more budgets an outlet may be told to change today. */
export async function budgetChangesLeft(
  caller: PlanCaller,
  { key, budget, timeZone }: Outlet,
  transaction: Transaction,
): Promise<number> {
  if (budget.changesPerDay === null) return Number.POSITIVE_INFINITY;
  const [row] = await select<{ changes: number }>(
    caller.database,
    `select coalesce(sum(budget_changes), 0)::int as changes from sheet_sets
       , (select coalesce($3, (select body->>'timeZone' from facts where plan_id = $1), 'UTC') as zone) z
     where plan_id = $1 and outlet = $2 and state <> 'withdrawn'
       and created_at >= date_trunc('day', now() at time zone z.zone) at time zone z.zone`,
    [caller.plan, key, timeZone],
    { transaction },
  );
  return Math.max(0, budget.changesPerDay - (row?.changes ?? 0));
}
