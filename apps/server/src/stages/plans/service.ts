import { isDeepStrictEqual } from 'node:util';
import type { Brief, OutsetPart, PlanState, PlanSummary, Preferences, RulesOfPlan } from '@sprig/contracts';
import { briefSchema, type Facts, factsOf, noFacts, outsetParts, preferencesSchema } from '@sprig/contracts';
import { defaultLayout, type Layout } from '@sprig/core/build';
import { setOf } from '@sprig/core/match';
import { asMicros } from '@sprig/core/money';
import { firstPattern, usualAddressRule } from '@sprig/core/write';
import type { Transaction } from 'sequelize';
import type { z } from 'zod';
import { execute, select } from '../../db/connect.ts';
import { columnsOf, tableOf } from '../../db/tables/index.ts';
import { atPlan, isShown } from '../../people/standing/index.ts';
import {
  type Change,
  type CollectionName,
  collectionNames,
  inChange,
  inNewPlan,
  stepsOf,
} from '../../plan/change/index.ts';
import { applyEdits } from '../../plan/documents.ts';
import type { Caller, PlanCaller, PlanSender, Sender } from '../../platform/caller.ts';
import { notFound } from '../../platform/failure.ts';
import { NextFlight } from '../../platform/next-flight.ts';
import { ofDatabase } from '../../platform/of-database.ts';
import { outsetOf, readRules, takeIn } from '../outsets/index.ts';
import { makeStarterLists } from '../prune/index.ts';
import type { Counts } from '../stage.ts';
import { type CountQueries, countColumns, IS_IN, largeCounts, STAMPS, type Stamps } from './plan-counts.ts';

/** Those that are shown to whoever asks. */
export const listPlans = (sender: Sender): Promise<PlanSummary[]> =>
  select<PlanSummary>(
    sender.database,
    `select p.id, b.name, b.currency, b.language, b.site, b.archived, p.created_at as "createdAt", p.changed_at as "changedAt",
       (select count(*) from keywords k where k.plan_id = p.id and ${IS_IN})::int as keywords
     from plans p join briefs b on b.plan_id = p.id where p.workspace_id = $1 and ${isShown(sender, '$2')}
     order by b.archived, p.changed_at desc`,
    [sender.workspace, sender.actor],
  );

/** What a plan begins with, and what is taken of it. */
export type Beginning = { of: string; rules: RulesOfPlan; parts: readonly OutsetPart[] };

/** Makes a plan with a layout and one ad pattern to start from, or with what an outset or another plan has. */
export function makePlan(
  caller: Caller,
  brief: Omit<Brief, 'archived'>,
  beginning: Beginning | null = null,
): Promise<number> {
  const label = beginning ? `Make the plan like ${beginning.of}` : 'Make the plan';
  return inNewPlan(caller, label, async (change) => {
    const hasAds = beginning?.parts.includes('ads') && beginning.rules.patterns.length > 0;
    await change.insert('briefs', [{ id: 1, ...brief, archived: false }]);
    await change.insert('facts', [{ id: 1, body: noFacts() }]);
    await makeStarterLists(change);
    const preferences = await preferencesOf(caller, change.transaction);
    const layout = preferredLayout(
      defaultLayout(brief.name.trim(), brief.currency),
      brief.currency,
      preferences,
    );
    await change.insert('layouts', [{ id: 1, body: layout }]);
    if (!hasAds) {
      const bodies = firstPatterns(preferences);
      const first = change.takeIds(bodies.length);
      await change.insert(
        'ad_patterns',
        bodies.map((body, at) => ({ id: first + at, position: at, body })),
      );
    }
    await change.insert('address_rules', [{ id: 1, body: usualAddressRule() }]);
    if (beginning) await takeIn(change, beginning.rules, beginning.parts, { isNew: true });
  });
}

async function preferencesOf(caller: Caller, transaction: Transaction): Promise<Preferences> {
  const [actor] = await select<{ preferences: unknown }>(
    caller.database,
    'select preferences from actors where id = $1 and workspace_id = $2',
    [caller.actor, caller.workspace],
    { transaction },
  );
  return preferencesSchema.parse(actor?.preferences ?? {});
}

/** The layout of a new plan with the match types and the default bid that its maker prefers. */
function preferredLayout(layout: Layout, currency: string, { newPlans }: Preferences): Layout {
  const { matchTypes, defaultBid } = newPlans;
  const types = matchTypes && setOf(matchTypes);
  const bid = defaultBid?.currency === currency ? asMicros(defaultBid.amount) : null;
  return {
    ...layout,
    lanes: types === null ? layout.lanes : layout.lanes.map((lane) => ({ ...lane, types })),
    ladder: bid === null ? layout.ladder : { ...layout.ladder, defaultBase: bid },
  };
}

/** The ad patterns of a new plan: what its maker keeps as a beginning, else one of each kind of ad that they prefer. */
function firstPatterns({ newPattern, newPlans }: Preferences) {
  if (newPattern) return [newPattern];
  const forms = newPlans.adForms ?? ['plain'];
  return forms.map((form) =>
    form === 'plain' ? firstPattern() : { ...firstPattern(), form, name: 'Assembled ad' },
  );
}

/** Makes a plan that begins with an outset's parts. */
export async function makePlanFrom(
  caller: Caller,
  brief: Omit<Brief, 'archived'>,
  outset: number,
): Promise<number> {
  const { name, rules, parts } = await outsetOf(caller, outset);
  return makePlan(caller, brief, { of: name, rules, parts });
}

/** Makes a plan with the rules of another one. Its extras are of its own site. */
export async function makePlanLike(
  caller: Sender,
  brief: Omit<Brief, 'archived'>,
  like: number,
): Promise<number> {
  await atPlan(caller, like);
  const rules = await readRules({ ...caller, plan: like });
  return makePlan(caller, brief, {
    of: rules.name,
    rules,
    parts: outsetParts.filter((part) => part !== 'extras'),
  });
}

/** A plan with the same inputs, hand edits included, and a history of its own. Ids stay, so that holds keep their rows. */
export async function duplicatePlan(caller: PlanCaller): Promise<number> {
  const { database, workspace, plan } = caller;
  const [original] = await select<{ name: string; next_id: number }>(
    database,
    'select b.name, p.next_id from plans p join briefs b on b.plan_id = p.id where p.id = $1 and p.workspace_id = $2',
    [plan, workspace],
  );
  if (!original) throw notFound('plan');
  return inNewPlan(caller, `Duplicate ${original.name}`, async (change) => {
    for (const name of collectionNames)
      if (tableOf(name).scope === 'plan' && !tableOf(name).isNotCopied) await copyRows(change, plan, name);
    change.takeIds(original.next_id);
    await change.update('briefs', [1], { name: `${original.name} (copy)`, archived: false });
  });
}

/** Copies a plan's rows of one table. What a change keeps beside them begins anew. */
async function copyRows({ caller, database, transaction }: Change, from: number, name: CollectionName) {
  const columns = columnsOf(tableOf(name), ({ isNotCopied }) => !isNotCopied).map((column) => column.name);
  const values = columns.map((column) => (column === 'changed_revision' ? '1' : column));
  await execute(
    database,
    `insert into ${name} (plan_id, workspace_id, ${columns.join(', ')}) select $1, workspace_id, ${values.join(', ')} from ${name} where plan_id = $2`,
    [caller.plan, from],
    { transaction },
  );
}

type StateRow = Brief &
  Omit<PlanState, 'brief' | 'undo' | 'redo' | 'you' | 'counts'> &
  Counts & { body: unknown };

/** Every window of a plan asks for its state with each change: what is the same for all of them is counted once. */
const statesOf = ofDatabase(() => new NextFlight<StateRow | undefined>());

async function readState(caller: PlanCaller, counts: CountQueries): Promise<StateRow | undefined> {
  const { database, plan, workspace } = caller;
  const [row] = await select<Stamps & StateRow>(
    database,
    `select p.id, p.revision, p.built_revision as "builtRevision", b.name, b.currency, b.language, b.site, b.archived,
       ${countColumns(counts, 'each')}, ${STAMPS}, (select body from facts where plan_id = p.id) as body
     from plans p join briefs b on b.plan_id = p.id where p.id = $1 and p.workspace_id = $2`,
    [plan, workspace],
  );
  if (!row) return undefined;
  const { poolStamp, builtStamp, ...others } = row;
  return { ...others, ...(await largeCounts(caller, counts, { poolStamp, builtStamp })) } as StateRow;
}

export async function planState(caller: PlanSender, counts: CountQueries): Promise<PlanState> {
  const row = await statesOf(caller.database).ask(`${caller.workspace} ${caller.plan}`, () =>
    readState(caller, counts),
  );
  if (!row) throw notFound('plan');
  const { id, revision, builtRevision, name, currency, language, site, archived, body, ...counted } = row;
  const brief = { name, currency, language, site, archived };
  const steps = await stepsOf(caller);
  const facts = factsOf(body);
  return {
    id,
    revision,
    builtRevision,
    brief,
    undo: steps.undo?.label ?? null,
    redo: steps.redo?.label ?? null,
    you: { role: caller.role, permissions: [...caller.permissions] },
    counts: {
      ...counted,
      facts: factsSet(facts),
      locations: facts.locations.length,
      languages: facts.languages.length,
    },
  };
}

/** How many facts differ from what a new plan has. */
function factsSet(facts: Facts): number {
  const none: Facts = noFacts();
  return (Object.keys(none) as (keyof Facts)[]).filter((name) => !isDeepStrictEqual(facts[name], none[name]))
    .length;
}

const BRIEF_WORDS: Record<string, string> = {
  name: 'Rename the plan',
  currency: 'Change the currency',
  language: 'Change the language',
  site: 'Change the site',
  archived: 'Archive the plan',
};

export async function editBrief(
  caller: PlanCaller,
  edits: Parameters<typeof applyEdits>[1],
): Promise<{ revision: number }> {
  const [first] = edits;
  const label =
    first?.at === 'archived' && first.after === false
      ? 'Take the plan out of the archive'
      : BRIEF_WORDS[first?.at ?? ''];
  return inChange(caller, label ?? 'Change the brief', async (change) => {
    const [brief] = await change.find('briefs', {
      columns: ['name', 'currency', 'language', 'site', 'archived'],
      lock: true,
    });
    const next = applyEdits(brief, edits, briefSchema as z.ZodType<Brief>);
    await change.update('briefs', [1], next);
  });
}
