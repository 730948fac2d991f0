import { type Finding, type Outlet, plainOutlet } from '@sprig/core/ship';
import { Transaction } from 'sequelize';
import type { PlanCaller } from '../caller.ts';
import { execute, select } from '../database/connect.ts';
import type { JobContext } from '../jobs/context.ts';
import { enqueueRebuild } from '../jobs/enqueue.ts';
import { notify } from '../jobs/notify.ts';
import {
  adColumns,
  type Derived,
  derive,
  groupColumns,
  outletGroupColumns,
  rowColumns,
  rowsOf,
} from './derive.ts';
import { type Inputs, loadInputs } from './load-inputs.ts';
import { replaceRows } from './replace-rows.ts';

/** The outlet that a plan is built for. */
const outlet = plainOutlet;

export type RebuildResult = {
  revision: number;
  groups: number;
  rows: number;
  written: number;
  removed: number;
};

export const rebuildJob = (context: JobContext): Promise<RebuildResult> =>
  rebuild(context.caller, (phase, done, total) => context.phase(phase, done, total));

type Tell = (phase: string, done: number, total: number) => Promise<void>;

/**
 * Brings what is derived up to date: reads the inputs at one moment, computes outside of any lock, then swaps the
 * result in. If the revision has moved meanwhile the result is still true of the revision it was made at, and
 * another rebuild is queued. Rebuilding twice changes nothing.
 */
export async function rebuild(caller: PlanCaller, tell: Tell = async () => {}): Promise<RebuildResult> {
  await tell('reading', 0, 0);
  const inputs = await caller.database.transaction(
    { isolationLevel: Transaction.ISOLATION_LEVELS.REPEATABLE_READ, readOnly: true },
    (transaction) => loadInputs(caller, transaction, outlet.key),
  );
  await tell('building', 0, inputs.keywords.length);
  const derived = derive(inputs, outlet);
  await tell('keeping', inputs.keywords.length, inputs.keywords.length);
  return caller.database.transaction((transaction) => swapIn(caller, transaction, inputs, derived));
}

async function swapIn(
  caller: PlanCaller,
  transaction: Transaction,
  inputs: Inputs,
  derived: Derived,
): Promise<RebuildResult> {
  const counts = {
    revision: inputs.revision,
    groups: derived.built.groups.length,
    rows: derived.built.rows.length,
  };
  // Serialises rebuilds of one plan without keeping its changes waiting.
  await execute(caller.database, 'select pg_advisory_xact_lock($1, $2)', [460_003, caller.plan], {
    transaction,
  });
  const [plan] = await select<{ built: number }>(
    caller.database,
    'select built_revision as built from plans where id = $1',
    [caller.plan],
    { transaction },
  );
  if (!plan || plan.built >= inputs.revision) return { ...counts, written: 0, removed: 0 };
  const { groups, rows, outletGroups, ads } = rowsOf(derived, inputs);
  const results = [
    await replaceRows(
      caller,
      transaction,
      { name: 'ad_groups', outlet: null, columns: groupColumns },
      groups,
    ),
    await replaceRows(caller, transaction, { name: 'keyword_rows', outlet: null, columns: rowColumns }, rows),
    await replaceRows(
      caller,
      transaction,
      { name: 'outlet_groups', outlet: outlet.key, columns: outletGroupColumns },
      outletGroups,
    ),
    await replaceRows(caller, transaction, { name: 'ads', outlet: outlet.key, columns: adColumns }, ads),
  ];
  await keepFindings(caller, transaction, outlet, derived.findings);
  const [now] = await select<{ revision: number }>(
    caller.database,
    'update plans set built_revision = $2 where id = $1 returning revision',
    [caller.plan, inputs.revision],
    { transaction },
  );
  if (now && now.revision > inputs.revision) await enqueueRebuild(caller, transaction);
  await notify(caller.database, transaction, {
    type: 'built',
    plan: caller.plan,
    builtRevision: inputs.revision,
  });
  const sum = (field: 'written' | 'removed') => results.reduce((total, result) => total + result[field], 0);
  return { ...counts, written: sum('written'), removed: sum('removed') };
}

async function keepFindings(
  caller: PlanCaller,
  transaction: Transaction,
  { key }: Outlet,
  findings: Finding[],
) {
  const { database, plan, workspace } = caller;
  await execute(database, 'delete from findings where plan_id = $1 and outlet = $2', [plan, key], {
    transaction,
  });
  for (const [n, finding] of findings.entries())
    await execute(
      database,
      'insert into findings (plan_id, workspace_id, outlet, n, severity, body) values ($1, $2, $3, $4, $5, $6)',
      [plan, workspace, key, n, finding.severity, JSON.stringify(finding)],
      { transaction },
    );
}
