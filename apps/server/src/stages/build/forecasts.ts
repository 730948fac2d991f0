import type { BidScope, DayForecast, ForecastView } from '@sprig/contracts';
import {
  type Aim,
  addForecast,
  aimedBid,
  type Curve,
  CurveMaker,
  type Forecast,
  ForecastRange,
  forecastAt,
  nothingForecast,
  perDay,
  withinBudget,
} from '@sprig/core/figures';
import { asMicros, type Micros, medianOf } from '@sprig/core/money';
import { plainOutlet } from '@sprig/core/outlets';
import { incrementOf } from '@sprig/core/sheets';
import { normalise } from '@sprig/core/text';
import { PlanFigures, type TextFigures } from '../../figures/plan-figures.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { type BiddingRow, type Scoped, scopedRows } from './scope-rows.ts';

/** Ad groups that a picture is given the forecast of. */
const MOST_PARTS = 3_000;
/** Positions of the curve of cost against clicks. */
const POSITIONS = [1, 1.5, 2, 2.5, 3, 4, 5, 6, 7, 8];

/**
 * The bid that each search of a scope is entered with: a keyword's own text is searched for once, and its highest bid
 * stands for it. What its wider match types reach besides is not counted.
 */
function entries(
  rows: readonly BiddingRow[],
  bidOf: (row: BiddingRow) => Micros = ({ bid }) => bid,
): Map<string, BiddingRow & { entered: Micros }> {
  const best = new Map<string, BiddingRow & { entered: Micros }>();
  for (const row of rows) {
    const entered = bidOf(row);
    const there = best.get(row.norm);
    if (!there || entered > there.entered) best.set(row.norm, { ...row, entered });
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
  for (const { norm, entered } of entries(rows, bidOf).values())
    sum = addForecast(sum, forecastAt(curves.get(norm) ?? [], entered));
  return rounded(perDay(sum));
}

/** A search, as a keyword is written, and the bid that it is entered with. */
export type Entered = { text: string; bid: Micros };
/** Searches of which it is asked at once whether a limit is passed. */
const STEP = 5_000;

/** What a day costs, so far as it is needed to know whether it passes a limit. `isWhole`: all of them are in it. */
export async function costBeyond(
  caller: PlanCaller,
  entered: readonly Entered[],
  limit: Micros,
): Promise<{ cost: Micros; isWhole: boolean }> {
  const figures = await PlanFigures.of(caller);
  let month = nothingForecast;
  for (let from = 0; from < entered.length; from += STEP) {
    const step = entered.slice(from, from + STEP).map(({ text, bid }) => ({ norm: normalise(text), bid }));
    const curves = await figures.curvesOf(step.map(({ norm }) => norm));
    for (const { norm, bid } of step) month = addForecast(month, forecastAt(curves.get(norm) ?? [], bid));
    const { cost } = perDay(month);
    if (cost > limit) return { cost, isWhole: from + STEP >= entered.length };
  }
  return { cost: perDay(month).cost, isWhole: true };
}

/** The forecast of a scope: now, within its budgets, and along the curve of cost against clicks. */
export async function forecastOf(caller: PlanCaller, scope: BidScope): Promise<ForecastView> {
  const scoped = await scopedRows(caller, scope);
  const { rows, budgets } = scoped;
  const entered = [...entries(rows).values()];
  const plan = await PlanFigures.of(caller);
  const figures = await plan.figuresOf(entered.map(({ norm }) => norm));
  const maker = new CurveMaker(plan.facts.assumptions);
  const curves = new Map([...figures].map(([norm, known]) => [norm, maker.of(known)]));
  const byGroup = new Map<string, Forecast>();
  const byCampaign = new Map<string, Forecast>();
  const range = new ForecastRange();
  const sum = { positions: 0, clicks: 0, estimated: 0, madeUp: 0, missing: 0 };
  for (const row of entered) {
    const curve = curves.get(row.norm) as Curve;
    const known = figures.get(row.norm) as TextFigures;
    if (curve.length === 0) sum.missing++;
    const found = forecastAt(curve, row.entered);
    range.add(perDay(found), known.doubt);
    byGroup.set(row.group, addForecast(byGroup.get(row.group) ?? nothingForecast, found));
    byCampaign.set(row.campaign, addForecast(byCampaign.get(row.campaign) ?? nothingForecast, found));
    if (found.position === null) continue;
    sum.positions += found.position * found.clicks;
    sum.clicks += found.clicks;
    const from = [known.from.searches, known.from.cpc];
    if (from.includes('made-up')) sum.madeUp += found.clicks;
    else if (from.includes('estimated') || from.includes('taken')) sum.estimated += found.clicks;
  }
  const isWhole = 'all' in scope || 'campaign' in scope;
  const { low, high } = range.between();
  const shareOf = (part: number) => (sum.clicks > 0 ? Math.round((part * 10_000) / sum.clicks) : 0);
  return {
    rows: rows.length,
    keywords: entered.length,
    now: rounded(perDay([...byCampaign.values()].reduce(addForecast, nothingForecast))),
    held: heldTo(byCampaign, isWhole ? budgets : new Map()),
    budget: asMicros([...budgets.values()].reduce((all, budget) => all + budget, 0)),
    low: rounded(low),
    high: rounded(high),
    missing: sum.missing,
    estimated: shareOf(sum.estimated),
    madeUp: shareOf(sum.madeUp),
    position: sum.clicks > 0 ? Math.round((sum.positions / sum.clicks) * 10) / 10 : null,
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
  entered: readonly { norm: string; entered: Micros }[],
  curves: ReadonlyMap<string, Curve>,
  { rules }: Scoped,
): ForecastView['curve'] {
  const increment = incrementOf(plainOutlet, rules.currency);
  const limits = { ceiling: rules.layout.ladder.ceiling, increment };
  return POSITIONS.map((at) => {
    const aim: Aim = { kind: 'position', at };
    let sum = nothingForecast;
    let unreachable = 0;
    for (const { norm, entered: now } of entered) {
      const curve = curves.get(norm) ?? [];
      const aimed = aimedBid(curve, aim, 0, limits);
      if ('unreachable' in aimed) unreachable++;
      sum = addForecast(sum, forecastAt(curve, 'bid' in aimed ? aimed.bid : now));
    }
    return { position: at, unreachable, ...rounded(perDay(sum)) };
  });
}
