import { createHash } from 'node:crypto';
import { isDeepStrictEqual } from 'node:util';
import {
  type OutsetLine,
  type OutsetLoss,
  type OutsetPart,
  planOutletBody,
  type RulesOfPlan,
} from '@sprig/contracts';
import { plainOutlet } from '@sprig/core/outlets';
import type { Transaction } from 'sequelize';
import { find } from '../../db/rows.ts';
import type { Change } from '../../plan/change/index.ts';
import { allOutlets } from '../../plan/outlets.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { followRecipes } from '../mix/index.ts';
import { addToPlan, refreshBlocks, soundNegatives } from '../prune/index.ts';
import { writePlainDown } from '../ship/index.ts';
import { type Outcome, outcomeOf } from './outcome.ts';
import { readRules } from './rules-of-plan.ts';

/** Above all numbers that plans have: what is only shown takes none. */
const NO_NUMBERS = 1_000_000_000;

export type Told = { lines: OutsetLine[]; losses: OutsetLoss[]; seen: string };

/** What taking parts of an outset into the plan would do. */
export async function shown(
  caller: PlanCaller,
  given: RulesOfPlan,
  parts: readonly OutsetPart[],
): Promise<Told> {
  let next = NO_NUMBERS;
  const takeIds = (count: number) => {
    next += count;
    return next - count;
  };
  const { outcome } = await outcomeFor(caller, null, given, parts, takeIds);
  return told(outcome);
}

async function outcomeFor(
  caller: PlanCaller,
  transaction: Transaction | null,
  given: RulesOfPlan,
  parts: readonly OutsetPart[],
  takeIds: (count: number) => number,
  isNew = false,
): Promise<{ current: RulesOfPlan; outcome: Outcome }> {
  const rules = await readRules(caller, transaction);
  // Where nobody has chosen yet, a plan ships to plain sheets.
  const current = rules.outlets.length > 0 || isNew ? rules : { ...rules, outlets: [plain] };
  const lists = await find(caller, 'shared_lists', { columns: ['id'] }, transaction);
  const outlets = await allOutlets(caller, transaction);
  const outcome = outcomeOf(current, given, parts, {
    lists: new Set(lists.map(({ id }) => id)),
    outlets: new Set(outlets.map(({ key }) => key)),
    takeIds,
  });
  return { current, outcome };
}

const plain = { key: plainOutlet.key, name: plainOutlet.name, body: planOutletBody.parse({}) };

const told = ({ lines, losses }: Outcome): Told => ({
  lines,
  losses,
  seen: createHash('sha256')
    .update(JSON.stringify([lines, losses]))
    .digest('base64url'),
});

/**
 * Takes parts of an outset into the plan of a change. A plan that begins with it ships to its outlets alone; another one
 * goes on shipping to its own.
 */
export async function takeIn(
  change: Change,
  given: RulesOfPlan,
  parts: readonly OutsetPart[],
  { isNew }: { isNew: boolean },
): Promise<Told> {
  const { caller, transaction } = change;
  const takeIds = (count: number) => change.takeIds(count);
  const { current, outcome } = await outcomeFor(caller, transaction, given, parts, takeIds, isNew);
  const { facts, layout, sort, address, sets, themes, patterns } = outcome;
  if (!isDeepStrictEqual(facts, current.facts)) await change.update('facts', [1], { body: facts });
  if (!isDeepStrictEqual(layout, current.layout)) await change.update('layouts', [1], { body: layout });
  if (!isDeepStrictEqual(address, current.address))
    await change.update('address_rules', [1], { body: address });
  if (
    !isDeepStrictEqual(sort, current.sort) &&
    (await change.update('sort_settings', [1], { body: sort })) === 0
  )
    await change.insert('sort_settings', [{ id: 1, body: sort }]);
  const kept = <T extends { id: number }>({ id, ...body }: T) => ({ id, body });
  await change.insert('setting_sets', sets.added.map(kept));
  await change.updateEach('setting_sets', sets.changed.map(kept), ['body']);
  await takeThemes(change, themes);
  await takePatterns(change, patterns);
  const extra = change.takeIds(outcome.extras.length);
  await change.insert(
    'extras',
    outcome.extras.map((body, at) => ({ id: extra + at, at: ['plan'], body, outlets: null, status: null })),
  );
  const word = change.takeIds(outcome.kept.length);
  await change.insert(
    'word_verdicts',
    outcome.kept.map((text, at) => ({ id: word + at, text })),
  );
  await takeNegatives(change, outcome);
  await takeOutlets(change, outcome.outlets, isNew);
  // Recipes are made with places and function words.
  const { places, functionWords } = current.facts;
  if (!isDeepStrictEqual([places, functionWords], [facts.places, facts.functionWords]))
    await followRecipes(change);
  return told(outcome);
}

async function takeThemes(change: Change, { added, changed }: Outcome['themes']) {
  const [last] = await change.rows<{ position: number }>(
    'select coalesce(max(position), 0)::int as position from themes where plan_id = $1',
  );
  const first = (last?.position ?? 0) + 1;
  await change.insert(
    'themes',
    added.map(({ id, parent, ...body }, at) => ({ id, parent_id: parent, position: first + at, body })),
  );
  await change.updateEach(
    'themes',
    changed.map(({ id, parent: _, ...body }) => ({ id, body })),
    ['body'],
  );
}

async function takePatterns(change: Change, { added, changed }: Outcome['patterns']) {
  const [last] = await change.rows<{ count: number }>(
    'select count(*)::int as count from ad_patterns where plan_id = $1',
  );
  const first = last?.count ?? 0;
  await change.insert(
    'ad_patterns',
    added.map(({ id, body }, at) => ({ id, position: first + at, body })),
  );
  await change.updateEach('ad_patterns', changed, ['body']);
}

async function takeNegatives(change: Change, { negatives, lists }: Outcome) {
  for (const reason of ['hand', 'block'] as const)
    await addToPlan(change, soundNegatives(negatives.filter((one) => one.reason === reason)), { reason });
  const first = change.takeIds(lists.length);
  await change.insert(
    'attached_lists',
    lists.map((list_id, at) => ({ id: first + at, list_id, campaigns: null })),
  );
  if (negatives.length + lists.length > 0) await refreshBlocks(change);
}

async function takeOutlets(change: Change, { added, changed }: Outcome['outlets'], isNew: boolean) {
  if (added.length > 0) {
    const there = isNew ? [] : await writePlainDown(change);
    const last = Math.max(-1, ...there.map(({ position }) => position));
    const first = change.takeIds(added.length);
    await change.insert(
      'plan_outlets',
      added.map(({ key, body }, at) => ({ id: first + at, position: last + 1 + at, outlet: key, body })),
    );
  }
  const rows = await change.find('plan_outlets', { columns: ['id', 'outlet'] });
  for (const { key, body } of changed) {
    const ids = rows.flatMap(({ id, outlet }) => (outlet === key ? [id] : []));
    await change.update('plan_outlets', ids, { body });
  }
}
