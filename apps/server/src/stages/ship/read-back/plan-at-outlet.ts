import type { Outlet } from '@sprig/core/outlets';
import { type CellRow, joinCells, keyOf, toldAd, toldValues } from '@sprig/core/sheets';
import { select } from '../../../db/connect.ts';
import type { ChosenOutlet } from '../../../plan/outlets.ts';
import type { Inputs } from '../../../plan/rebuild/load-inputs.ts';
import type { PlanCaller } from '../../../platform/caller.ts';
import { nothingKnown } from '../known-set.ts';
import type { Moment } from '../moment.ts';
import { PlanRows } from '../plan-rows.ts';
import { Shipment } from '../shipment.ts';

export type GroupAt = { key: string; campaign: string };

/** The plan as an outlet would get it: what each row says, and whose each campaign, ad group and ad is by its name there. */
export type PlanAtOutlet = {
  inputs: Inputs;
  cells: Map<string, string>;
  campaigns: Map<string, string>;
  /** By campaign and group, with a gap between. */
  groups: Map<string, GroupAt>;
  ads: Map<string, string>;
  /** Names by which groups were shipped before, with those that they have now. */
  wasCalled: Map<string, [campaign: string, group: string]>;
};

type Tell = (done: number, total: number) => Promise<void>;

export async function planAtOutlet(
  caller: PlanCaller,
  moment: Moment,
  chosen: ChosenOutlet,
  tell: Tell,
): Promise<PlanAtOutlet> {
  const { outlet } = chosen;
  const plan = new PlanRows(caller, moment.reading, outlet);
  const inputs = await plan.open({ inputs: await moment.inputs() });
  const at: PlanAtOutlet = {
    inputs,
    cells: new Map(),
    campaigns: new Map(),
    groups: new Map(),
    ads: new Map(),
    wasCalled: new Map(),
  };
  const told = new Set<string>(toldValues(outlet).ad);
  const nameOf = new Map<string, [string, string]>();
  const shipment = new Shipment(
    plan,
    chosen,
    inputs.brief.currency,
    nothingKnown(),
    null,
    Number.POSITIVE_INFINITY,
    {
      format: 'csv',
      sheets: [],
      what: 'all',
      sink: null,
      keepState: null,
      settle: tell,
      onRow: ({ key, joined }: CellRow) => void at.cells.set(key, joined),
      onGroup: ({ head, place, ads, written }) => {
        at.campaigns.set(place.campaign, head.campaignKey);
        at.groups.set(joinCells([place.campaign, place.name]), {
          key: head.key,
          campaign: head.campaignKey,
        });
        nameOf.set(head.key, [place.campaign, place.name]);
        ads.forEach((ad, n) => {
          const key = written[n]?.key;
          if (key !== undefined) at.ads.set(keyOf(toldAd(ad, told)), key);
        });
      },
    },
  );
  await shipment.run();
  for (const { campaign, name, key } of await shippedNames(caller, outlet, moment)) {
    const now = nameOf.get(key);
    if (now) at.wasCalled.set(joinCells([campaign, name]), now);
  }
  return at;
}

const shippedNames = (
  { database, plan, workspace }: PlanCaller,
  { key }: Outlet,
  { reading }: Moment,
): Promise<{ campaign: string; name: string; key: string }[]> =>
  select(
    database,
    'select campaign, name, key from shipped_names where plan_id = $1 and workspace_id = $2 and outlet = $3',
    [plan, workspace, key],
    { transaction: reading },
  );
