import type { ForecastPart, readForecastAgainst } from '@sprig/contracts';
import { CurveMaker, withinBudget } from '@sprig/core/figures';
import { type MeasuredRow, measuredCurve } from '@sprig/core/judge';
import type { z } from 'zod';
import { PlanFigures } from '../../figures/plan-figures.ts';
import { currencyOf } from '../../plan/currency-of.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { grouped } from '../../platform/grouped.ts';
import { type BiddingRow, dayOf } from '../build/index.ts';
import { accountFor } from './account.ts';
import { campaignNames } from './bids.ts';
import { metBidding } from './met-bidding.ts';
import { metSums } from './met-sums.ts';

type Answer = z.output<(typeof readForecastAgainst)['answer']>;
const POSITIONS = 8;

/** Forecasts of campaigns at today's bids against what came of their keywords a day, and what was measured of positions. */
export async function forecastAgainst(caller: PlanCaller, code: string | null): Promise<Answer> {
  const figures = await PlanFigures.of(caller);
  const { assumptions } = figures.facts;
  const nobody = {
    account: null,
    range: null,
    grain: null,
    why: { none: 'reports' } as const,
    inCurrency: true,
    rows: [],
    measured: null,
    assumed: assumedOf(assumptions),
    hasPositions: false,
  };
  const account = await accountFor(caller, code);
  if (!account) return nobody;
  const { about, met } = await metSums(account, 'keyword');
  const { range, grain, why } = about;
  const inCurrency = (await currencyOf(caller)) === account.account.currency;
  const head = { ...nobody, account: account.account, range, grain, why, inCurrency };
  if (!met) return head;
  const { budgets, own, numberOf } = await metBidding(caller, met);
  const known = await figures.figuresOf(own.map(({ norm }) => norm));
  const maker = new CurveMaker(assumptions);
  const curves = new Map([...known].map(([norm, one]) => [norm, maker.of(one)]));
  const of = (row: BiddingRow, name: 'clicks' | 'cost' | 'impressions' | 'position') =>
    met.sums.figure(name, numberOf.get(row.key) as number);
  const names = await campaignNames(caller);
  const days = Math.max(1, met.found.days.most);
  const rows = [...grouped(own, ({ campaign }) => campaign)].map(([key, part]): ForecastPart => {
    const came = { clicks: 0, cost: 0 };
    for (const row of part) {
      came.clicks += (of(row, 'clicks') ?? 0) / days;
      came.cost += (of(row, 'cost') ?? 0) / days;
    }
    const budget = budgets.get(key);
    const day = dayOf(part, curves);
    const { clicks, cost } = budget === undefined ? day : withinBudget(day, budget);
    return { key, name: names.get(key) ?? '', forecast: { clicks, cost }, came };
  });
  const seen = own.flatMap((row): MeasuredRow[] => {
    const position = of(row, 'position');
    if (position === null) return [];
    const [impressions, clicks, cost] = [
      of(row, 'impressions') ?? 0,
      of(row, 'clicks') ?? 0,
      of(row, 'cost') ?? 0,
    ];
    // A price is held against the CPC of the same currency alone.
    const cpc = inCurrency ? (known.get(row.norm)?.cpc ?? null) : null;
    return [{ type: row.type, position, impressions, clicks, cost, cpc }];
  });
  const found = measuredCurve(seen, POSITIONS);
  return {
    ...head,
    rows: rows.sort((a, b) => b.came.cost - a.came.cost),
    measured:
      found.ctr || found.price
        ? { ...found, account: account.account.name, from: range.from, to: range.to }
        : null,
    hasPositions: seen.length > 0,
  };
}

/** What is assumed of positions where nothing was measured. */
function assumedOf(assumptions: ConstructorParameters<typeof CurveMaker>[0]): Answer['assumed'] {
  const bare = { ...assumptions, measured: null, season: null, reach: 10_000, lastPosition: POSITIONS };
  const curve = new CurveMaker(bare).of({ searches: 1, cpc: 1_000_000, competition: null });
  return {
    ctr: curve.map(({ clicks, impressions }) => (impressions > 0 ? clicks / impressions : 0)),
    price: curve.map(({ bid }) => bid / 1_000_000),
  };
}
