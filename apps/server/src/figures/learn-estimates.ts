import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import { type EstimateModel, learn, type ReadingRules } from '@sprig/core/figures';
import { hashOf } from '@sprig/core/text';
import type { PlanCaller } from '../caller.ts';
import { execute, select } from '../database/connect.ts';
import { readingRules } from './reading-rules.ts';

const zip = promisify(gzip);

type Told = {
  norm: string;
  searches: number | null;
  searches_about: boolean;
  cpc: number | null;
  cpc_about: boolean;
  competition: number | null;
};

const FIGURES = 'searches, searches_about, cpc, cpc_about, competition';

/**
 * Learns anew what a plan's told figures say, where they or the rules of reading have changed since the last time. Looked
 * at by the newest change of a keyword first, so that a plan of which only other things change costs one short query.
 */
export async function learnEstimates(caller: PlanCaller): Promise<void> {
  const { database, plan, workspace } = caller;
  const { rules } = await readingRules(caller);
  const reading = hashOf(
    JSON.stringify([rules.pack.code, [...rules.pack.functionWords], rules.signals, rules.places]),
  );
  const [stands] = await select<{ seen: string; told: string }>(
    database,
    'select seen, told from estimate_models where plan_id = $1',
    [plan],
  );
  const [moved] = await select<{ changed: number; removed: number }>(
    database,
    `select coalesce((select max(changed_revision) from keywords where plan_id = $1), 0) as changed,
       coalesce((select max(revision) from removed_keywords where plan_id = $1), 0) as removed`,
    [plan],
  );
  const seen = `${reading} ${moved?.changed} ${moved?.removed}`;
  if (stands?.seen === seen) return;
  const [sum] = await select<{ sum: string }>(
    database,
    `select coalesce(sum(hashtextextended(concat_ws(e'\\t', norm, ${FIGURES}), 0)), 0)::text as sum
     from keywords where plan_id = $1 and coalesce(searches, cpc, competition) is not null`,
    [plan],
  );
  const told = `${reading} ${sum?.sum}`;
  const keep = (set: string, bind: unknown[]) =>
    execute(
      database,
      `insert into estimate_models (plan_id, workspace_id, seen, told, body) values ($1, $2, $3, $4, $5)
       on conflict (plan_id) do update set ${set}`,
      [plan, workspace, seen, told, ...bind],
    );
  if (stands?.told === told) {
    await keep('seen = excluded.seen', [Buffer.alloc(0)]);
    return;
  }
  const model = await learnFrom(caller, rules);
  await keep('seen = excluded.seen, told = excluded.told, body = excluded.body', [
    await zip(JSON.stringify(model)),
  ]);
}

async function learnFrom({ database, plan }: PlanCaller, rules: ReadingRules): Promise<EstimateModel> {
  const { commonWords } = await import('@sprig/core/english');
  const rows = await select<Told>(
    database,
    `select norm, ${FIGURES} from keywords where plan_id = $1 and coalesce(searches, cpc, competition) is not null`,
    [plan],
  );
  return learn(
    {
      norms: rows.map(({ norm }) => norm),
      searches: rows.map(({ searches }) => searches ?? -1),
      searchesAbout: rows.map(({ searches_about }) => searches_about),
      cpc: rows.map(({ cpc }) => cpc ?? -1),
      cpcAbout: rows.map(({ cpc_about }) => cpc_about),
      competition: rows.map(({ competition }) => competition ?? -1),
    },
    { ...rules, isOrdinary: (word) => commonWords.has(word) },
  );
}
