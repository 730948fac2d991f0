import * as api from '@sprig/contracts';
import { Router } from 'express';
import type { z } from 'zod';
import { select } from '../../db/connect.ts';
import { mount } from '../../http/mount.ts';
import { inChange } from '../../plan/change/index.ts';
import { applyEdits } from '../../plan/documents.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound } from '../../platform/failure.ts';
import { followRecipes } from '../mix/index.ts';

async function factsOfPlan({ database, workspace, plan }: PlanCaller): Promise<api.Facts> {
  const [row] = await select<{ body: unknown }>(
    database,
    'select body from facts where plan_id = $1 and workspace_id = $2',
    [plan, workspace],
  );
  if (!row) throw notFound('plan');
  return api.factsOf(row.body);
}

const WORDS: Record<string, string> = {
  client: 'Name the client',
  timeZone: 'Change the time zone',
  places: 'Change the places',
  offers: 'Change the offers',
  brands: 'Change the brands',
  rivals: 'Change the rivals',
  casing: 'Change the casing list',
  functionWords: 'Change the function words',
  synonyms: 'Change the synonyms',
  goal: 'Change the goal',
  targetCost: 'Change the target cost',
  targetReturn: 'Change the target return',
  conversions: 'Change the counted conversions',
  verdicts: 'Change the limits of verdicts',
  category: 'Change the site’s category',
  adults: 'Change whether the site is for adults',
};

/** Facts that recipes are made with. */
const MIXED = new Set(['places', 'brands', 'offers', 'functionWords']);

const editFacts = (caller: PlanCaller, edits: readonly api.FieldEdit[]) =>
  inChange(
    caller,
    WORDS[edits[0]?.at.split('.')[0] ?? ''] ?? 'Change the campaign defaults',
    async (change) => {
      const [row] = await change.find('facts', { columns: ['body'], lock: true });
      const body = applyEdits(api.factsOf(row?.body), edits, api.soundFacts as z.ZodType<api.Facts>);
      await change.update('facts', [1], { body });
      if (edits.some(({ at }) => MIXED.has(at.split('.')[0] ?? ''))) await followRecipes(change);
    },
  );

export const briefRoutes = (): Router => {
  const router = Router();
  mount(router, api.readFacts, async (caller) => ({
    facts: await factsOfPlan(caller),
  }));
  mount(router, api.editFacts, (caller, { body }) => editFacts(caller, body.edits));
  return router;
};
