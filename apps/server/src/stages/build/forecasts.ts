import type { BidScope, DayForecast, ForecastView } from '@sprig/contracts';
import {
  type Aim,
  addForecast,
  aimedBid,
  type Curve,
  type Forecast,
  forecastAt,
  nothingForecast,
  perDay,
  withinBudget,
} from '@sprig/core/build';
import { asMicros, type Micros, medianOf } from '@sprig/core/money';
import { incrementOf, plainOutlet } from '@sprig/core/ship';
import type { PlanCaller } from '../../caller.ts';
import { curvesOf } from './curves.ts';
import { type BiddingRow, type Scoped, scopedRows } from './scope-rows.ts';

/** Positions of the curve of cost against clicks. */
const MOST_PARTS = 3_000;
const POSITIONS = [1, 1.5, 2, 2.5, 3, 4, 5, 6, 7, 8];

/**
 * The bid that each search of a scope is entered with: a keyword's own text is searched for once, and its highest bid
 * in the campaign stands for it. What its wider match types reach besides is not known to the market.
 */
export function entries(
  rows: readonly BiddingRow[],
  bidOf: (row: BiddingRow) => Micros = ({ bid }) => bid,
): Map<string, BiddingRow & { entered: Micros }> {
  const best = new Map<string, BiddingRow & { entered: Micros }>();
  for (const row of rows) {
    const entered = bidOf(row);
    const there = best.get(row.text);
    if (!there || entered > there.entered) best.set(row.text, { ...row, entered });
  }
  return best;
}

const rounded = ({ clicks, cost }: Forecast): DayForecast => ({
  clicks: Math.round(clicks * 1_000) / 1_000,
  cost,
});

/** A day's clicks and cost of the rows at their bids, or at others. */
export function dayOf(
  rows: readonly BiddingRow[],
  curves: ReadonlyMap<string, Curve>,
  bidOf?: (row: BiddingRow) => Micros,
): DayForecast {
  let sum = nothingForecast;
  for (const { text, entered } of entries(rows, bidOf).values())
    sum = addForecast(sum, forecastAt(curves.get(text) ?? [], entered));
  return rounded(perDay(sum));
}

/** A search and the bid that it is entered with. */
export type Entered = { text: string; bid: Micros };
/** Searches of which it is asked at once whether a limit is passed, and of which it is asked at most. */
const STEP = 5_000;
export const MOST_ASKED = 40_000;

/**
 * What a day costs, so far as it is needed to know whether it passes a limit; with the dearest searches first that is
 * soon known. `isWhole`: all of them are in it; of very many the market is asked only about the first.
 */
export async function costBeyond(
  entered: readonly Entered[],
  limit: Micros,
): Promise<{ cost: Micros; isWhole: boolean }> {
  let month = nothingForecast;
  const asked = Math.min(entered.length, MOST_ASKED);
  for (let from = 0; from < asked; from += STEP) {
    const step = entered.slice(from, from + STEP);
    const curves = await curvesOf(step.map(({ text }) => text));
    for (const { text, bid } of step) month = addForecast(month, forecastAt(curves.get(text) ?? [], bid));
    const { cost } = perDay(month);
    if (cost > limit) return { cost, isWhole: from + STEP >= entered.length };
  }
  return { cost: perDay(month).cost, isWhole: asked === entered.length };
}

/** The forecast of a scope: now, within its budgets, and along the curve of cost against clicks. */
export async function forecastOf(caller: PlanCaller, scope: BidScope): Promise<ForecastView> {
  const scoped = await scopedRows(caller, scope);
  const { rows, budgets } = scoped;
  const entered = [...entries(rows).values()];
  const curves = await curvesOf(entered.map(({ text }) => text));
  const byGroup = new Map<string, Forecast>();
  const byCampaign = new Map<string, Forecast>();
  let positions = 0;
  let seen = 0;
  for (const row of entered) {
    const found = forecastAt(curves.get(row.text) ?? [], row.entered);
    byGroup.set(row.group, addForecast(byGroup.get(row.group) ?? nothingForecast, found));
    byCampaign.set(row.campaign, addForecast(byCampaign.get(row.campaign) ?? nothingForecast, found));
    if (found.position === null) continue;
    positions += found.position * found.clicks;
    seen += found.clicks;
  }
  const isWhole = 'all' in scope || 'campaign' in scope;
  return {
    rows: rows.length,
    keywords: entered.length,
    now: rounded(perDay([...byCampaign.values()].reduce(addForecast, nothingForecast))),
    held: heldTo(byCampaign, isWhole ? budgets : new Map()),
    budget: asMicros([...budgets.values()].reduce((sum, budget) => sum + budget, 0)),
    position: seen > 0 ? Math.round((positions / seen) * 10) / 10 : null,
    medianBid: medianOf(rows.map(({ bid }) => bid)),
    curve: curvePoints(entered, curves, scoped),
    parts: [...byCampaign, ...dearest(byGroup)].map(([key, month]) => ({ key, ...rounded(perDay(month)) })),
  };
}

const dearest = (groups: ReadonlyMap<string, Forecast>) =>
  [...groups].sort(([, a], [, b]) => b.cost - a.cost).slice(0, MOST_PARTS);

/** Each campaign within its own budget; without one there is no limit. */
function heldTo(byCampaign: ReadonlyMap<string, Forecast>, budgets: ReadonlyMap<string, Micros>) {
  let held = nothingForecast;
  let wanted = 0;
  for (const [campaign, month] of byCampaign) {
    const day = perDay(month);
    const budget = budgets.get(campaign);
    wanted += day.cost;
    held = addForecast(held, budget === undefined ? day : withinBudget(day, budget));
  }
  const reached = wanted === 0 ? 10_000 : Math.min(10_000, Math.floor((held.cost * 10_000) / wanted));
  return { ...rounded(held), reached };
}

/** The whole scope aimed at one position after another; what can't be aimed keeps its bid. */
function curvePoints(
  entered: readonly { text: string; entered: Micros }[],
  curves: ReadonlyMap<string, Curve>,
  { rules }: Scoped,
): ForecastView['curve'] {
  const increment = incrementOf(plainOutlet, rules.currency);
  const limits = { ceiling: rules.layout.ladder.ceiling, increment };
  return POSITIONS.map((at) => {
    const aim: Aim = { kind: 'position', at };
    let sum = nothingForecast;
    let unreachable = 0;
    for (const { text, entered: now } of entered) {
      const curve = curves.get(text) ?? [];
      const aimed = aimedBid(curve, aim, 0, limits);
      if ('unreachable' in aimed) unreachable++;
      sum = addForecast(sum, forecastAt(curve, 'bid' in aimed ? aimed.bid : now));
    }
    return { position: at, unreachable, ...rounded(perDay(sum)) };
  });
}
