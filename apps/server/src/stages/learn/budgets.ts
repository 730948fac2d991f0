import type { BudgetRow, readBudgets } from '@sprig/contracts';
import {
  addedTimes,
  asDay,
  type BudgetDays,
  budgetDays,
  grainCode,
  isoDay,
  readIsoDay,
  type Time,
} from '@sprig/core/learn';
import { asMicros, type Micros } from '@sprig/core/money';
import { normalise } from '@sprig/core/text';
import type { z } from 'zod';
import { select } from '../../db/connect.ts';
import { currencyOf } from '../../plan/currency-of.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { type Account, accountFor, daysIn, findGrain, rangesOf } from './account.ts';

type Asked = z.output<(typeof readBudgets)['body']>;
type Answer = z.output<(typeof readBudgets)['answer']>;
type Budget = { key: string; name: string; budget: Micros };

/** Campaigns of an account against their daily budgets of today, those that missed the most first. */
export async function budgetsOf(
  caller: PlanCaller,
  { account: code, range: wanted }: Asked,
): Promise<Answer> {
  const account = await accountFor(caller, code);
  return account ? budgetsIn(account, wanted) : { ...nobody, why: { none: 'reports' } };
}

/** Those of one account, over a range or the last days that are told. */
export async function budgetsIn(account: Account, wanted: Asked['range'] = null): Promise<Answer> {
  const { range, found, why } = findGrain(
    account.onHand,
    new Set(['campaign'] as const),
    true,
    rangesOf({ range: wanted }, account.told),
  );
  const about = {
    ...nobody,
    account: account.account,
    told: daysIn(account.told),
    range: daysIn(range),
    why,
  };
  if (!found) return about;
  const { budgets, inCurrency } = await budgetsByName(account);
  const month = monthOf(account.told);
  const days = await daysBy(account, range, budgets);
  const spent = await daysBy(account, month.told, budgets);
  const rows = [...days].map(([name, { called, ...own }]): BudgetRow => {
    const budget = budgets.get(name);
    return {
      name: budget?.name ?? called,
      key: budget?.key ?? null,
      budget: budget?.budget ?? null,
      ...own,
      month: spent.get(name)?.cost ?? 0,
    };
  });
  const missed = ({ missed: own }: BudgetRow) => own?.clicks ?? -1;
  return {
    ...about,
    grain: grainCode(found.grain),
    inCurrency,
    month: { from: isoDay(month.told.from), to: isoDay(month.told.to), days: month.days },
    rows: rows.sort((a, b) => missed(b) - missed(a) || b.out - a.out || b.cost - a.cost),
  };
}

const nobody: Answer = {
  account: null,
  told: null,
  range: null,
  grain: null,
  why: null,
  inCurrency: true,
  month: null,
  rows: [],
};

async function daysBy(
  account: Account,
  range: Time,
  budgets: ReadonlyMap<string, Budget>,
): Promise<Map<string, BudgetDays & { called: string }>> {
  const { found } = findGrain(account.onHand, new Set(['campaign'] as const), true, [range]);
  if (!found) return new Map();
  const { places, table } = await account.series(found);
  const names = places.campaigns;
  const added = addedTimes(table, names, found.times);
  const days = budgetDays(table, names.length, added, (at) => budgets.get(names[at] ?? '')?.budget ?? null);
  const called = places.campaignsAsWritten();
  return new Map(
    names.flatMap((name, at) => {
      const own = days[at];
      return own ? [[name, { ...own, called: called[at] ?? name }] as const] : [];
    }),
  );
}

/** The month of the last day that is told: what is told of it, and how many days it has. */
function monthOf(told: Time): { told: Time; days: number } {
  const [year = 0, month = 1] = isoDay(told.to).split('-').map(Number);
  const first = readIsoDay(`${isoDay(told.to).slice(0, 7)}-01`);
  return {
    told: { from: asDay(Math.max(first, told.from)), to: told.to },
    days: new Date(Date.UTC(year, month, 0)).getUTCDate(),
  };
}

/** Daily budgets by what campaigns are called there or here; none where the account counts in another currency than the plan. */
async function budgetsByName({
  account,
  caller,
}: Account): Promise<{ budgets: Map<string, Budget>; inCurrency: boolean }> {
  if ((await currencyOf(caller)) !== account.currency) return { budgets: new Map(), inCurrency: false };
  const rows = await select<{ key: string; name: string; budget: number }>(
    caller.database,
    `select c.key, n.name, c.daily_budget::float8 as budget from campaigns c join (
       select key, name from campaigns where plan_id = $1
       union select campaign_key, campaign from outlet_groups where plan_id = $1 and outlet = $2
     ) n on n.key = c.key where c.plan_id = $1`,
    [caller.plan, account.outlet ?? ''],
  );
  const budgets = rows.map(
    ({ key, name, budget }) => [normalise(name), { key, name, budget: asMicros(budget) }] as const,
  );
  return { budgets: new Map(budgets), inCurrency: true };
}
