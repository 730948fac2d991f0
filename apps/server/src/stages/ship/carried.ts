import type { PlanOutletBody } from '@sprig/contracts';
import {
  Carrier,
  type GroupRows,
  incrementOf,
  type Loss,
  type MatchSetting,
  type NegativeSheetRow,
  type NetworkSteps,
} from '@sprig/core/sheets';
import type { Response } from 'express';
import { ResponseStream } from '../../http/backpressure.ts';
import { assertPlan } from '../../http/scope.ts';
import { type ChosenOutlet, chosenOutlets } from '../../plan/outlets.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound } from '../../platform/failure.ts';
import { readAtOnce } from './moment.ts';
import { PlanRows } from './plan-rows.ts';

/** What an outlet gets of one page of the plan. */
export type CarriedPage = { negatives: NegativeSheetRow[]; groups: GroupRows[] };

/** Goes through all that one outlet gets of a plan, page by page; `lose` is told what it does not get. */
async function* carriedPages(
  plan: PlanRows,
  { outlet, body }: { outlet: ChosenOutlet['outlet']; body: PlanOutletBody },
  lose: (loss: Loss) => void,
): AsyncGenerator<CarriedPage> {
  const { brief } = await plan.open();
  const carrier = new Carrier(outlet, body.steps as NetworkSteps, incrementOf(outlet, brief.currency), lose);
  let setting: MatchSetting | null = null;
  for await (const { campaign, groups } of plan.parts()) {
    if (campaign) setting = carrier.campaign(campaign.row, campaign.types, campaign.networks).matchSetting;
    yield {
      negatives: campaign ? carrier.negatives(campaign.negatives) : [],
      groups: groups.map((group) => carrier.group(group, setting)),
    };
  }
  for (const rows of await plan.extras()) carrier.extras(rows);
  yield { negatives: [], groups: [] };
}

/** Streams a text made of what an outlet that the plan ships to gets of it, as a file. */
export async function sendCarried(
  caller: PlanCaller,
  key: string,
  response: Response,
  file: { name: string; type: string },
  /** The text of a page; `losses` are those told since the page before. */
  textOf: (page: CarriedPage, losses: readonly Loss[], outlet: ChosenOutlet['outlet']) => string,
): Promise<void> {
  await assertPlan(caller);
  const chosen = (await chosenOutlets(caller)).find(({ outlet }) => outlet.key === key);
  if (!chosen) throw notFound('outlet that this plan ships to');
  response.attachment(file.name).type(file.type).set('cache-control', 'no-store');
  const out = new ResponseStream(response);
  const losses: Loss[] = [];
  await readAtOnce(caller, async (reading) => {
    const plan = new PlanRows(caller, reading, chosen.outlet);
    for await (const page of carriedPages(plan, chosen, (loss) => losses.push(loss))) {
      const text = textOf(page, losses.splice(0), chosen.outlet);
      if (text !== '') await out.write(Buffer.from(text, 'utf8'));
    }
  });
  out.end();
}
