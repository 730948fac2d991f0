import type {
  actOnVerdicts,
  JudgedBy,
  readVerdicts,
  VerdictAct,
  VerdictActBody,
  VerdictList,
  VerdictRow,
  VerdictsAnswer,
} from '@sprig/contracts';
import { verdictLists } from '@sprig/contracts';
import type { Verdict } from '@sprig/core/judge';
import type { z } from 'zod';
import { select } from '../../db/connect.ts';
import { type Change, inChange } from '../../plan/change/index.ts';
import { revisionOf } from '../../plan/revision-of.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { SprigFailure } from '../../platform/failure.ts';
import { aimBids, changeBids, holdAll } from '../build/index.ts';
import { type AllJudged, allJudged, isTooSoon } from './judged.ts';

const nobody: VerdictsAnswer = {
  account: null,
  range: null,
  settledTo: null,
  grain: null,
  why: { none: 'reports' },
  aim: { cost: null, return: null },
  ownAims: 0,
  inCurrency: true,
  notMet: 0,
  lists: [],
  list: 'fine',
  order: [],
  stamp: '',
};

/** The list that a row is in: a verdict that was acted on rests until its day, and is then looked at again. */
function listOf({ acts, keys, judged, today }: AllJudged, row: number): VerdictList {
  const act = acts.get(keys[row] ?? '');
  if (!act) return judged[row]?.verdict ?? 'fine';
  return act.until > today ? 'rests' : 'again';
}

export async function verdictsOf(
  caller: PlanCaller,
  { account, by, list: wanted }: z.output<(typeof readVerdicts)['body']>,
): Promise<VerdictsAnswer> {
  const all = await allJudged(caller, account, by);
  if (!all) return nobody;
  const lists = new Map(verdictLists.map((one) => [one, { list: one, rows: [] as number[], stake: 0 }]));
  all.keys.forEach((_, row) => {
    const own = lists.get(listOf(all, row));
    own?.rows.push(row);
    if (own) own.stake += all.judged[row]?.stake ?? 0;
  });
  const isFull = (list: VerdictList) => lists.get(list)?.rows.length !== 0;
  const list = wanted ?? (isFull('again') ? 'again' : (verdictLists.find(isFull) ?? 'fine'));
  const order = lists.get(list)?.rows ?? [];
  const stake = (row: number) => all.judged[row]?.stake ?? -1;
  const cost = (row: number) => all.rows[row]?.cost ?? 0;
  order.sort((a, b) => stake(b) - stake(a) || cost(b) - cost(a));
  return {
    ...all.head,
    lists: Array.from(lists.values(), ({ rows, ...one }) => ({ ...one, rows: rows.length })),
    list,
    order,
  };
}

export async function verdictRows(
  caller: PlanCaller,
  account: string | null,
  by: JudgedBy,
  asked: readonly number[],
): Promise<VerdictRow[]> {
  const all = await allJudged(caller, account, by);
  if (!all) return [];
  const known = asked.filter((n) => all.rows[n] !== undefined);
  const there = await inPlan(
    caller,
    by,
    known.map((n) => all.keys[n] as string),
  );
  return known.map((n): VerdictRow => {
    const key = all.keys[n] as string;
    const row = all.rows[n] as AllJudged['rows'][number];
    const { verdict, evidence, stake } = all.judged[n] as AllJudged['judged'][number];
    const act = all.acts.get(key);
    const now = there.get(key);
    const seen = evidence.more?.of === 'clicks' ? row.settled.clicks : row.impressions;
    const span = evidence.more?.of === 'clicks' ? all.settledDays : all.days;
    return {
      n,
      key,
      names: [...(all.names[n] ?? [])],
      type: row.type,
      group: all.groups[n] ?? null,
      verdict,
      evidence,
      stake,
      impressions: row.impressions,
      clicks: row.clicks,
      cost: row.cost,
      conversions: row.settled.conversions,
      position: row.position,
      days: evidence.more && seen > 0 ? Math.ceil((evidence.more.count / seen) * span) : null,
      bid: now?.bid ?? null,
      status: now?.status ?? null,
      act: act ? { ...act, since: all.since(key) } : null,
    };
  });
}

type Now = { key: string; bid: number | null; status: 'enabled' | 'paused' };

/** Bids and states of today, by key. */
async function inPlan(
  { database, plan }: PlanCaller,
  by: JudgedBy,
  keys: readonly string[],
): Promise<Map<string, Now>> {
  const sql = {
    keyword: 'select key, bid::float8 as bid, status from keyword_rows where plan_id = $1 and key = any($2)',
    group: 'select key, base::float8 as bid, status from ad_groups where plan_id = $1 and key = any($2)',
    ad: `select key, null::float8 as bid, status from ads where plan_id = $1 and outlet = 'plain' and key = any($2)`,
  }[by];
  const rows = await select<Now>(database, sql, [plan, [...keys]]);
  return new Map(rows.map((row) => [row.key, row]));
}

type Acting = z.output<(typeof actOnVerdicts)['body']>;
type Acted = z.output<(typeof actOnVerdicts)['answer']>;

const VERDICT_WORDS: Record<Verdict, string> = {
  'broken-page': 'a broken page',
  'never-pays': 'never pays',
  'not-sold': 'not sold',
  'not-clicked': 'not clicked',
  'too-low': 'too low',
  pays: 'pays',
  fine: 'fine',
  'too-early': 'too early',
};
const THINGS: Record<JudgedBy, string> = { keyword: 'keyword row', group: 'ad group', ad: 'ad' };

/** Does something about verdicts, as one change, and has them rest; `dry` only says what it would do. */
export async function act(caller: PlanCaller, asked: Acting): Promise<Acted> {
  const { account, by, act: what, until, dry } = asked;
  const all = await allJudged(caller, account, by);
  if (!all) throw new SprigFailure('invalid', 'No report is there any more that told this.');
  if (until <= all.today)
    throw new SprigFailure('invalid', 'Choose a day that is still to come.', { at: 'until' });
  const rowOf = new Map(all.keys.map((key, row) => [key, row]));
  const keys = [...new Set(asked.keys)].filter((key) => rowOf.has(key));
  const verdicts = new Set(keys.map((key) => all.judged[rowOf.get(key) as number]?.verdict ?? 'fine'));
  const [first = 'fine'] = verdicts;
  const reason = verdicts.size === 1 ? VERDICT_WORDS[first] : 'by their verdicts';
  const bodyOf = (key: string): VerdictActBody => {
    const row = rowOf.get(key) as number;
    const own = all.rows[row] as AllJudged['rows'][number];
    return {
      by,
      key,
      verdict: all.judged[row]?.verdict ?? 'fine',
      act: what,
      on: all.from,
      until,
      was: {
        days: all.days,
        impressions: own.impressions,
        clicks: own.clicks,
        cost: own.cost,
        conversions: own.settled.conversions,
      },
    };
  };
  const write = (change: Change, done: readonly string[]) => keepActs(change, all.acts, done.map(bodyOf));
  if (what.kind === 'raise' || what.kind === 'aim') {
    const soon = new Set(keys.filter((key) => isTooSoon(all, key)));
    const ripe = keys.filter((key) => !soon.has(key));
    const raised = await raise(caller, by, ripe, what, dry, { reason, write });
    return { ...raised, tooSoon: soon.size };
  }
  const there = await inPlan(caller, by, keys);
  const changing = what.kind === 'seen' ? keys : keys.filter((key) => there.get(key)?.status === 'enabled');
  if (dry || changing.length === 0)
    return {
      revision: await revisionOf(caller),
      changed: changing.length,
      tooSoon: 0,
      outOfReach: 0,
      samples: [],
    };
  const words = what.kind === 'seen' ? 'See to' : 'Pause';
  const label = `${words} ${counted(changing.length, THINGS[by])}: ${reason}`;
  const { revision } = await inChange(caller, label, async (change) => {
    if (what.kind === 'pause')
      await holdAll(
        change,
        changing.map((rowKey) => ({ rowKey, value: 'paused' })),
        'status',
      );
    await write(change, changing);
  });
  return { revision, changed: changing.length, tooSoon: 0, outOfReach: 0, samples: [] };
}

type Raising = { reason: string; write: (change: Change, keys: readonly string[]) => Promise<void> };

async function raise(
  caller: PlanCaller,
  by: JudgedBy,
  keys: string[],
  how: Extract<VerdictAct, { kind: 'raise' | 'aim' }>,
  dry: boolean,
  { reason, write }: Raising,
): Promise<Omit<Acted, 'tooSoon'>> {
  if (by === 'ad')
    throw new SprigFailure('invalid', 'Ads have no bids. Raise those of their keywords.', { at: 'act' });
  if (keys.length === 0)
    return { revision: await revisionOf(caller), changed: 0, outOfReach: 0, samples: [] };
  const scope = by === 'keyword' ? { rows: keys } : { groups: keys };
  const also = {
    label: (bids: number) =>
      how.kind === 'raise'
        ? `Raise ${counted(bids, 'bid')} by ${how.by}%: ${reason}`
        : `Aim ${counted(bids, 'bid')} at position ${how.position}: ${reason}`,
    write: (change: Change, rows: readonly string[]) => write(change, by === 'keyword' ? rows : keys),
  };
  const { revision, changed, samples, unreachable } =
    how.kind === 'raise'
      ? await changeBids(caller, { scope, change: { kind: 'percent', by: how.by * 100 }, dry }, also)
      : await aimBids(caller, { scope, aim: { kind: 'position', at: how.position }, headroom: 0, dry }, also);
  return {
    revision,
    changed,
    outOfReach: Object.values(unreachable).reduce((sum, one) => sum + one, 0),
    samples: samples.slice(0, SHOWN).map(({ text, before, after }) => ({ text, before, after })),
  };
}
const SHOWN = 8;

/** The last that was done about a key stands; what was done before goes. */
export async function keepActs(
  change: Change,
  acts: AllJudged['acts'],
  bodies: readonly VerdictActBody[],
): Promise<void> {
  const old = bodies.flatMap(({ key }) => {
    const id = acts.get(key)?.id;
    return id === undefined ? [] : [{ id }];
  });
  await change.remove('verdict_acts', old);
  const first = change.takeIds(bodies.length);
  await change.insert(
    'verdict_acts',
    bodies.map((body, at) => ({ id: first + at, body })),
  );
}
