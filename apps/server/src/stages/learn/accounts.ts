import type { AccountRow, readAccounts } from '@sprig/contracts';
import {
  addedTimes,
  asDay,
  countedFigures,
  groupPlaces,
  groupsThat,
  type PlainRatio,
  plainRatios,
  resultFigures,
  sumPlaces,
  type Time,
} from '@sprig/core/learn';
import type { z } from 'zod';
import type { PlanCaller } from '../../platform/caller.ts';
import { grouped } from '../../platform/grouped.ts';
import { type Account, accountsOf, againstOf, daysIn, findGrain, rangesOf, timeOf } from './account.ts';
import { nothingToday } from './today.ts';

type Answer = z.output<(typeof readAccounts)['answer']>;

/** Accounts side by side: each by the coarsest reports of campaigns that tell the days. */
export async function accountsSideBySide(
  caller: PlanCaller,
  asked: z.output<(typeof readAccounts)['body']>,
): Promise<Answer> {
  const accounts = await accountsOf(caller);
  const last = accounts.reduce((most, { told }) => Math.max(most, told.to), Number.NEGATIVE_INFINITY);
  const first = accounts.reduce((least, { told }) => Math.min(least, told.from), Number.POSITIVE_INFINITY);
  if (accounts.length === 0) return { told: null, range: null, against: null, rows: [], together: [] };
  const told = { from: asDay(first), to: asDay(last) };
  const [usual] = rangesOf({ range: null }, told);
  const range = asked.range ? timeOf(asked.range) : (usual as Time);
  const against = againstOf(asked, range);
  const rows: AccountRow[] = [];
  for (const account of accounts) {
    const now = await figuresIn(account, range);
    const before = against && (await figuresIn(account, against));
    rows.push({
      account: account.account,
      figures: now?.figures ?? null,
      before: before?.figures ?? null,
      days: now?.days ?? null,
      daysBefore: before?.days ?? null,
    });
  }
  return {
    told: daysIn(told),
    range: daysIn(range),
    against: against && daysIn(against),
    rows,
    together: togetherOf(rows),
  };
}

async function figuresIn(account: Account, range: Time) {
  const { found } = findGrain(account.onHand, new Set(['campaign'] as const), false, [range]);
  if (!found) return null;
  const { places, table } = await account.series(found);
  const sums = sumPlaces(table, {
    added: addedTimes(table, places.campaigns, found.times),
    places: new Uint8Array(places.size).fill(1),
    groups: groupPlaces(places, 'campaign', nothingToday),
  });
  return { figures: sums.together(groupsThat(sums, [])), days: found.days };
}

/** What accounts of one currency had together: counts are added, rates are worked out of them where all tell both. */
function togetherOf(rows: readonly AccountRow[]): Answer['together'] {
  const told = rows.filter(({ figures }) => figures !== null);
  return [...grouped(told, ({ account }) => account.currency)].flatMap(([currency, own]) => {
    if (own.length < 2) return [];
    const sumOf = (name: (typeof resultFigures)[number]): number | null => {
      const values = own.map(({ figures }) => figures?.[resultFigures.indexOf(name)] ?? null);
      return values.includes(null) ? null : values.reduce<number>((sum, value) => sum + (value ?? 0), 0);
    };
    const figures = resultFigures.map((name) => {
      if ((countedFigures as readonly string[]).includes(name)) return sumOf(name);
      if (!(name in plainRatios)) return null;
      const { above, below, times } = plainRatios[name as PlainRatio];
      const [over, under] = [sumOf(above), sumOf(below)];
      return over === null || under === null || under <= 0 ? null : (over / under) * times;
    });
    return [{ currency, accounts: own.length, figures }];
  });
}
