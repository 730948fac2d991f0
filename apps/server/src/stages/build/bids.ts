import type { BidScope, BidsAnswer } from '@sprig/contracts';
import { type BidChange, changedBid } from '@sprig/core/build';
import { type Aim, aimedBid, type Curve, type Headroom, type Unreachable } from '@sprig/core/figures';
import { asMicros, between, type Micros, multiplied } from '@sprig/core/money';
import { plainOutlet } from '@sprig/core/outlets';
import { incrementOf } from '@sprig/core/sheets';
import { PlanFigures } from '../../figures/plan-figures.ts';
import { type Change, inChange } from '../../plan/change/index.ts';
import { revisionOf } from '../../plan/revision-of.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { grouped } from '../../platform/grouped.ts';
import { dayOf } from './forecasts.ts';
import { holdAll } from './holds.ts';
import { type BiddingRow, type Scoped, scopedRows } from './scope-rows.ts';

const SAMPLES = 60;
const noneUnreachable = (): Record<Unreachable, number> => ({
  'no-estimate': 0,
  'out-of-reach': 0,
  'above-ceiling': 0,
});

/** Changes the bids of a scope by one rule, or says what it would do. */
export const changeBids = (
  caller: PlanCaller,
  scope: BidScope,
  change: BidChange,
  dry: boolean,
  also: Also = nothingElse,
) =>
  setBids(
    caller,
    scope,
    dry,
    ({ rules, rows }) => {
      const increment = incrementOf(plainOutlet, rules.currency);
      return new Map(rows.map((row) => [row.key, changedBid(row.bid, change, increment)]));
    },
    noneUnreachable(),
    also,
  );

/**
 * Aims the bids of a scope. A keyword's highest bid in an ad group is set to what reaches the aim; its other match types
 * keep their distance from it, so that the ladder stays in its order.
 * @param own no bid is aimed above it; null: the layout's greatest bid
 */
export function aimBids(
  caller: PlanCaller,
  scope: BidScope,
  aim: Aim,
  headroom: Headroom,
  dry: boolean,
  also: Also = nothingElse,
  own: Micros | null = null,
): Promise<BidsAnswer> {
  const unreachable = noneUnreachable();
  return setBids(
    caller,
    scope,
    dry,
    ({ rules, rows }, curves) => {
      const increment = incrementOf(plainOutlet, rules.currency);
      const { floor } = rules.layout.ladder;
      const ceiling = own ?? rules.layout.ladder.ceiling;
      const bids = new Map<string, Micros>();
      for (const own of grouped(rows, ({ group, norm }) => `${group} ${norm}`).values()) {
        const [first] = own;
        const aimed = aimedBid(curves.get(first?.norm ?? '') ?? [], aim, headroom, { ceiling, increment });
        if ('unreachable' in aimed) unreachable[aimed.unreachable]++;
        else
          for (const [key, bid] of inOrder(own, aimed.bid, increment))
            bids.set(key, between(bid, floor, ceiling));
      }
      return bids;
    },
    unreachable,
    also,
  );
}

function inOrder(rows: readonly BiddingRow[], aimed: Micros, increment: Micros): [string, Micros][] {
  const top = Math.max(...rows.map(({ bid }) => bid));
  return rows.map(({ key, bid }) => {
    if (bid === top) return [key, aimed];
    const share = Math.round((bid * 10_000) / top);
    const scaled = multiplied(aimed, [share], increment);
    return [key, scaled < increment ? increment : scaled];
  });
}

/** Sets some bids each to an amount of its own, or says what it would do. */
export const bidsTo = (
  caller: PlanCaller,
  bids: ReadonlyMap<string, Micros>,
  dry: boolean,
  also: Also,
): Promise<BidsAnswer> =>
  setBids(caller, { rows: [...bids.keys()] }, dry, () => bids, noneUnreachable(), also);

/** What else goes into the change: its name by how many bids, and more to be written. */
export type Also = {
  label: (bids: number) => string;
  write: (change: Change, keys: readonly string[]) => Promise<void>;
};
const nothingElse: Also = { label: (bids) => `Change ${counted(bids, 'bid')}`, write: async () => {} };

type NewBids = (scoped: Scoped, curves: ReadonlyMap<string, Curve>) => ReadonlyMap<string, Micros>;

async function setBids(
  caller: PlanCaller,
  scope: BidScope,
  dry: boolean,
  newBids: NewBids,
  unreachable = noneUnreachable(),
  also: Also = nothingElse,
): Promise<BidsAnswer> {
  const scoped = await scopedRows(caller, scope);
  const { rows } = scoped;
  const figures = await PlanFigures.of(caller);
  const curves = await figures.curvesOf(rows.map(({ norm }) => norm));
  const bids = newBids(scoped, curves);
  const after = (row: BiddingRow) => bids.get(row.key) ?? row.bid;
  const changed = rows.filter((row) => after(row) !== row.bid);
  const samples = [...changed]
    .sort((a, b) => Math.abs(after(b) - b.bid) - Math.abs(after(a) - a.bid) || (a.key < b.key ? -1 : 1))
    .slice(0, SAMPLES);
  const answer = {
    rows: rows.length,
    changed: changed.length,
    samples: samples.map((row) => ({
      key: row.key,
      text: row.text,
      type: row.type,
      before: row.bid,
      after: asMicros(after(row)),
    })),
    before: dayOf(rows, curves),
    after: dayOf(rows, curves, after),
    unreachable,
  };
  if (dry || changed.length === 0) return { ...answer, revision: await revisionOf(caller) };
  const { revision } = await inChange(caller, also.label(changed.length), async (change) => {
    await holdAll(
      change,
      changed.map((row) => ({ rowKey: row.key, value: after(row) })),
      'bid',
    );
    await also.write(
      change,
      changed.map(({ key }) => key),
    );
  });
  return { ...answer, revision };
}
