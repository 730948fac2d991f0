import * as api from '@sprig/contracts';
import type { AdPattern } from '@sprig/core/write';
import { Router } from 'express';
import type { z } from 'zod';
import type { PlanCaller } from '../../caller.ts';
import { inChange } from '../../change/index.ts';
import { select } from '../../database/connect.ts';
import { applyEdits } from '../../documents.ts';
import { notFound } from '../../failure.ts';
import { mount } from '../../http/mount.ts';

async function readPattern({ database, workspace, plan }: PlanCaller): Promise<AdPattern> {
  const [row] = await select<{ body: AdPattern }>(
    database,
    'select body from ad_patterns where plan_id = $1 and workspace_id = $2 and id = 1',
    [plan, workspace],
  );
  if (!row) throw notFound('plan');
  return row.body;
}

const FIELD_WORDS: Record<string, string> = {
  headline1: 'headline 1',
  headline2: 'headline 2',
  headline3: 'headline 3',
  description1: 'description 1',
  description2: 'description 2',
  path1: 'path 1',
  path2: 'path 2',
};

function labelOf(edits: readonly api.FieldEdit[]): string {
  const at = edits[0]?.at ?? '';
  if (at === 'finalUrl') return 'Change the final URL';
  return `Write ${FIELD_WORDS[at.split('.')[1] ?? ''] ?? 'the ad'}`;
}

const editPattern = (caller: PlanCaller, edits: readonly api.FieldEdit[]) =>
  inChange(caller, labelOf(edits), async (change) => {
    const [row] = await change.rows<{ body: AdPattern }>(
      'select body from ad_patterns where plan_id = $1 and id = 1 for update',
    );
    const body = applyEdits(row?.body, edits, api.adPatternSchema as z.ZodType<AdPattern>);
    await change.update('ad_patterns', [1], { body });
  });

export const writeRoutes = (): Router => {
  const router = Router();
  mount(router, api.readPattern, async (caller, { params }) => ({
    pattern: await readPattern({ ...caller, ...params }),
  }));
  mount(router, api.editPattern, (caller, { params, body }) =>
    editPattern({ ...caller, ...params }, body.edits),
  );
  return router;
};
