import { bidOf as bidBy, type Ladder } from '@sprig/core/build';
import { eachType, type MatchType } from '@sprig/core/match';
import { asMicros, type Micros } from '@sprig/core/money';
import { grouped } from '../../../platform/grouped.ts';
import { mostOf } from './notes.ts';

type Bid = { group: string; type: MatchType; bid: Micros };
export type FoundLadder = {
  ladder: Ladder;
  /** Of each ad group that bids something. */
  bases: Map<string, Micros>;
  /** What a row bids by this ladder; null where its ad group has no base. */
  bidOf: (group: string, type: MatchType) => Micros | null;
};

const MOST_STEP = 100_000;

/**
 * The ladder by which most of these bids come about: the base of an ad group is its own bid, else what most of its keywords
 * bid; the step of a match type is what most keywords of it bid for a base. Null where nobody bids. O(bids).
 */
export function ladderOf(
  groupBids: ReadonlyMap<string, Micros>,
  bids: readonly Bid[],
  before: Ladder,
  increment: Micros,
): FoundLadder | null {
  const bases = new Map(groupBids);
  for (const [group, own] of grouped(bids, (bid) => bid.group)) {
    const most = bases.has(group) ? undefined : mostOf(own.map(({ bid }) => bid));
    if (most !== undefined) bases.set(group, most);
  }
  if (bases.size === 0) return null;
  const steps = eachType(() => 10_000);
  for (const [type, own] of grouped(bids, (bid) => bid.type)) {
    const most = mostOf(own.map(({ group, bid }) => stepOf(bid, bases.get(group) as Micros)));
    if (most !== undefined && most <= MOST_STEP) steps[type] = most;
  }
  let least: number = before.floor;
  let greatest: number = before.ceiling;
  for (const amount of [...bases.values(), ...bids.map(({ bid }) => bid)]) {
    least = Math.min(least, amount);
    greatest = Math.max(greatest, amount);
  }
  const ladder: Ladder = {
    ...before,
    baseBy: 'default',
    defaultBase: mostOf(bases.values()) ?? before.defaultBase,
    steps,
    stages: { early: 10_000, comparing: 10_000, ready: 10_000, none: 10_000 },
    floor: asMicros(Math.min(least, increment)),
    ceiling: asMicros(greatest),
  };
  return {
    ladder,
    bases,
    bidOf: (group, type) => {
      const base = bases.get(group);
      return base === undefined ? null : bidBy({ base, steps: [steps[type]], held: null }, ladder, increment);
    },
  };
}

/** In whole percents, as one would set it. */
const stepOf = (bid: Micros, base: Micros): number => Math.round((bid * 100) / base) * 100;
