import { type FieldEdit, layoutSchema } from '@sprig/contracts';
import type { Layout } from '@sprig/core/build';
import type { z } from 'zod';
import { select } from '../../db/connect.ts';
import { inChange } from '../../plan/change/index.ts';
import { applyEdits } from '../../plan/documents.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound } from '../../platform/failure.ts';

export async function readLayout({ database, workspace, plan }: PlanCaller): Promise<Layout> {
  const [row] = await select<{ body: Layout }>(
    database,
    'select body from layouts where plan_id = $1 and workspace_id = $2',
    [plan, workspace],
  );
  if (!row) throw notFound('plan');
  return row.body;
}

const WORDS: Record<string, string> = {
  campaignBy: 'Change what campaigns are made by',
  campaignName: 'Change how campaigns are named',
  dailyBudget: 'Set the daily budget',
  grouping: 'Change how themes are laid out',
  branches: 'Change how a theme is laid out',
  unplaced: 'Change what becomes of the unplaced',
  groupName: 'Change how ad groups are named',
  themeName: 'Change how ad groups are named',
  keywordsPerGroup: 'Change how many keywords an ad group holds',
  asAsked: 'Change the match types',
  spread: 'Change how lanes are laid out',
  lanes: 'Change the lanes',
  marks: 'Change which words are marked',
  fences: 'Change the fences',
  ladder: 'Change the ladder',
  startHigh: 'Change how bids start',
};

export const editLayout = (caller: PlanCaller, edits: readonly FieldEdit[]) =>
  inChange(caller, WORDS[edits[0]?.at.split('.')[0] ?? ''] ?? 'Change the layout', async (change) => {
    const [row] = await change.find('layouts', { columns: ['body'], lock: true });
    await change.update('layouts', [1], {
      body: applyEdits(row?.body, edits, layoutSchema as z.ZodType<Layout>),
    });
  });
