import { asMicros, type BasisPoints, between, type Micros, multiplied } from '../money/index.ts';

/** One change to many bids. Percentages are of the bid, with a sign: -2,000 takes a fifth off. */
export type BidChange =
  | { kind: 'set'; to: Micros }
  | { kind: 'percent'; by: BasisPoints }
  | { kind: 'amount'; by: number }
  | { kind: 'round'; to: Micros }
  | { kind: 'between'; from: Micros; to: Micros };

export const mostPercent = 100_000;

/** The bid after the change, a multiple of the increment and never less than one of it. */
export function changedBid(bid: Micros, change: BidChange, increment: Micros): Micros {
  const changed = rawChange(bid, change, increment);
  return changed < increment ? increment : changed;
}

function rawChange(bid: Micros, change: BidChange, increment: Micros): Micros {
  switch (change.kind) {
    case 'set':
      return multiplied(change.to, [], increment);
    case 'percent':
      return change.by <= -10_000 ? increment : multiplied(bid, [10_000 + change.by], increment);
    case 'amount':
      return bid + change.by <= 0 ? increment : multiplied(asMicros(bid + change.by), [], increment);
    case 'round':
      return multiplied(bid, [], change.to < increment ? increment : change.to);
    case 'between':
      return multiplied(between(bid, change.from, change.to), [], increment);
  }
}
