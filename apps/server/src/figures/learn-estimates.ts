import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import { type Facts, factsOf } from '@sprig/contracts';
import { type EstimateModel, learn, type ReadingRules } from '@sprig/core/figures';
import { hashOf } from '@sprig/core/text';
import { select } from '../db/connect.ts';
import { keepRow, patchRows } from '../db/rows.ts';
import type { PlanCaller } from '../platform/caller.ts';
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
  const { database, plan } = caller;
  const { rules, facts } = await readingRules(caller);
  const others = facts.learnFrom === 'workspace' ? await likePlans(caller, facts) : [];
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
  const beside = others.map(({ plan: id, changed }) => `${id}:${changed}`).join();
  const seen = `${reading} ${moved?.changed} ${moved?.removed} ${beside}`;
  if (stands?.seen === seen) return;
  const [sum] = await select<{ sum: string }>(
    database,
    `select coalesce(sum(hashtextextended(concat_ws(e'\\t', norm, ${FIGURES}), 0)), 0)::text as sum
     from keywords where plan_id = $1 and coalesce(searches, cpc, competition) is not null`,
    [plan],
  );
  const told = `${reading} ${sum?.sum} ${hashOf(beside)}`;
  if (stands?.told === told) {
    await patchRows(caller, 'estimate_models', {}, { seen });
    return;
  }
  const model = await learnFrom(caller, rules, others);
  await keepRow(caller, 'estimate_models', { seen, told, body: await zip(JSON.stringify(model)) });
}

type LikePlan = { plan: number; changed: string; sameCurrency: boolean };

/** Other plans of the workspace in the plan's language and countries, the newest first, with what tells that they changed. */
async function likePlans({ database, plan, workspace }: PlanCaller, facts: Facts): Promise<LikePlan[]> {
  const rows = await select<LikePlan & { facts: unknown }>(
    database,
    `select o.plan_id as plan, o.currency = b.currency as "sameCurrency", f.body as facts,
       concat((select max(changed_revision) from keywords k where k.plan_id = o.plan_id), ' ',
         (select max(revision) from removed_keywords r where r.plan_id = o.plan_id)) as changed
     from briefs b join briefs o on o.workspace_id = b.workspace_id and o.language = b.language
       and o.plan_id <> b.plan_id and not o.archived
     left join facts f on f.plan_id = o.plan_id
     where b.plan_id = $1 and b.workspace_id = $2 order by o.plan_id desc limit ${MOST_LIKE}`,
    [plan, workspace],
  );
  const own = countriesOf(facts);
  return rows
    .filter((row) => countriesOf(factsOf(row.facts)) === own)
    .map(({ plan: id, changed, sameCurrency }) => ({ plan: id, changed, sameCurrency }));
}

const MOST_LIKE = 50;
const countriesOf = ({ locations }: Facts): string =>
  locations
    .filter(({ level }) => level === 'country')
    .map(({ name }) => name.toLowerCase())
    .sort()
    .join();

const TOLD = `select norm, ${FIGURES} from keywords where plan_id = $1 and coalesce(searches, cpc, competition) is not null`;

async function learnFrom(
  { database, plan }: PlanCaller,
  rules: ReadingRules,
  others: readonly LikePlan[],
): Promise<EstimateModel> {
  const { commonWords } = await import('@sprig/core/english');
  const rows = await select<Told>(database, TOLD, [plan]);
  const known = new Set(rows.map(({ norm }) => norm));
  for (const other of others) {
    for (const row of await select<Told>(database, TOLD, [other.plan])) {
      if (known.has(row.norm)) continue;
      known.add(row.norm);
      rows.push(other.sameCurrency ? row : { ...row, cpc: null });
    }
  }
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
