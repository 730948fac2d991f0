import { toldValues } from '@sprig/core/sheets';
import type { ChosenOutlet } from '../../plan/outlets.ts';
import type { Inputs } from '../../plan/rebuild/load-inputs.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { knownSet } from './known-set.ts';
import { budgetChangesLeft, type Moment } from './moment.ts';
import type { PartOfPlan } from './part-of-plan.ts';
import { PlanRows } from './plan-rows.ts';
import { lastSet } from './receipts.ts';
import { Shipment, type ShipOptions, type Shipped } from './shipment.ts';

type Looks = Pick<ShipOptions, 'settle' | 'onGroup' | 'onCampaign' | 'onExtra' | 'onSeen'> & {
  part?: PartOfPlan | null;
  /** Once the plan is open, before its first row. */
  onOpen?: (plan: PlanRows, inputs: Inputs) => void;
};

/** A shipment as it would be, of which nothing is written. */
export async function dryShipment(
  caller: PlanCaller,
  moment: Moment,
  chosen: ChosenOutlet,
  { part = null, onOpen, ...looks }: Looks,
): Promise<{ inputs: Inputs; shipped: Shipped }> {
  const { outlet } = chosen;
  const { reading } = moment;
  const plan = new PlanRows(caller, reading, outlet, part);
  const inputs = await plan.open({ inputs: await moment.inputs() });
  onOpen?.(plan, inputs);
  const last = await lastSet(caller, outlet.key, reading);
  const known = await knownSet(caller, last, toldValues(outlet), moment);
  const left = await budgetChangesLeft(caller, outlet, reading);
  const shipment = new Shipment(plan, chosen, inputs.brief.currency, known, last?.id ?? null, left, {
    format: outlet.file.formats[0] ?? 'csv',
    sheets: outlet.sheets,
    what: last ? 'difference' : 'all',
    sink: null,
    keepState: null,
    ...looks,
  });
  return { inputs, shipped: await shipment.run() };
}
