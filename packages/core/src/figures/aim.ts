import { itemAt } from '../access/index.ts';
import { asMicros, type BasisPoints, type Micros, multiplied } from '../money/index.ts';
import type { Curve, CurvePoint } from './forecast.ts';

/** What bids are to reach: a position, 1 = top, which may lie between two; or a share of impressions. */
export type Aim = { kind: 'position'; at: number } | { kind: 'share'; at: BasisPoints };

/** Why a bid can't be aimed: nothing is known, no bid gets there, or only one above the ceiling. */
export type Unreachable = 'no-estimate' | 'out-of-reach' | 'above-ceiling';

export type AimedBid = { bid: Micros } | { unreachable: Unreachable };

/** What a bid gets beyond the least that reaches its aim: so much of itself, or of the way to the next better place. */
export type Headroom = BasisPoints | { next: BasisPoints };

/**
 * The least bid that the forecast says reaches the aim, raised by `headroom`, at most the ceiling and a
 * multiple of the increment. What would need more than the ceiling without headroom is unreachable. Half of the way
 * from £0.40, which reaches position 3, to £0.60, which reaches 2, is £0.50.
 */
export function aimedBid(
  curve: Curve,
  aim: Aim,
  headroom: Headroom,
  { ceiling, increment }: { ceiling: Micros; increment: Micros },
): AimedBid {
  if (curve.length === 0) return { unreachable: 'no-estimate' };
  const least = leastBid(curve, aim);
  if (least === null) return { unreachable: 'out-of-reach' };
  if (least > ceiling) return { unreachable: 'above-ceiling' };
  const bid =
    typeof headroom === 'number'
      ? multiplied(least, [10_000 + headroom], increment)
      : multiplied(onTheWay(curve, least, headroom.next), [], increment);
  return { bid: bid > ceiling ? ceiling : bid < increment ? increment : bid };
}

/** A bid on the way to the next better place; at the top there is none. */
function onTheWay(curve: Curve, least: Micros, part: BasisPoints): Micros {
  const next = curve.findLast(({ bid }) => bid > least);
  return next ? asMicros(Math.round(least + ((next.bid - least) * part) / 10_000)) : least;
}

/** Null where even the top falls short. A last position that is better than what is asked for costs its own bid. */
function leastBid(curve: Curve, aim: Aim): Micros | null {
  const worth = (point: CurvePoint) => (aim.kind === 'position' ? -point.position : point.share);
  const wanted = aim.kind === 'position' ? -aim.at : aim.at / 10_000;
  const top = itemAt(curve, 0);
  if (worth(top) < wanted) return null;
  for (let at = curve.length - 1; at >= 0; at--) {
    const point = itemAt(curve, at);
    if (worth(point) < wanted) continue;
    const below = curve[at + 1];
    if (!below) return point.bid;
    const part = (wanted - worth(below)) / (worth(point) - worth(below));
    return Math.ceil(below.bid + (point.bid - below.bid) * part) as Micros;
  }
  return null;
}
