import {
  type BidRest,
  type BidsFrom,
  dayIn,
  type Facts,
  type ResultBid,
  type ResultBidList,
  type ResultBidsAnswer,
  type readResultBidRows,
  type readResultBids,
  resultBidLists,
  type takeResultBids,
  type VerdictActBody,
} from '@sprig/contracts';
import { bidOfRow, layoutOn, stepsAround } from '@sprig/core/build';
import { type BidBound, bandOf, boundedBid, worthOfClicks } from '@sprig/core/judge';
import { type Micros, multiplied } from '@sprig/core/money';
import { plainOutlet } from '@sprig/core/outlets';
import { incrementOf } from '@sprig/core/sheets';
import { hashOf } from '@sprig/core/text';
import type { z } from 'zod';
import { select } from '../../db/connect.ts';
import { planFacts } from '../../plan/plan-facts.ts';
import { settingSetsOf, settingsOf } from '../../plan/setting-sets.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { SprigFailure } from '../../platform/failure.ts';
import { KeptFew } from '../../platform/kept-few.ts';
import { type BiddingRow, bidsTo, scopedRows } from '../build/index.ts';
import { type Account, accountFor } from './account.ts';
import {
  type AimsOfPlan,
  actsOf,
  aimsOf,
  countedSince,
  firstDaySince,
  isTooSoon,
  nothingSince,
} from './judged.ts';
import { metBidding } from './met-bidding.ts';
import { type MetSums, metSums } from './met-sums.ts';
import { planStamp } from './today.ts';
import { keepActs } from './verdicts.ts';

type Row = {
  row: BiddingRow;
  /** Its number among what reports tell of; null where it is not asked what they do. */
  met: number | null;
  list: ResultBidList;
  after: Micros;
  bound: BidBound;
  expected: number | null;
};

type AllBids = {
  head: Omit<ResultBidsAnswer, 'lists' | 'order'>;
  rows: readonly Row[];
  sums: MetSums | null;
  acts: ReadonlyMap<string, VerdictActBody & { id: number }>;
  since: (key: string) => VerdictActBody['was'];
  today: string;
  /** The first day that tells what comes of bids that are set now. */
  from: string;
};

const kept = new KeptFew<AllBids>(3);
export const forgetBids = (): void => kept.clear();
const MILLION = 1_000_000;

/** Works out what bids follow from results; kept as long as nothing changes. */
async function allBids(caller: PlanCaller, code: string | null, from: BidsFrom): Promise<AllBids> {
  const facts = await planFacts(caller);
  const account = from === 'down' ? null : await accountFor(caller, code);
  const today = dayIn(account?.account.timeZone ?? facts.timeZone, new Date());
  const stamp = `${account?.stamp ?? caller.plan}/${from}/${await planStamp(caller)}/${today}`;
  return kept.of(stamp, async () => {
    const all = await workOut(caller, facts, account, from);
    const since = account ? firstDaySince(account, today) : today;
    return { ...all, today, from: since, head: { ...all.head, stamp: shownAs(all.rows) } };
  });
}

/** What is shown of bids: changes when any of them would be another, or become another. */
const shownAs = (rows: readonly Row[]): string =>
  String(hashOf(rows.map(({ row, list, after }) => `${row.key} ${row.bid} ${after} ${list}`).join('\n')));

async function workOut(
  caller: PlanCaller,
  facts: Facts,
  account: Account | null,
  from: BidsFrom,
): Promise<Omit<AllBids, 'today' | 'from'>> {
  if (from === 'down') return comingDown(caller);
  if (!account) return { ...noRows, head: { ...nothingAsked, why: { none: 'reports' as const } } };
  const { about, met } = await metSums(account, 'keyword');
  const aims = await aimsOf(account, facts);
  const { aim, inCurrency, own: ownAims } = aims;
  const head = { ...nothingAsked, ...about, aim, ownAims, inCurrency };
  if (!met) return { head, ...noRows };
  const acts = await actsOf(caller, 'keyword');
  const since = countedSince(account, met.table, met.groupOf, met.keys, acts);
  const { rules, own, numbers } = await metBidding(caller, met);
  const { floor, ceiling } = rules.layout.ladder;
  const bounds = { floor, ceiling, increment: incrementOf(plainOutlet, rules.currency) };
  const making = { facts, met, numbers, own, bounds };
  const { rows, rest } =
    from === 'aim' ? toAim(making, { inCurrency, aims, themes: await themesOf(caller) }) : byBands(making);
  return {
    head: {
      ...head,
      rest,
      notBidding: met.numbers.length - own.length,
      ready: await readyCampaigns(caller, facts, met, numbers, own),
    },
    rows: rows.map((row) =>
      row.list === 'change' && isTooSoon({ acts, since, limits: facts.verdicts }, row.row.key)
        ? { ...row, list: 'soon' as const }
        : row,
    ),
    sums: met,
    acts,
    since,
  };
}

const nothingAsked: AllBids['head'] = {
  account: null,
  range: null,
  settledTo: null,
  grain: null,
  why: null,
  aim: { cost: null, return: null },
  ownAims: 0,
  inCurrency: true,
  notMet: 0,
  stamp: '',
  rest: null,
  notBidding: 0,
  high: null,
  ready: [],
};
const noRows = { rows: [], sums: null, acts: new Map(), since: () => nothingSince };

type Making = {
  facts: Facts;
  met: MetSums;
  numbers: readonly number[];
  own: readonly BiddingRow[];
  bounds: { floor: Micros; ceiling: Micros; increment: Micros };
};
type Aiming = { inCurrency: boolean; aims: AimsOfPlan; themes: ReadonlyMap<string, number> };
type Made = { rows: Row[]; rest: BidRest | null };

function toAim({ facts, met, numbers, own, bounds }: Making, { inCurrency, aims, themes }: Aiming): Made {
  const of = (name: 'clicks' | 'conversions' | 'value') => {
    const column = met.settled.column(name);
    return Float64Array.from(numbers, (group) => column[group] || 0);
  };
  const clicks = of('clicks');
  const earned = { clicks, conversions: of('conversions').map((one) => one / MILLION), value: of('value') };
  const levels = [
    numbered(own.map(({ group }) => group)),
    numbered(own.map(({ group }) => themes.get(group) ?? 0)),
  ];
  const rest = (): BidRest | null => {
    if (!inCurrency) return 'currency';
    const isAimed = own.some(({ group }) => {
      const { cost, return: back } = aims.of(group);
      return cost !== null || back !== null;
    });
    if (!isAimed) return 'no-aim';
    if (!found) return 'nothing-sold';
    return found.worth ? null : 'no-value';
  };
  const found = worthOfClicks(earned, levels, (row) => aims.of(own[row]?.group ?? ''));
  const why = rest();
  if (why || !found?.worth) return { rows: [], rest: why };
  const { rates, worth } = found;
  const { clicks: least, most } = facts.bids;
  const limits = { ...bounds, most };
  const rows = own.map((row, at): Row => {
    const about = { row, met: numbers[at] as number, expected: rates[at] as number };
    const wanted = worth[at] as number;
    if (Number.isNaN(wanted)) return { ...about, list: 'aimless', after: row.bid, bound: 'none' };
    const { bid, by } = boundedBid(row.bid, wanted, limits);
    if ((clicks[at] as number) < least) return { ...about, list: 'few', after: row.bid, bound: 'none' };
    return { ...about, list: bid === row.bid ? 'stay' : 'change', after: bid, bound: by };
  });
  return { rows, rest: null };
}

function byBands({ facts, met, numbers, own, bounds }: Making): Made {
  const limits = { ...bounds, most: ANY };
  const [positions, impressions] = [met.sums.column('position'), met.sums.column('impressions')];
  let isTold = false;
  const rows = own.map((row, at): Row => {
    const group = numbers[at] as number;
    const position = positions[group] as number;
    const isPlaced = !Number.isNaN(position);
    isTold ||= isPlaced;
    const band = isPlaced ? bandOf(position, facts.bids.bands) : null;
    const wanted = multiplied(row.bid, [10_000 + (band?.by ?? 0) * 100], bounds.increment);
    const { bid, by } = boundedBid(row.bid, wanted, limits);
    const isFew = !isPlaced || (impressions[group] || 0) < facts.verdicts.impressions;
    const list = isFew ? 'few' : bid === row.bid ? 'stay' : 'change';
    return {
      row,
      met: group,
      list,
      after: isFew ? row.bid : bid,
      bound: isFew ? 'none' : by,
      expected: null,
    };
  });
  return isTold ? { rows, rest: null } : { rows: [], rest: 'no-position' };
}
/** A band says itself how far a bid goes. */
const ANY = 1_000;

/** What things are called as numbers from 0 on. */
function numbered<T>(names: readonly T[]): Int32Array {
  const known = new Map<T, number>();
  return Int32Array.from(names, (name) => {
    const number = known.get(name) ?? known.size;
    known.set(name, number);
    return number;
  });
}

async function themesOf({ database, plan }: PlanCaller): Promise<ReadonlyMap<string, number>> {
  const rows = await select<{ key: string; theme: number }>(
    database,
    'select key, coalesce(theme_id, 0)::int as theme from ad_groups where plan_id = $1',
    [plan],
  );
  return new Map(rows.map(({ key, theme }) => [key, theme]));
}

/** Bids that start high, as they are until that day and from it on: on either side of it both are told. */
async function comingDown(caller: PlanCaller): Promise<Omit<AllBids, 'today' | 'from'>> {
  const { rows, rules } = await scopedRows(caller, { all: true });
  const { layout, currency } = rules;
  const { startHigh } = layout;
  if (!startHigh.on) return { ...noRows, head: { ...nothingAsked, rest: 'not-high' } };
  const isHigh = layoutOn(layout, await builtOn(caller)).startHigh.on;
  const increment = incrementOf(plainOutlet, currency);
  const bidWith = ({ parts }: BiddingRow, steps: readonly number[]) =>
    bidOfRow({ ...parts, steps }, layout.ladder, increment);
  return {
    ...noRows,
    head: { ...nothingAsked, high: { on: isHigh, until: startHigh.until } },
    rows: rows.map((row): Row => {
      const { high, usual } = stepsAround(startHigh, row.type, row.parts.steps, isHigh);
      const [before, after] = [bidWith(row, high), bidWith(row, usual)];
      const list = before === after ? 'stay' : 'change';
      return { row: { ...row, bid: before }, met: null, list, after, bound: 'none', expected: null };
    }),
  };
}

/** The day that the plan is built for. */
async function builtOn({ database, plan, workspace }: PlanCaller): Promise<string> {
  const [row] = await select<{ day: string | null }>(
    database,
    'select built_day::text as day from plans where id = $1 and workspace_id = $2',
    [plan, workspace],
  );
  return row?.day ?? '';
}

/** Campaigns that bid by themselves, with conversions enough for the engine to do so. */
async function readyCampaigns(
  caller: PlanCaller,
  facts: Facts,
  met: MetSums,
  numbers: readonly number[],
  own: readonly BiddingRow[],
): Promise<ResultBidsAnswer['ready']> {
  const sold = new Map<string, number>();
  own.forEach(({ campaign }, at) => {
    const more = met.sums.figure('conversions', numbers[at] as number) ?? 0;
    sold.set(campaign, (sold.get(campaign) ?? 0) + more / MILLION);
  });
  const sets = await settingSetsOf((sql) => select(caller.database, sql, [caller.plan]));
  const campaigns = await select<{ key: string; name: string; settings: number | null }>(
    caller.database,
    'select key, name, settings_id::int as settings from campaigns where plan_id = $1 order by position',
    [caller.plan],
  );
  return campaigns.flatMap(({ key, name, settings }) => {
    const conversions = sold.get(key) ?? 0;
    const isByHand = settingsOf(sets, facts, settings).strategy === 'by-hand';
    return isByHand && conversions >= facts.bids.conversions ? [{ key, name, conversions }] : [];
  });
}

/** The money that a change moves, as far as it is told. */
const movedBy = ({ row, after, met }: Row, sums: MetSums | null): number =>
  Math.abs(after - row.bid) * (met === null ? 1 : (sums?.sums.figure('clicks', met) ?? 0));

export async function resultBids(
  caller: PlanCaller,
  { account, from, list }: z.output<(typeof readResultBids)['body']>,
): Promise<ResultBidsAnswer> {
  const { head, rows, sums } = await allBids(caller, account, from);
  const moved = rows.map((row) => movedBy(row, sums));
  const order = [...rows.keys()].filter((at) => rows[at]?.list === list);
  order.sort((a, b) => (moved[b] as number) - (moved[a] as number) || a - b);
  return {
    ...head,
    lists: resultBidLists.map((one) => ({
      list: one,
      rows: rows.reduce((all, row) => all + (row.list === one ? 1 : 0), 0),
    })),
    order,
  };
}

export async function resultBidRows(
  caller: PlanCaller,
  { account, from, rows: asked }: z.output<(typeof readResultBidRows)['body']>,
): Promise<ResultBid[]> {
  const { rows, sums } = await allBids(caller, account, from);
  const names = await campaignNames(caller);
  return asked.flatMap((n) => {
    const one = rows[n];
    if (!one) return [];
    const { row, met, after, bound, expected } = one;
    const told = (name: 'impressions' | 'position') =>
      met === null ? null : (sums?.sums.figure(name, met) ?? null);
    const settled = (name: 'clicks' | 'conversions') =>
      met === null ? null : (sums?.settled.figure(name, met) ?? null);
    const sold = settled('conversions');
    return [
      {
        n,
        key: row.key,
        text: row.text,
        type: row.type,
        group: row.group,
        campaign: names.get(row.campaign) ?? '',
        clicks: settled('clicks'),
        conversions: sold === null ? null : sold / MILLION,
        expected,
        impressions: told('impressions'),
        position: told('position'),
        before: row.bid,
        after,
        bound,
      },
    ];
  });
}

/** What campaigns are called, by their keys. */
export async function campaignNames({ database, plan }: PlanCaller): Promise<ReadonlyMap<string, string>> {
  const rows = await select<{ key: string; name: string }>(
    database,
    'select key, name from campaigns where plan_id = $1',
    [plan],
  );
  return new Map(rows.map(({ key, name }) => [key, name]));
}

const SAID = { aim: 'to the aim', bands: 'by position' };

/** Sets bids to what was shown, as one change, and has them rest. */
export async function takeBids(
  caller: PlanCaller,
  { account, from, keys, stamp, until, dry }: z.output<(typeof takeResultBids)['body']>,
): Promise<z.output<(typeof takeResultBids)['answer']>> {
  const all = await allBids(caller, account, from);
  if (all.head.stamp !== stamp)
    throw new SprigFailure(
      'conflict',
      'The plan or its results have changed since these bids were shown. Nothing was set: look at them once more.',
    );
  if (until <= all.today)
    throw new SprigFailure('invalid', 'Choose a day that is still to come.', { at: 'until' });
  const asked = keys === null ? null : new Set(keys);
  const chosen = all.rows.filter(
    ({ row, list }) => list === 'change' && (asked === null || asked.has(row.key)),
  );
  const rowOf = new Map(chosen.map((one) => [one.row.key, one]));
  const bids = new Map(chosen.map(({ row, after }) => [row.key, after]));
  return bidsTo(caller, bids, dry, {
    label: (changed) => `Set ${counted(changed, 'bid')} ${SAID[from]}`,
    write: (change, done) =>
      keepActs(
        change,
        all.acts,
        done.map((key): VerdictActBody => {
          const { row, after, met } = rowOf.get(key) as Row;
          return {
            by: 'keyword',
            key,
            verdict: null,
            act: { kind: 'bid', from, before: row.bid, after },
            on: all.from,
            until,
            was: countedOf(all.sums, met),
          };
        }),
      ),
  });
}

function countedOf(sums: MetSums | null, met: number | null): VerdictActBody['was'] {
  if (!sums || met === null) return nothingSince;
  const of = (name: 'impressions' | 'clicks' | 'cost') => sums.sums.figure(name, met) ?? 0;
  return {
    days: sums.found.days.most,
    impressions: of('impressions'),
    clicks: of('clicks'),
    cost: of('cost'),
    conversions: (sums.settled.figure('conversions', met) ?? 0) / MILLION,
  };
}
