import { type BidScope, type BidsAnswer, bidFields } from '@sprig/contracts';
import { type BidChange, changedBid } from '@sprig/core/build';
import { type Aim, aimedBid, type Curve, type Headroom, type Unreachable } from '@sprig/core/figures';
import { asMicros, type BasisPoints, between, type Micros, multiplied } from '@sprig/core/money';
import { type NetworkName, plainOutlet } from '@sprig/core/outlets';
import { incrementOf } from '@sprig/core/sheets';
import { PlanFigures } from '../../figures/plan-figures.ts';
import { type Change, inChange } from '../../plan/change/index.ts';
import { chosenOutlets } from '../../plan/outlets.ts';
import { revisionOf } from '../../plan/revision-of.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { SprigFailure } from '../../platform/failure.ts';
import { grouped } from '../../platform/grouped.ts';
import { dayOf } from './forecasts.ts';
import { heldAt, holdAll } from './holds.ts';
import { type BiddingRow, type Scoped, scopedRows } from './scope-rows.ts';

const SAMPLES = 60;
const noneUnreachable = (): Record<Unreachable, number> => ({
  'no-estimate': 0,
  'out-of-reach': 0,
  'above-ceiling': 0,
});

type ChangeRequest = { scope: BidScope; change: BidChange; network?: NetworkName; dry: boolean };

/** Changes the bids of a scope by one rule, or says what it would do. */
export const changeBids = (
  caller: PlanCaller,
  { scope, change, network = 'search', dry }: ChangeRequest,
  also: Also = nothingElse,
) =>
  setBids(
    caller,
    { scope, network, dry },
    ({ rules, rows }) => {
      const increment = incrementOf(plainOutlet, rules.currency);
      return new Map(rows.map((row) => [row.key, changedBid(row.bid, change, increment)]));
    },
    noneUnreachable(),
    also,
  );

type AimRequest = {
  scope: BidScope;
  aim: Aim;
  headroom: Headroom;
  /** No bid is aimed above it; null: the layout's greatest bid. */
  ceiling?: Micros | null;
  network?: NetworkName;
  dry: boolean;
};

/**
 * Aims the bids of a scope. A keyword's highest bid in an ad group is set to what reaches the aim; its other match types
 * keep their distance from it, so that the ladder stays in its order. On another network than search a position costs that
 * network's share of what it costs in search: nothing else is known of it.
 */
export function aimBids(
  caller: PlanCaller,
  { scope, aim, headroom, ceiling: own = null, network = 'search', dry }: AimRequest,
  also: Also = nothingElse,
): Promise<BidsAnswer> {
  const unreachable = noneUnreachable();
  return setBids(
    caller,
    { scope, network, dry },
    ({ rules, rows, share }, curves) => {
      const increment = incrementOf(plainOutlet, rules.currency);
      const { floor } = rules.layout.ladder;
      const ceiling = own ?? rules.layout.ladder.ceiling;
      const onNetwork = (curve: Curve): Curve =>
        network === 'search'
          ? curve
          : curve.map((point) => ({ ...point, bid: multiplied(point.bid, [share], asMicros(1)) }));
      const bids = new Map<string, Micros>();
      for (const own of grouped(rows, ({ group, norm }) => `${group} ${norm}`).values()) {
        const [first] = own;
        const curve = curves.get(first?.norm ?? '') ?? [];
        const aimed = aimedBid(onNetwork(curve), aim, headroom, { ceiling, increment });
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
  setBids(
    caller,
    { scope: { rows: [...bids.keys()] }, network: 'search', dry },
    () => bids,
    noneUnreachable(),
    also,
  );

/** What else goes into the change: its name by how many bids, and more to be written. */
export type Also = {
  label: (bids: number) => string;
  write: (change: Change, keys: readonly string[]) => Promise<void>;
};
const nothingElse: Also = { label: (bids) => `Change ${counted(bids, 'bid')}`, write: async () => {} };

/** `share`: what is bid on the network of a bid in search, where nothing is set by hand; `inSearch`: the rows with what they bid there. */
type Network = Scoped & { share: BasisPoints; inSearch: readonly BiddingRow[] };
type NewBids = (scoped: Network, curves: ReadonlyMap<string, Curve>) => ReadonlyMap<string, Micros>;

/** The rows of a scope with what they bid on a network: by hand, else its share of their bid. */
async function rowsOn(caller: PlanCaller, scope: BidScope, network: NetworkName): Promise<Network> {
  const scoped = await scopedRows(caller, scope);
  if (network === 'search') return { ...scoped, share: 10_000 as BasisPoints, inSearch: scoped.rows };
  const taker = (await chosenOutlets(caller)).find(({ outlet }) => outlet.bids.perNetwork);
  if (!taker)
    throw new SprigFailure(
      'invalid',
      'No outlet of this plan takes a bid for each network. Choose one in Ship, or change the bids in search.',
      { at: 'network' },
    );
  const share = taker.body.steps[network] as BasisPoints;
  const increment = incrementOf(plainOutlet, scoped.rules.currency);
  const field = bidFields[network];
  const held = await heldAt(
    caller,
    scoped.rows.map(({ key }) => key),
    [field],
  );
  const bidOf = ({ key, bid }: BiddingRow) => {
    const own = held.get(key)?.[field];
    return own === undefined ? multiplied(bid, [share], increment) : asMicros(Number(own));
  };
  return {
    ...scoped,
    share,
    inSearch: scoped.rows,
    rows: scoped.rows.map((row) => ({ ...row, bid: bidOf(row) })),
  };
}

async function setBids(
  caller: PlanCaller,
  { scope, network, dry }: { scope: BidScope; network: NetworkName; dry: boolean },
  newBids: NewBids,
  unreachable = noneUnreachable(),
  also: Also = nothingElse,
): Promise<BidsAnswer> {
  const scoped = await rowsOn(caller, scope, network);
  const { rows } = scoped;
  const figures = await PlanFigures.of(caller);
  const curves = await figures.curvesOf(rows.map(({ norm }) => norm));
  const bids = newBids(scoped, curves);
  const after = (row: BiddingRow) => bids.get(row.key) ?? row.bid;
  const changed = rows.filter((row) => after(row) !== row.bid);
  const samples = [...changed]
    .sort((a, b) => Math.abs(after(b) - b.bid) - Math.abs(after(a) - a.bid) || (a.key < b.key ? -1 : 1))
    .slice(0, SAMPLES);
  const before = dayOf(scoped.inSearch, curves);
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
    before,
    after: network === 'search' ? dayOf(rows, curves, after) : before,
    unreachable,
  };
  if (dry || changed.length === 0) return { ...answer, revision: await revisionOf(caller) };
  const { revision } = await inChange(caller, also.label(changed.length), async (change) => {
    await holdAll(
      change,
      changed.map((row) => ({ rowKey: row.key, value: after(row) })),
      bidFields[network],
    );
    await also.write(
      change,
      changed.map(({ key }) => key),
    );
  });
  return { ...answer, revision };
}
