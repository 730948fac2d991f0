import * as api from '@sprig/contracts';
import type { Layout } from '@sprig/core/build';
import { Router } from 'express';
import type { z } from 'zod';
import type { PlanCaller } from '../../caller.ts';
import { inChange } from '../../change/index.ts';
import { select } from '../../database/connect.ts';
import { applyEdits } from '../../documents.ts';
import { notFound } from '../../failure.ts';
import { mount } from '../../http/mount.ts';
import { orderGroups, pageGroups } from './groups.ts';
import { holdValue, letGo, listHolds } from './holds.ts';

async function readLayout({ database, workspace, plan }: PlanCaller): Promise<Layout> {
  const [row] = await select<{ body: Layout }>(
    database,
    'select body from layouts where plan_id = $1 and workspace_id = $2',
    [plan, workspace],
  );
  if (!row) throw notFound('plan');
  return row.body;
}

const LAYOUT_WORDS: Record<string, string> = {
  campaignName: 'Name the campaign',
  dailyBudget: 'Set the daily budget',
  'groupName.pattern': 'Change how ad groups are named',
  'groupName.style': 'Change how ad groups are named',
  asAsked: 'Change the match types',
  types: 'Change the match types',
};

const editLayout = (caller: PlanCaller, edits: readonly api.FieldEdit[]) =>
  inChange(caller, LAYOUT_WORDS[edits[0]?.at ?? ''] ?? 'Change the ladder', async (change) => {
    const [row] = await change.rows<{ body: Layout }>(
      'select body from layouts where plan_id = $1 for update',
    );
    await change.update('layouts', [1], {
      body: applyEdits(row?.body, edits, api.layoutSchema as z.ZodType<Layout>),
    });
  });

export const buildRoutes = (): Router => {
  const router = Router();
  mount(router, api.readLayout, async (caller, { params }) => ({
    layout: await readLayout({ ...caller, ...params }),
  }));
  mount(router, api.editLayout, (caller, { params, body }) =>
    editLayout({ ...caller, ...params }, body.edits),
  );
  mount(router, api.orderGroups, (caller, { params, query }) => orderGroups({ ...caller, ...params }, query));
  mount(router, api.pageGroups, async (caller, { params, body }) => ({
    groups: await pageGroups({ ...caller, ...params }, body.keys),
  }));
  mount(router, api.holdValue, (caller, { params, body }) => holdValue({ ...caller, ...params }, body));
  mount(router, api.letGo, (caller, { params, body }) => letGo({ ...caller, ...params }, body.places));
  mount(router, api.listHolds, async (caller, { params }) => ({
    holds: await listHolds({ ...caller, ...params }),
  }));
  return router;
};
