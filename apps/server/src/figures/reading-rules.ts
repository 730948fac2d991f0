import { type Facts, factsOf, sortSettingsSchema, usualSortSettings } from '@sprig/contracts';
import type { ReadingRules } from '@sprig/core/figures';
import { languagePack } from '@sprig/core/text';
import { select } from '../db/connect.ts';
import type { PlanCaller } from '../platform/caller.ts';
import { notFound } from '../platform/failure.ts';

type Head = { language: string; facts: unknown; sort: unknown };

/** What the words of a plan's keywords are read by, and its facts. */
export async function readingRules({
  database,
  plan,
  workspace,
}: PlanCaller): Promise<{ rules: ReadingRules; facts: Facts }> {
  const [head] = await select<Head>(
    database,
    `select b.language, f.body as facts, s.body as sort from briefs b left join facts f on f.plan_id = b.plan_id
       left join sort_settings s on s.plan_id = b.plan_id where b.plan_id = $1 and b.workspace_id = $2`,
    [plan, workspace],
  );
  if (!head) throw notFound('plan');
  const facts = factsOf(head.facts);
  const settings = sortSettingsSchema.safeParse(head.sort);
  const pack = languagePack(head.language, facts.functionWords);
  const { signals } = settings.success ? settings.data : usualSortSettings;
  return { rules: { pack, signals: signals ?? pack.signalWords, places: facts.places }, facts };
}
