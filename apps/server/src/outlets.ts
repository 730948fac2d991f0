import { outletShape, type PlanOutletBody, planOutletBody } from '@sprig/contracts';
import { type Outlet, plainOutlet, shippedOutlets } from '@sprig/core/ship';
import type { Transaction } from 'sequelize';
import type { PlanCaller } from './caller.ts';
import { inChange } from './change/index.ts';
import { select } from './database/connect.ts';
import { notFound } from './failure.ts';

export type ChosenOutlet = { id: number; outlet: Outlet; body: PlanOutletBody };

export const isShipped = (key: string) => shippedOutlets.some((one) => one.key === key);

/**
 * The workspace's own outlets. What is wrong with one that was kept before it was refused is told where the plan is looked
 * through: an outlet does not vanish.
 */
async function ownOutlets(caller: PlanCaller, transaction: Transaction | null = null): Promise<Outlet[]> {
  const rows = await select<{ body: unknown }>(
    caller.database,
    'select body from outlets where workspace_id = $1 order by id',
    [caller.workspace],
    { transaction },
  );
  return rows.flatMap(({ body }) => {
    const read = outletShape.safeParse(body);
    return read.success ? [read.data as Outlet] : [];
  });
}

export const allOutlets = async (
  caller: PlanCaller,
  transaction: Transaction | null = null,
): Promise<Outlet[]> => [...shippedOutlets, ...(await ownOutlets(caller, transaction))];

export async function outletOf(
  caller: PlanCaller,
  key: string,
  transaction: Transaction | null = null,
): Promise<Outlet> {
  const found = (await allOutlets(caller, transaction)).find((one) => one.key === key);
  if (!found) throw notFound('outlet');
  return found;
}

/** The outlets that a plan ships to, in their order; plain sheets where nobody has chosen. */
export async function chosenOutlets(
  caller: PlanCaller,
  transaction: Transaction | null = null,
): Promise<ChosenOutlet[]> {
  const rows = await select<{ id: number; outlet: string; body: unknown }>(
    caller.database,
    'select id, outlet, body from plan_outlets where plan_id = $1 and workspace_id = $2 order by position, id',
    [caller.plan, caller.workspace],
    { transaction },
  );
  if (rows.length === 0) return [{ id: 0, outlet: plainOutlet, body: planOutletBody.parse({}) }];
  const all = new Map((await allOutlets(caller, transaction)).map((outlet) => [outlet.key, outlet]));
  return rows.flatMap(({ id, outlet, body }) => {
    const known = all.get(outlet);
    const read = planOutletBody.safeParse(body);
    return known ? [{ id, outlet: known, body: read.success ? read.data : planOutletBody.parse({}) }] : [];
  });
}

/** Other plans that ship to an outlet are measured by it: they take its change in, which is not theirs to undo. */
export async function tellShippers(caller: PlanCaller, outlet: number): Promise<void> {
  const others = await select<{ plan: number; name: string }>(
    caller.database,
    `select p.plan_id as plan, o.body->>'name' as name
     from outlets o join plan_outlets p on p.workspace_id = o.workspace_id and p.outlet = o.key
     where o.workspace_id = $1 and o.id = $2 and p.plan_id <> $3 order by 1`,
    [caller.workspace, outlet, caller.plan],
  );
  for (const { plan, name } of others)
    await inChange({ ...caller, plan }, `The outlet ${name} was changed`, async () => {}, {
      undoable: false,
      always: true,
    });
}
