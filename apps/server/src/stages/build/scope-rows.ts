import type { BidScope } from '@sprig/contracts';
import { bidOfRow, type Layout } from '@sprig/core/build';
import { type MatchType, typeOf } from '@sprig/core/match';
import { asMicros, type Micros } from '@sprig/core/money';
import { plainOutlet } from '@sprig/core/outlets';
import { incrementOf } from '@sprig/core/sheets';
import { normalise } from '@sprig/core/text';
import { select } from '../../db/connect.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { type BidRules, bidRules } from './rows.ts';

/** A row that bids, with its bid at the outlet's increment. */
export type BiddingRow = {
  key: string;
  group: string;
  campaign: string;
  text: string;
  /** The text in normal form: what is searched for. */
  norm: string;
  type: MatchType;
  bid: Micros;
  /** What the bid is made of. */
  parts: { base: Micros; steps: readonly number[]; heldBid: Micros | null };
};

export type Scoped = {
  rows: BiddingRow[];
  rules: BidRules;
  /** The daily budgets of the campaigns in the scope, by their keys. */
  budgets: ReadonlyMap<string, Micros>;
};

type Stored = {
  key: string;
  group_key: string;
  campaign_key: string;
  text: string;
  type: number;
  base: number;
  /** One after the other: the driver reads a list of a hundred thousand rows much slower. */
  steps: string;
  held_bid: number | null;
};

/** The rows of a scope that bid: neither they nor their group nor their campaign are paused. */
export async function scopedRows(caller: PlanCaller, scope: BidScope): Promise<Scoped> {
  const rules = await bidRules(caller);
  const [where, bind] = whereOf(scope);
  const stored = await select<Stored>(
    caller.database,
    `select r.key, r.group_key, g.campaign_key, r.text, r.type, r.base, array_to_string(r.steps, ' ') as steps, r.held_bid
     from keyword_rows r join ad_groups g on g.plan_id = r.plan_id and g.key = r.group_key
     join campaigns c on c.plan_id = g.plan_id and c.key = g.campaign_key
     where r.plan_id = $1 and r.status = 'enabled' and g.status = 'enabled' and c.status = 'enabled' and ${where}
     order by g.campaign_key, r.group_key, r.position, r.type`,
    [caller.plan, ...bind],
  );
  const budgets = await select<{ key: string; budget: number }>(
    caller.database,
    `select key, daily_budget as budget from campaigns where plan_id = $1 and status = 'enabled' order by position`,
    [caller.plan],
  );
  const { ladder } = rules.layout;
  const increment = incrementOf(plainOutlet, rules.currency);
  const stepsOf = stepsRead();
  const inScope = new Set(stored.map(({ campaign_key }) => campaign_key));
  return {
    rules,
    rows: stored.map((row) => ({
      key: row.key,
      group: row.group_key,
      campaign: row.campaign_key,
      text: row.text,
      norm: normalise(row.text),
      type: typeOf(row.type),
      ...bidAndParts(row, ladder, increment, stepsOf),
    })),
    budgets: new Map(
      budgets.filter(({ key }) => inScope.has(key)).map(({ key, budget }) => [key, asMicros(budget)]),
    ),
  };
}

/** Rows have the same few steps again and again. */
function stepsRead(): (said: string) => readonly number[] {
  const known = new Map<string, readonly number[]>();
  return (said) => {
    const there = known.get(said);
    if (there) return there;
    const read = said === '' ? [] : said.split(' ').map(Number);
    known.set(said, read);
    return read;
  };
}

function bidAndParts(
  { base, steps, held_bid }: Stored,
  ladder: Layout['ladder'],
  increment: Micros,
  stepsOf: (said: string) => readonly number[],
) {
  const parts = {
    base: asMicros(base),
    steps: stepsOf(steps),
    heldBid: held_bid === null ? null : asMicros(held_bid),
  };
  return { bid: bidOfRow(parts, ladder, increment), parts };
}

function whereOf(scope: BidScope): [string, unknown[]] {
  if ('rows' in scope) return ['r.key = any($2::text[])', [scope.rows]];
  if ('groups' in scope) return ['r.group_key = any($2::text[])', [scope.groups]];
  if ('campaign' in scope) return ['g.campaign_key = $2', [scope.campaign]];
  return ['true', []];
}
