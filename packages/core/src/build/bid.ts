import type { MatchType } from '../match/index.ts';
import { type BasisPoints, between, type Micros, multiplied } from '../money/index.ts';
import type { FunnelStage } from '../text/index.ts';
import type { Ladder, Layout, StartHigh } from './layout.ts';

/** What a keyword row's bid is made of. A held bid stands for itself: only the outlet's increment applies. */
export type BidParts = { base: Micros; steps: readonly BasisPoints[]; held: Micros | null };

/** Where the base of a bid comes from. */
export type BaseFrom = 'held' | 'estimate' | 'theme' | 'taken' | 'default';

/** What a row's steps hang on besides its match type. */
export type StepsOf = {
  stage: FunnelStage | null;
  /** Of the branch, the group and the lane, where they have one. */
  more: readonly BasisPoints[];
};

const NONE: StepsOf = { stage: null, more: [] };

/**
 * The steps of a row: its match type's, its stage's, those of its branch, group and lane, and while bids start high
 * theirs. All but the first are left out where they change nothing.
 */
export function stepsFor(
  layout: Pick<Layout, 'ladder' | 'startHigh'>,
  type: MatchType,
  { stage, more }: StepsOf = NONE,
): BasisPoints[] {
  const { ladder, startHigh } = layout;
  const high = startHigh.on ? highStep(startHigh, type) : 10_000;
  const others = [ladder.stages[stage ?? 'none'], ...more, high];
  return [ladder.steps[type], ...others.filter((step) => step !== 10_000)];
}

const highStep = ({ narrow, wide }: StartHigh, type: MatchType): BasisPoints =>
  type === 'phrase' || type === 'exact' ? narrow : wide;

/** The steps of a row while bids start high, and once they have come down; `isHigh`: whether these are of while they do. */
export function stepsAround(
  startHigh: StartHigh,
  type: MatchType,
  steps: readonly BasisPoints[],
  isHigh: boolean,
): { high: readonly BasisPoints[]; usual: readonly BasisPoints[] } {
  const high = highStep(startHigh, type);
  if (high === 10_000) return { high: steps, usual: steps };
  return isHigh ? { high: steps, usual: steps.slice(0, -1) } : { high: [...steps, high], usual: steps };
}

/**
 * The bid at an outlet: base × steps rounded once, half up, to the outlet's increment, then held between the
 * plan's floor and ceiling. £0.40 × 125% × 115% at 1p, between £0.05 and £5, is £0.58.
 */
export function bidOf(parts: BidParts, ladder: Pick<Ladder, 'floor' | 'ceiling'>, increment: Micros): Micros {
  if (parts.held !== null) return multiplied(parts.held, [], increment);
  return between(multiplied(parts.base, parts.steps, increment), ladder.floor, ladder.ceiling);
}

type RowParts = { base: Micros; steps: readonly BasisPoints[]; heldBid: Micros | null };

/** The bid of a keyword row at an outlet's increment. */
export const bidOfRow = (
  { base, steps, heldBid: held }: RowParts,
  ladder: Pick<Ladder, 'floor' | 'ceiling'>,
  increment: Micros,
): Micros => bidOf({ base, steps, held }, ladder, increment);

/** The bid of an ad group at an outlet's increment: its base without a step. */
export const bidOfGroup = (
  { base, baseFrom }: { base: Micros; baseFrom: BaseFrom },
  ladder: Pick<Ladder, 'floor' | 'ceiling'>,
  increment: Micros,
): Micros => bidOf({ base, steps: [], held: baseFrom === 'held' ? base : null }, ladder, increment);

/**
 * The base of a keyword's bids, and where it comes from: its own CPC by hand or told, else the median of those of its
 * theme, else an estimate that was taken, else the plan's default. What is only estimated moves no bid.
 */
export function baseFor(
  { ladder }: Pick<Layout, 'ladder'>,
  cpc: Micros | null,
  median: Micros | null,
  taken: Micros | null = null,
): [Micros, BaseFrom] {
  if (ladder.baseBy === 'estimate' && cpc !== null) return [cpc, 'estimate'];
  if (ladder.baseBy !== 'default' && median !== null) return [median, 'theme'];
  if (ladder.baseBy === 'estimate' && taken !== null) return [taken, 'taken'];
  return [ladder.defaultBase, 'default'];
}
