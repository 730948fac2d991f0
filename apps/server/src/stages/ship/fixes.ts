import { type Facts, type FindingFix, type FixableRule, factsOf } from '@sprig/contracts';
import type { Layout } from '@sprig/core/build';
import { asMicros, decimalFromMicros, decimalsOf, type Micros } from '@sprig/core/money';
import { type Outlet, plainOutlet } from '@sprig/core/outlets';
import { languagePack, lengthOf } from '@sprig/core/text';
import { select } from '../../db/connect.ts';
import { type Change, inChange } from '../../plan/change/index.ts';
import { outletOf } from '../../plan/outlets.ts';
import { settingSetsOf } from '../../plan/setting-sets.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { keepSet } from '../build/index.ts';
import { copiesNotMade } from './copies-not-made.ts';

type Request = { rule: FixableRule; outlet: string | null };
type Rows = <T extends object>(sql: string, bind?: unknown[]) => Promise<T[]>;
/** What a fix would do: as one reads it, and how it is done. */
type Fix = { words: string; changes: FindingFix['changes']; apply: (change: Change) => Promise<unknown> };

const SHOWN = 200;

/** What a sure fix would change, before anything is. */
export async function lookAtFix(caller: PlanCaller, request: Request): Promise<FindingFix> {
  const { database, plan } = caller;
  const { words, changes } = await fixFor(caller, request, (sql, bind = []) =>
    select(database, sql, [plan, ...bind]),
  );
  return { words, total: changes.length, changes: changes.slice(0, SHOWN) };
}

/** Does it, as one change that can be undone. */
export async function applyFix(
  caller: PlanCaller,
  request: Request,
): Promise<{ revision: number; fixed: number }> {
  const { revision, result } = await inChange(
    caller,
    ({ words }: { words: string; fixed: number }) => words,
    async (change) => {
      const { words, changes, apply } = await fixFor(caller, request, (sql, bind = []) =>
        change.rows(sql, bind),
      );
      if (changes.length > 0) await apply(change);
      return { words, fixed: changes.length };
    },
  );
  return { revision, fixed: result.fixed };
}

async function fixFor(caller: PlanCaller, { rule, outlet }: Request, rows: Rows): Promise<Fix> {
  switch (rule) {
    case 'presence-interested':
      return ofSettings(
        rows,
        'Show to people in the places only',
        'presence',
        () => 'in',
        ({ presence }) => presence,
      );
    case 'no-language': {
      const [brief] = await rows<{ language: string }>('select language from briefs where plan_id = $1');
      const { name } = languagePack(brief?.language ?? 'en');
      return ofSettings(
        rows,
        `Set the language to ${name}`,
        'languages',
        ({ languages }) => (languages.length === 0 ? [name] : languages),
        ({ languages }) => languages.join(', '),
      );
    }
    case 'copy-not-made':
      return removeCopies(rows);
    case 'bid-under-least':
      return raiseBids(rows, await outletOf(caller, outlet ?? plainOutlet.key));
    case 'budget-under-least':
      return raiseBudgets(rows, await outletOf(caller, outlet ?? plainOutlet.key));
    case 'keyword-too-long':
    case 'keyword-too-many-words':
      return cutKeywords(rows, rule, await outletOf(caller, outlet ?? plainOutlet.key));
  }
}

/** Copies that make nothing go; what is held of them is set aside as before. */
async function removeCopies(rows: Rows): Promise<Fix> {
  const copies = await copiesNotMade(rows);
  return {
    words: copies.length === 1 ? 'Remove the copy' : `Remove ${copies.length} copies`,
    changes: copies.map(({ name }) => ({ of: name, before: 'a copy', after: 'removed' })),
    apply: (into) =>
      into.remove(
        'copies',
        copies.map(({ id }) => ({ id })),
      ),
  };
}

/** One setting in the brief and in every named set. */
async function ofSettings<Name extends 'presence' | 'languages'>(
  rows: Rows,
  words: string,
  name: Name,
  made: (settings: Pick<Facts, 'presence' | 'languages'>) => Facts[Name],
  said: (settings: Pick<Facts, 'presence' | 'languages'>) => string,
): Promise<Fix> {
  const [row] = await rows<{ body: unknown }>('select body from facts where plan_id = $1');
  const facts = factsOf(row?.body);
  const sets = await settingSetsOf((sql) => rows(sql));
  const differs = (settings: Pick<Facts, 'presence' | 'languages'>) =>
    said(settings) !== said({ ...settings, [name]: made(settings) });
  const change = (of: string, settings: Pick<Facts, 'presence' | 'languages'>) => ({
    of,
    before: said(settings),
    after: said({ ...settings, [name]: made(settings) }),
  });
  return {
    words,
    changes: [
      ...(differs(facts) ? [change('The brief', facts)] : []),
      ...sets.filter(differs).map((set) => change(set.name, set)),
    ],
    apply: async (into) => {
      await into.update('facts', [1], { body: { ...facts, [name]: made(facts) } });
      for (const { id, ...body } of sets.filter(differs))
        await keepSet(into, id, { ...body, [name]: made(body) });
    },
  };
}

/** The floor of the ladder to the outlet's least bid, and bids held below it. */
const raiseBids = (rows: Rows, { name, bids }: Outlet): Promise<Fix> =>
  raiseTo(rows, asMicros(bids.least ?? 0), {
    words: (least) => `Raise bids to ${name}’s least, ${least}`,
    fields: ['bid', 'base'],
    of: 'The floor of the ladder',
    now: ({ ladder }) => ladder.floor,
    raised: (layout, least) => {
      const ceiling = asMicros(Math.max(layout.ladder.ceiling, least));
      return { ...layout, ladder: { ...layout.ladder, floor: least, ceiling } };
    },
  });

/** The daily budget of each campaign to the outlet's least, and those held below it. */
const raiseBudgets = (rows: Rows, { name, budget }: Outlet): Promise<Fix> =>
  raiseTo(rows, asMicros(budget.least ?? 0), {
    words: (least) => `Raise budgets to ${name}’s least, ${least}`,
    fields: ['budget'],
    of: 'The daily budget of campaigns',
    now: ({ dailyBudget }) => dailyBudget,
    raised: (layout, least) => ({ ...layout, dailyBudget: least }),
  });

/** An amount of the layout, and the holds that stand for it. */
type Raised = {
  words: (least: string) => string;
  fields: readonly string[];
  of: string;
  now: (layout: Layout) => Micros;
  raised: (layout: Layout, least: Micros) => Layout;
};

/** Raises an amount of the layout to a least one, and what is held below it. */
async function raiseTo(rows: Rows, least: Micros, { words, fields, of, now, raised }: Raised): Promise<Fix> {
  const [head] = await rows<{ body: Layout; currency: string }>(
    'select l.body, b.currency from layouts l join briefs b on b.plan_id = l.plan_id where l.plan_id = $1',
  );
  const held = await rows<{ id: number; row_key: string; value: Micros }>(
    `select id, row_key, (value #>> '{}')::bigint as value from holds
     where plan_id = $1 and field = any($3::text[]) and jsonb_typeof(value) = 'number' and (value #>> '{}')::bigint < $2 order by id`,
    [least, fields],
  );
  const layout = head?.body;
  const money = (amount: Micros) => decimalFromMicros(amount, decimalsOf(head?.currency ?? 'GBP'));
  const isLow = layout !== undefined && now(layout) < least;
  return {
    words: words(money(least)),
    changes: [
      ...(isLow ? [{ of, before: money(now(layout)), after: money(least) }] : []),
      ...held.map(({ row_key, value }) => ({
        of: `Held at ${row_key}`,
        before: money(value),
        after: money(least),
      })),
    ],
    apply: async (change) => {
      if (isLow) await change.update('layouts', [1], { body: raised(layout, least) });
      await change.update(
        'holds',
        held.map(({ id }) => id),
        { value: least },
      );
    },
  };
}

/** Keywords that the outlet would not take are cut from the pool; they can be put back. */
async function cutKeywords(
  rows: Rows,
  rule: 'keyword-too-long' | 'keyword-too-many-words',
  { name, limits }: Outlet,
): Promise<Fix> {
  const pool = await rows<{ id: number; text: string }>(
    `select id, text from keywords where plan_id = $1 and not cut and folded_into is null and blocked_by is null
       and (length(text) > $2 / 2 or cardinality(string_to_array(text, ' ')) > $3) order by id`,
    [limits.keywordLength, limits.keywordWords],
  );
  const over = pool.filter(({ text }) =>
    rule === 'keyword-too-long'
      ? lengthOf(text) > limits.keywordLength
      : text.split(' ').length > limits.keywordWords,
  );
  return {
    words: `Cut ${counted(over.length, 'keyword')} that ${name} does not take`,
    changes: over.map(({ text }) => ({ of: text, before: 'in', after: 'cut' })),
    apply: (change) =>
      change.update(
        'keywords',
        over.map(({ id }) => id),
        { cut: true },
      ),
  };
}
