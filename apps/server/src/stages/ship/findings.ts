import type * as api from '@sprig/contracts';
import type { OutletFinding, ShipView } from '@sprig/contracts';
import { type Finding, type FindingRule, Findings, outletRules } from '@sprig/core/findings';
import { plainOutlet } from '@sprig/core/outlets';
import type { Transaction } from 'sequelize';
import type { z } from 'zod';
import { select } from '../../db/connect.ts';
import { find } from '../../db/rows.ts';
import { inChange } from '../../plan/change/index.ts';
import { chosenOutlets } from '../../plan/outlets.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';
import { unaccepted } from '../write/index.ts';
import { type KeptCheck, keptCheck, madeOf, OF_PLAN, shortened } from './check-job.ts';

/** What the last build has found, of the plan itself and of what plain sheets can hold. */
const builtFindings = async (
  caller: PlanCaller,
  transaction: Transaction | null = null,
): Promise<Finding[]> =>
  (
    await find(
      caller,
      'findings',
      { columns: ['body'], where: { outlet: plainOutlet.key }, order: ['n'] },
      transaction,
    )
  ).map(({ body }) => ({ ...body, searches: body.searches ?? null, facts: body.facts ?? 0 }));

/** What nobody has accepted of the ads that would ship, where the workspace asks for that: as it is now, whatever was looked at. */
async function acceptance(caller: PlanCaller): Promise<Finding[]> {
  const found = new Findings();
  for (const { key, name, searches } of await unaccepted(caller))
    found.addGroup(key, [{ rule: 'ads-not-accepted', field: null, count: 1, text: name }], searches);
  return found.list();
}

/** What stands between the plan and one outlet, where the look through the plan found `found`. */
export async function blockersOf(
  caller: PlanCaller,
  outlet: string,
  found: readonly Finding[],
  transaction: Transaction,
): Promise<number> {
  const built = await builtFindings(caller, transaction);
  const own = built.filter(({ rule }) => outlet === plainOutlet.key || !outletRules.has(rule));
  return [...own, ...found].filter(({ severity }) => severity === 'blocker').length;
}

/** Refuses at once what would be refused later: where the plan is built and something stands in the way. */
export async function refuseBlocked(
  caller: PlanCaller,
  key: string,
  transaction: Transaction,
): Promise<void> {
  const [plan] = await select<{ fresh: boolean }>(
    caller.database,
    'select built_revision = revision as fresh from plans where id = $1',
    [caller.plan],
    { transaction },
  );
  const chosen = (await chosenOutlets(caller, transaction)).find(({ outlet }) => outlet.key === key);
  if (!plan?.fresh || !chosen) return;
  const kept = await keptCheck(caller, key, await madeOf(caller, chosen, transaction), transaction);
  refuse(await blockersOf(caller, key, kept?.findings ?? [], transaction), chosen.outlet.name);
}

export function refuse(blockers: number, outlet: string): void {
  if (blockers > 0)
    throw new SprigFailure(
      'blocked',
      `${counted(blockers, 'blocker')} ${blockers === 1 ? 'stands' : 'stand'} in the way to ${outlet}. Mend ${blockers === 1 ? 'it' : 'them'} first: nothing was written.`,
    );
}

type Accepted = {
  rule: FindingRule;
  field: string | null;
  outlet: string | null;
  facts: number;
  reason: string;
  by: string | null;
  at: string | null;
};

/** All that stands between the plan and its outlets, and what each would get. */
export async function viewShip(caller: PlanCaller): Promise<ShipView> {
  const { database, workspace, plan } = caller;
  const [counts] = await select<ShipView['counts'] & { built: number }>(
    database,
    `select p.built_revision as built,
       (select count(distinct campaign) from outlet_groups where plan_id = p.id and outlet = $3)::int as campaigns,
       (select count(*) from outlet_groups where plan_id = p.id and outlet = $3)::int as groups,
       (select count(*) from keyword_rows where plan_id = p.id)::int as keywords,
       (select count(*) from (
         select norm, match_type from negatives where plan_id = p.id
         union
         select n.norm, n.match_type from attached_lists a
           join shared_negatives n on n.workspace_id = a.workspace_id and n.list_id = a.list_id where a.plan_id = p.id) n)::int
         + (select count(*) from placed_negatives where plan_id = p.id)::int
         + (select coalesce(sum(cardinality(texts)), 0) from fences where plan_id = p.id)::int as negatives,
       (select count(*) from ads where plan_id = p.id and outlet = $3)::int as ads
     from plans p where p.id = $1 and p.workspace_id = $2`,
    [plan, workspace, plainOutlet.key],
  );
  if (!counts) throw notFound('plan');
  const accepted = await select<Accepted>(
    database,
    'select rule, field, outlet, facts, reason, by, at from accepted_findings where plan_id = $1',
    [plan],
  );
  const acceptances = new Map(accepted.map((one) => [acceptKey(one), one]));
  const chosen = await chosenOutlets(caller);
  const findings: OutletFinding[] = [];
  const add = (outlet: string | null, found: readonly Finding[]) => {
    for (const one of found) {
      const own = one.severity === 'blocker' ? undefined : acceptances.get(acceptKey({ ...one, outlet }));
      findings.push({
        ...one,
        outlet,
        accepted: own?.reason ?? null,
        acceptedBy: own?.by ?? null,
        acceptedAt: own?.at ?? null,
      });
    }
  };
  const built = (await builtFindings(caller)).map(shortened);
  const isPlain = chosen.some(({ outlet }) => outlet.key === plainOutlet.key);
  add(
    null,
    built.filter(({ rule }) => !outletRules.has(rule)),
  );
  if (isPlain)
    add(
      plainOutlet.key,
      built.filter(({ rule }) => outletRules.has(rule)),
    );
  const ofPlan = await keptCheck(caller, OF_PLAN, await madeOf(caller, null, null), null);
  add(null, ofPlan?.findings ?? []);
  add(null, await acceptance(caller));
  const outlets: ShipView['outlets'] = [];
  for (const one of chosen) {
    const stamp = await madeOf(caller, one, null);
    const kept = await keptCheck(caller, one.outlet.key, stamp, null);
    add(one.outlet.key, kept?.findings ?? []);
    outlets.push({ ...one, stamp, check: kept?.check ?? null });
  }
  const order = ['blocker', 'warning', 'tip'];
  findings.sort((a, b) => order.indexOf(a.severity) - order.indexOf(b.severity));
  const { built: builtRevision, ...rest } = counts;
  return {
    builtRevision,
    findings,
    checked: ofPlan !== null && outlets.every(({ check }) => check !== null),
    outlets,
    counts: rest,
  };
}

const PAGE = 200;

/** All that a finding speaks of, so many at a time: as the last look or the last build has it. */
export async function listFinding(
  caller: PlanCaller,
  { rule, field, outlet, from }: z.output<typeof api.listFinding.query>,
): Promise<z.output<typeof api.listFinding.answer>> {
  const page = (all: Finding['samples']) => ({
    total: all.length,
    rows: all.slice(from, from + PAGE).map(rowOf),
  });
  if (rule === 'ads-not-accepted') {
    const all = await unaccepted(caller);
    return page(all.map(({ key, name }) => ({ key, text: name })));
  }
  const [kept] = await find(caller, 'finding_lists', {
    columns: ['body'],
    where: { outlet: outlet || OF_PLAN, rule, field },
  });
  if (kept) return page(kept.body);
  const is = (one: Finding) => one.rule === rule && (one.field ?? '') === field;
  const [look] = await find(caller, 'ship_checks', {
    columns: ['body'],
    where: { outlet: outlet || OF_PLAN },
  });
  const seen = (look?.body as KeptCheck | undefined)?.findings.find(is);
  if (seen) return page(seen.samples);
  const rows = await select<{ key: string; text: string; count: number; total: number }>(
    caller.database,
    `select g.key, f->>'text' as text, (f->>'count')::int as count, (count(*) over ())::int as total
     from ad_groups g, jsonb_array_elements(g.findings) f
     where g.plan_id = $1 and g.workspace_id = $2 and f->>'rule' = $3 and coalesce(f->>'field', '') = $4
     order by g.searches desc nulls last, g.key limit $5 offset $6`,
    [caller.plan, caller.workspace, rule, field, PAGE, from],
  );
  const [first] = rows;
  if (first) return { total: first.total, rows: rows.map(({ total: _, ...row }) => row) };
  return page((await builtFindings(caller)).find(is)?.samples ?? []);
}

const rowOf = ({ key, text, count = 1 }: Finding['samples'][number]) => ({ key, text, count });

const acceptKey = ({
  rule,
  field,
  outlet,
  facts,
}: Pick<Accepted, 'rule' | 'field' | 'outlet' | 'facts'>): string =>
  JSON.stringify([rule, field, outlet, facts]);

type Acceptance = {
  rule: FindingRule;
  field: string | null;
  outlet: string | null;
  facts: number;
  reason: string | null;
};

/** Accepts a finding as it stands now, or takes that back. When what it speaks of changes it is to be judged again. */
export const acceptFinding = (caller: PlanCaller, { rule, field, outlet, facts, reason }: Acceptance) =>
  inChange(caller, reason === null ? 'Take back an acceptance' : 'Accept a finding', async (change) => {
    if (reason !== null && reason.trim() === '')
      throw new SprigFailure('invalid', 'Say why: the next one who looks will want to know.', {
        at: 'reason',
      });
    const there = await change.rows<{ id: number }>(
      `select id from accepted_findings where plan_id = $1 and rule = $2 and field is not distinct from $3
         and outlet is not distinct from $4 for update`,
      [rule, field, outlet],
    );
    await change.remove(
      'accepted_findings',
      there.map(({ id }) => ({ id })),
    );
    if (reason === null) return;
    const [actor] = await select<{ name: string }>(
      caller.database,
      'select name from actors where id = $1',
      [caller.actor],
      { transaction: change.transaction },
    );
    await change.insert('accepted_findings', [
      {
        id: change.takeIds(1),
        rule,
        field,
        outlet,
        facts,
        reason: reason.trim(),
        by: actor?.name ?? null,
        at: new Date().toISOString(),
      },
    ]);
  });
