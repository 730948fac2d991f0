import type { MatchType } from '../match/index.ts';
import { type BasisPoints, between, type Micros, multiplied } from '../money/index.ts';
import type { Ladder } from './layout.ts';

/** What a keyword row's bid is made of. A held bid stands for itself: only the outlet's increment applies. */
export type BidParts = { base: Micros; steps: readonly BasisPoints[]; held: Micros | null };

/** Where the base of a group's bids comes from. */
export type BaseFrom = 'held' | 'estimate' | 'default';

export const stepsFor = (ladder: Ladder, type: MatchType): BasisPoints[] => [ladder.steps[type]];

/**
 * The bid at an outlet: base × steps rounded once, half up, to the outlet's increment, then held between the
 * plan's floor and ceiling. £0.40 × 125% at 1p, between £0.05 and £5, is £0.50.
 */
export function bidOf(parts: BidParts, ladder: Ladder, increment: Micros): Micros {
  if (parts.held !== null) return multiplied(parts.held, [], increment);
  return between(multiplied(parts.base, parts.steps, increment), ladder.floor, ladder.ceiling);
}
