import {
  dayIn,
  type Facts,
  type JudgedBy,
  type VerdictActBody,
  type VerdictsAnswer,
  verdictActBody,
} from '@sprig/contracts';
import { type Aim, type Judged, type JudgedRow, judge, type VerdictLimits } from '@sprig/core/judge';
import { asDay, type FactTable, isoDay, readIsoDay, type Time } from '@sprig/core/learn';
import { hashOf } from '@sprig/core/text';
import { select } from '../../db/connect.ts';
import { find } from '../../db/rows.ts';
import { currencyOf } from '../../plan/currency-of.ts';
import { planFacts } from '../../plan/plan-facts.ts';
import { settingSetsOf } from '../../plan/setting-sets.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { KeptFew } from '../../platform/kept-few.ts';
import { type Account, accountFor } from './account.ts';
import { metSums, namesOf } from './met-sums.ts';
import { brandWords, planStamp, todayOf } from './today.ts';

/** Everything of a plan that has a verdict, with what it rests on. */
export type AllJudged = {
  head: Omit<VerdictsAnswer, 'lists' | 'list' | 'order'>;
  by: JudgedBy;
  keys: readonly string[];
  names: readonly (readonly string[])[];
  groups: readonly (string | null)[];
  rows: readonly JudgedRow[];
  judged: readonly Judged[];
  /** Days that were looked at, of which conversions count on so many. */
  days: number;
  settledDays: number;
  acts: ReadonlyMap<string, VerdictActBody & { id: number }>;
  limits: VerdictLimits;
  /** What was counted of what was acted on, from that day on. */
  since: (key: string) => VerdictActBody['was'];
  /** The day that it is, by the account's clock. */
  today: string;
  /** The first day that tells what comes of what is done now: today, or the day after the last that is told. */
  from: string;
};

const kept = new KeptFew<AllJudged | null>(3);
export const forgetVerdicts = (): void => kept.clear();

const MILLION = 1_000_000;

/** Judges all that reports tell of, over the last range; kept as long as nothing changes. null where no report is. */
export async function allJudged(
  caller: PlanCaller,
  code: string | null,
  by: JudgedBy,
): Promise<AllJudged | null> {
  const account = await accountFor(caller, code);
  if (!account) return null;
  const stamp = `${account.stamp}/${by}/${await planStamp(caller)}/${dayIn(account.account.timeZone, new Date())}`;
  return kept.of(stamp, () => judgeAll(account, by, String(hashOf(stamp))));
}

async function judgeAll(account: Account, by: JudgedBy, stamp: string): Promise<AllJudged> {
  const { caller } = account;
  const facts = await planFacts(caller);
  const aims = await aimsOf(account, facts);
  const { aim, inCurrency, own: ownAims } = aims;
  const { about, met } = await metSums(account, by);
  const head = { ...about, aim, ownAims, inCurrency, stamp };
  const acts = await actsOf(caller, by);
  const today = dayIn(account.account.timeZone, new Date());
  const limits = facts.verdicts;
  const from = firstDaySince(account, today);
  if (!met) return { ...nothingJudged, head, by, acts, limits, today, from };
  const { places, table, groupOf, keys, numbers, firstPlace, sums, settled } = met;
  const failing = await failingGroups(caller);
  const words = brandWords(facts);
  const themeOf = (await todayOf(caller, new Set(['theme'] as const))).theme;
  const last = sinceLastConversion(table, met.settledTimes, groupOf, keys.length);
  const [impressions, clicks, cost] = [
    sums.column('impressions'),
    sums.column('clicks'),
    sums.column('cost'),
  ];
  const [position, lostRank] = [sums.column('position'), sums.column('lostRank')];
  const sold = {
    clicks: settled.column('clicks'),
    cost: settled.column('cost'),
    conversions: settled.column('conversions'),
    value: settled.column('value'),
  };
  const isKeyword = by === 'keyword';
  const rows = numbers.map((group): JudgedRow => {
    const place = firstPlace[group] as number;
    const names = places.names[place];
    const own = places.met[place];
    return {
      impressions: impressions[group] || 0,
      clicks: clicks[group] || 0,
      cost: cost[group] || 0,
      position: orNull(position[group]),
      lostRank: orNull(lostRank[group]),
      settled: {
        clicks: sold.clicks[group] || 0,
        cost: sold.cost[group] || 0,
        conversions: (sold.conversions[group] || 0) / MILLION,
        value: sold.value[group] || 0,
      },
      since: last(group),
      type: isKeyword ? (names?.match ?? null) : null,
      isBrand: isKeyword && names?.keyword !== undefined && words.in(names.keyword) !== null,
      network: '',
      group: isKeyword ? (own?.group ?? '') : '',
      theme: own?.group ? themeOf(own.group, own.row) : '',
      campaign: names?.campaign ?? '',
      pageFails: failing.has(own?.group ?? ''),
    };
  });
  const groupOfRow = numbers.map((group) => places.met[firstPlace[group] as number]?.group ?? null);
  return {
    head,
    by,
    keys: numbers.map((group) => keys[group] as string),
    names: numbers.map((group) => namesOf(places, firstPlace[group] as number, by)),
    groups: groupOfRow,
    rows,
    judged: judge(rows, limits, (row) => aims.of(groupOfRow[row] ?? '')),
    limits,
    days: met.found.days.most,
    settledDays: Math.max(0, met.settledTo - met.range.from + 1),
    acts,
    today,
    from,
    since: countedSince(account, table, groupOf, keys, acts),
  };
}

const orNull = (value: number | undefined): number | null =>
  value === undefined || Number.isNaN(value) ? null : value;

export const nothingSince = { days: 0, impressions: 0, clicks: 0, cost: 0, conversions: 0 };
/** Simulated accounts tell of days that are still to come: what is done now shows behind them. */
export function firstDaySince({ told }: Account, today: string): string {
  const next = isoDay(asDay(told.to + 1));
  return next > today ? next : today;
}

const nothingJudged = {
  keys: [],
  names: [],
  groups: [],
  rows: [],
  judged: [],
  days: 0,
  settledDays: 0,
  since: () => nothingSince,
};

/** What is aimed at, in the account's currency: by the plan, and by campaigns whose settings have an aim of their own. */
export type AimsOfPlan = {
  aim: Aim;
  inCurrency: boolean;
  /** Of an ad group of today's plan; any other has the plan's. */
  of: (group: string) => Aim;
  /** How many campaigns have another aim than the plan. */
  own: number;
};

/** A cost that is aimed at in another currency than the account's is left out. */
export async function aimsOf({ caller, account }: Account, facts: Facts): Promise<AimsOfPlan> {
  const inCurrency = (await currencyOf(caller)) === account.currency;
  const asAim = ({ targetCost, targetReturn }: Pick<Facts, 'targetCost' | 'targetReturn'>): Aim => ({
    cost: inCurrency ? targetCost : null,
    return: targetReturn === null ? null : targetReturn / 10_000,
  });
  const aim = asAim(facts);
  const { database, plan } = caller;
  const sets = await settingSetsOf((sql) => select(database, sql, [plan]));
  const others = new Map(
    sets.flatMap(({ id, targetCost, targetReturn }) =>
      targetCost === facts.targetCost && targetReturn === facts.targetReturn
        ? []
        : [[id, asAim({ targetCost, targetReturn })] as const],
    ),
  );
  if (others.size === 0) return { aim, inCurrency, of: () => aim, own: 0 };
  const groups = await select<{ key: string; campaign: string; settings: number }>(
    database,
    `select g.key, c.key as campaign, c.settings_id::int as settings from ad_groups g
     join campaigns c on c.plan_id = g.plan_id and c.key = g.campaign_key
     where g.plan_id = $1 and c.settings_id = any($2::int[])`,
    [plan, [...others.keys()]],
  );
  const aimOf = new Map(groups.map(({ key, settings }) => [key, others.get(settings) ?? aim]));
  const own = new Set(groups.map(({ campaign }) => campaign)).size;
  return { aim, inCurrency, of: (group) => aimOf.get(group) ?? aim, own };
}

/** What was done last about each key. */
export async function actsOf(caller: PlanCaller, by: JudgedBy): Promise<AllJudged['acts']> {
  const stored = await find(caller, 'verdict_acts', { columns: ['id', 'body'], order: ['id'] });
  const acts = new Map<string, VerdictActBody & { id: number }>();
  for (const { id, body } of stored) {
    const read = verdictActBody.safeParse(body);
    if (read.success && read.data.by === by) acts.set(read.data.key, { ...read.data, id });
  }
  return acts;
}

/** A bid that was changed has to show what it brings before it is raised again. */
export function isTooSoon(
  { acts, limits, since }: Pick<AllJudged, 'acts' | 'limits' | 'since'>,
  key: string,
): boolean {
  const { kind } = acts.get(key)?.act ?? {};
  return (kind === 'raise' || kind === 'aim' || kind === 'bid') && since(key).clicks < limits.clicksBetween;
}

/** Ad groups whose final URL did not answer when it was last looked at. */
async function failingGroups({ database, plan }: PlanCaller): Promise<ReadonlySet<string>> {
  const rows = await select<{ key: string }>(
    database,
    `select distinct a.group_key as key from ads a
     join address_checks c on c.plan_id = a.plan_id and c.address = a.final_url
     where a.plan_id = $1 and (c.problem <> '' or c.status >= 400)`,
    [plan],
  );
  return new Set(rows.map(({ key }) => key));
}

/** Of each group, clicks and cost on days after its last conversion; null where there was none. O(rows). */
function sinceLastConversion(
  table: FactTable,
  added: Uint8Array,
  groupOf: Int32Array,
  groups: number,
): (group: number) => JudgedRow['since'] {
  const { conversions, clicks, cost } = table.figures;
  if (!conversions) return () => null;
  const last = new Float64Array(groups).fill(Number.NEGATIVE_INFINITY);
  const sums = [new Float64Array(groups), new Float64Array(groups)] as const;
  const eachRow = (run: (row: number, group: number, day: number) => void) => {
    for (let row = 0; row < table.rows; row++) {
      const place = table.place[row] as number;
      const time = table.time[row] as number;
      if (!added[time * table.campaigns + (table.campaignOf[place] as number)]) continue;
      run(row, groupOf[place] as number, (table.times[time] as Time).to);
    }
  };
  eachRow((row, group, day) => {
    if ((conversions[row] as number) > 0 && day > (last[group] as number)) last[group] = day;
  });
  eachRow((row, group, day) => {
    if (day <= (last[group] as number)) return;
    sums[0][group] = (sums[0][group] as number) + (clicks?.[row] || 0);
    sums[1][group] = (sums[1][group] as number) + (cost?.[row] || 0);
  });
  return (group) =>
    Number.isFinite(last[group])
      ? { clicks: sums[0][group] as number, cost: sums[1][group] as number }
      : null;
}

/** What was counted of each key that was acted on from that day on, and over how many days that are told. O(rows). */
export function countedSince(
  { told }: Account,
  table: FactTable,
  groupOf: Int32Array,
  keys: readonly string[],
  acts: AllJudged['acts'],
): AllJudged['since'] {
  const from = Float64Array.from(keys, (key) => {
    const act = acts.get(key);
    return act ? readIsoDay(act.on) : Number.POSITIVE_INFINITY;
  });
  const counted = new Map<number, VerdictActBody['was']>();
  const { impressions, clicks, cost, conversions } = table.figures;
  for (let row = 0; acts.size > 0 && row < table.rows; row++) {
    const group = groupOf[table.place[row] as number] as number;
    if ((table.times[table.time[row] as number] as Time).from < (from[group] as number)) continue;
    const sum = counted.get(group) ?? nothingCounted(told, from[group] as number);
    sum.impressions += impressions?.[row] || 0;
    sum.clicks += clicks?.[row] || 0;
    sum.cost += cost?.[row] || 0;
    sum.conversions += (conversions?.[row] || 0) / MILLION;
    counted.set(group, sum);
  }
  const groupAt = new Map(keys.map((key, group) => [key, group]));
  return (key) => {
    const group = groupAt.get(key) ?? -1;
    return counted.get(group) ?? nothingCounted(told, from[group] ?? Number.POSITIVE_INFINITY);
  };
}

const nothingCounted = (told: Time, from: number): VerdictActBody['was'] => ({
  days: Math.max(0, Number.isFinite(from) ? told.to - from + 1 : 0),
  impressions: 0,
  clicks: 0,
  cost: 0,
  conversions: 0,
});
