import { outletShape, type PlanOutletBody, planOutletBody } from '@sprig/contracts';
import { type Outlet, plainOutlet, shippedOutlets } from '@sprig/core/outlets';
import type { Transaction } from 'sequelize';
import { find } from '../db/rows.ts';
import type { PlanCaller } from '../platform/caller.ts';
import { notFound, SprigFailure } from '../platform/failure.ts';
import type { Change } from './change/index.ts';

export type ChosenOutlet = { id: number; outlet: Outlet; body: PlanOutletBody };

export const isShipped = (key: string) => shippedOutlets.some((one) => one.key === key);

/**
 * The workspace's own outlets. What is wrong with one that was kept before it was refused is told where the plan is looked
 * through: an outlet does not vanish.
 */
async function ownOutlets(caller: PlanCaller, transaction: Transaction | null = null): Promise<Outlet[]> {
  const rows = await find(caller, 'outlets', { columns: ['body'], order: ['id'] }, transaction);
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
  const rows = await find(
    caller,
    'plan_outlets',
    { columns: ['id', 'outlet', 'body'], order: ['position', 'id'] },
    transaction,
  );
  if (rows.length === 0) return [{ id: 0, outlet: plainOutlet, body: planOutletBody.parse({}) }];
  const all = new Map((await allOutlets(caller, transaction)).map((outlet) => [outlet.key, outlet]));
  return rows.flatMap(({ id, outlet, body }) => {
    const known = all.get(outlet);
    const read = planOutletBody.safeParse(body);
    return known ? [{ id, outlet: known, body: read.success ? read.data : planOutletBody.parse({}) }] : [];
  });
}

/** An outlet that the plan ships to; another one is refused. */
export async function shippedTo(
  caller: PlanCaller,
  key: string,
  transaction: Transaction,
): Promise<ChosenOutlet> {
  const chosen = (await chosenOutlets(caller, transaction)).find(({ outlet }) => outlet.key === key);
  if (!chosen)
    throw new SprigFailure('invalid', 'The plan does not ship to this outlet. Choose it first.', {
      at: 'outlet',
    });
  return chosen;
}

/** Other plans that ship to an outlet are measured by it: they take its change in, which is not theirs to undo. */
export async function tellShippers(change: Change, outlet: number): Promise<void> {
  const others = await change.rows<{ plan: number; name: string }>(
    `select o.plan_id as plan, t.body->>'name' as name
     from plans p join outlets t on t.workspace_id = p.workspace_id
       join plan_outlets o on o.workspace_id = t.workspace_id and o.outlet = t.key
     where p.id = $1 and t.id = $2 and o.plan_id <> $1 order by 1`,
    [outlet],
  );
  for (const { plan, name } of others)
    await change.tell(plan, { what: 'outlet', label: `The outlet ${name} was changed` });
}
