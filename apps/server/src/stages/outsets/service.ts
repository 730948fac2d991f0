import {
  MOST_OUTSETS,
  type OutsetPart,
  type OutsetView,
  type RulesOfPlan,
  rulesOfPlan,
} from '@sprig/contracts';
import { type Transaction, UniqueConstraintError } from 'sequelize';
import { execute, select } from '../../db/connect.ts';
import { locks } from '../../db/locks.ts';
import { inChange } from '../../plan/change/index.ts';
import type { Caller, PlanCaller } from '../../platform/caller.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';
import { readRules } from './rules-of-plan.ts';
import { shown, type Told, takeIn } from './take-in.ts';

export const listOutsets = ({ database, workspace }: Caller): Promise<OutsetView[]> =>
  select<OutsetView>(
    database,
    `select id, name, made_of as of, body->>'currency' as currency, is_default as "isDefault", parts, kept_at as "keptAt"
     from outsets where workspace_id = $1 and removed_at is null order by lower(name), id`,
    [workspace],
  );

type Kept = { name: string; parts: OutsetPart[]; rules: RulesOfPlan };

/** An outset of the workspace, with what it holds. */
export async function outsetOf({ database, workspace }: Caller, outset: number): Promise<Kept> {
  const [row] = await select<{ name: string; parts: OutsetPart[]; body: unknown }>(
    database,
    'select name, parts, body from outsets where workspace_id = $1 and id = $2 and removed_at is null',
    [workspace, outset],
  );
  if (!row) throw notFound('outset');
  return { name: row.name, parts: row.parts, rules: rulesOfPlan.parse(row.body) };
}

/** One change of what the workspace shares at a time. */
const oneAtATime = <T>(
  { database, workspace }: Caller,
  work: (transaction: Transaction) => Promise<T>,
): Promise<T> =>
  database.transaction(async (transaction) => {
    await execute(database, 'select pg_advisory_xact_lock($1, $2)', [locks.shared, workspace], {
      transaction,
    });
    return work(transaction);
  });

/** What else is called so says so. */
async function namedOnce<T>(name: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (!(error instanceof UniqueConstraintError)) throw error;
    throw new SprigFailure('invalid', `Another outset is called “${name}”. Choose another name.`, {
      at: 'name',
    });
  }
}

/** Keeps the plan's rules under a name, or in the place of what an outset held before. */
export async function keepOutset(
  caller: PlanCaller,
  { name, parts, instead }: { name: string; parts: OutsetPart[]; instead: number | null },
): Promise<number> {
  const { database, workspace } = caller;
  const rules = await readRules(caller);
  const body = JSON.stringify(onlyOf(rules, parts));
  return namedOnce(name.trim(), () =>
    oneAtATime(caller, async (transaction) => {
      if (instead !== null) {
        const [row] = await select<{ id: number }>(
          database,
          `update outsets set name = $3, made_of = $4, parts = $5, body = $6, kept_at = now()
           where workspace_id = $1 and id = $2 and removed_at is null returning id`,
          [workspace, instead, name.trim(), rules.name, parts, body],
          { transaction },
        );
        if (!row) throw notFound('outset');
        return row.id;
      }
      const [there] = await select<{ count: number }>(
        database,
        'select count(*)::int as count from outsets where workspace_id = $1 and removed_at is null',
        [workspace],
        { transaction },
      );
      if ((there?.count ?? 0) >= MOST_OUTSETS)
        throw new SprigFailure('invalid', `There are ${MOST_OUTSETS} outsets already. Remove one first.`, {
          at: 'name',
        });
      const [row] = await select<{ id: number }>(
        database,
        'insert into outsets (workspace_id, name, made_of, parts, body) values ($1, $2, $3, $4, $5) returning id',
        [workspace, name.trim(), rules.name, parts, body],
        { transaction },
      );
      return row?.id ?? 0;
    }),
  );
}

/** Lists of parts that were not chosen are left out: what is not to be taken along is not kept either. */
function onlyOf(rules: RulesOfPlan, parts: readonly OutsetPart[]): RulesOfPlan {
  const chosen = new Set(parts);
  const of = <T>(part: OutsetPart, list: T[]): T[] => (chosen.has(part) ? list : []);
  // What is said of themes by their names needs these, though they are not taken in themselves.
  const named = (['themes', 'ads', 'addresses'] as const).some((part) => chosen.has(part));
  return {
    ...rules,
    facts: { ...rules.facts, client: '', offers: [], brands: [], rivals: [], starts: null, ends: null },
    sets: of('sets', rules.sets),
    themes: named ? rules.themes : [],
    patterns: of('ads', rules.patterns),
    extras: of('extras', rules.extras),
    negatives: of('negatives', rules.negatives),
    kept: of('kept', rules.kept),
    lists: of('lists', rules.lists),
    outlets: of('outlets', rules.outlets),
  };
}

/** Changes what an outset is called and whether new plans begin with it; takes it away, or puts it back. */
export async function editOutset(
  caller: Caller,
  outset: number,
  { name, isDefault, isRemoved }: { name?: string; isDefault?: boolean; isRemoved?: boolean },
): Promise<void> {
  const { database, workspace } = caller;
  await namedOnce(name?.trim() ?? 'that', () =>
    oneAtATime(caller, async (transaction) => {
      if (isDefault === true)
        await execute(
          database,
          'update outsets set is_default = false where workspace_id = $1',
          [workspace],
          {
            transaction,
          },
        );
      const rows = await select(
        database,
        `update outsets set name = coalesce($3::text, name), is_default = coalesce($4::boolean, is_default) and not coalesce($5::boolean, false),
           removed_at = case $5::boolean when true then now() when false then null else removed_at end
         where workspace_id = $1 and id = $2 and (removed_at is null or $5::boolean is not null) returning id`,
        [workspace, outset, name?.trim() ?? null, isDefault ?? null, isRemoved ?? null],
        { transaction },
      );
      if (rows.length === 0) throw notFound('outset');
    }),
  );
}

export async function tryOutset(
  caller: PlanCaller,
  outset: number,
  parts: readonly OutsetPart[],
): Promise<Told> {
  const { parts: kept, rules } = await outsetOf(caller, outset);
  return shown(
    caller,
    rules,
    parts.filter((part) => kept.includes(part)),
  );
}

/** Takes parts of an outset into the plan, as one change, if that does what was shown. */
export async function takeOutset(
  caller: PlanCaller,
  outset: number,
  parts: readonly OutsetPart[],
  seen: string,
): Promise<{ revision: number }> {
  const { name, parts: kept, rules } = await outsetOf(caller, outset);
  const chosen = parts.filter((part) => kept.includes(part));
  return inChange(caller, `Take in the outset ${name}`, async (change) => {
    const did = await takeIn(change, rules, chosen, { isNew: false });
    if (did.seen !== seen)
      throw new SprigFailure(
        'conflict',
        'The plan or the outset was changed meanwhile, so this would do something else than was shown. Look at it again.',
      );
  });
}
