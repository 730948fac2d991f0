import { promisify } from 'node:util';
import { gunzip } from 'node:zlib';
import { type EstimateModel, Estimator } from '@sprig/core/figures';
import { select } from '../db/connect.ts';
import type { PlanCaller } from '../platform/caller.ts';

const unzip = promisify(gunzip);

/** Models in memory: those of the plans that were asked for last. */
const MOST_KNOWN = 4;
const known = new Map<string, Estimator>();

export type StoredModel = { told: string; body: Buffer };

/** What was learned of a plan last, packed; null before anything was. */
export async function storedModel({ database, plan, workspace }: PlanCaller): Promise<StoredModel | null> {
  const [row] = await select<StoredModel>(
    database,
    'select told, body from estimate_models where plan_id = $1 and workspace_id = $2',
    [plan, workspace],
  );
  return row && row.body.length > 0 ? row : null;
}

/** Estimates of the plan by what was learned last; null before anything was. */
export async function estimatorOf(caller: PlanCaller): Promise<Estimator | null> {
  const { database, plan, workspace } = caller;
  const [head] = await select<{ told: string }>(
    database,
    'select told from estimate_models where plan_id = $1 and workspace_id = $2',
    [plan, workspace],
  );
  if (!head) return null;
  const key = `${plan} ${head.told}`;
  const there = known.get(key);
  if (there) return there;
  const stored = await storedModel(caller);
  if (!stored) return null;
  const model = JSON.parse((await unzip(stored.body)).toString()) as EstimateModel;
  const estimator = new Estimator(model);
  known.set(key, estimator);
  for (const oldest of known.keys()) if (known.size > MOST_KNOWN) known.delete(oldest);
  return estimator;
}
