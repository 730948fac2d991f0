import type { MatchSet, MatchType } from '../match/index.ts';
import { asMicros, type BasisPoints, type Micros, minorUnit } from '../money/index.ts';
import type { CaseStyle } from '../text/index.ts';

/** Bid = base × match step, then held between floor and ceiling. */
export type Ladder = {
  /** The bid where a keyword has no CPC estimate. */
  defaultBase: Micros;
  steps: Record<MatchType, BasisPoints>;
  floor: Micros;
  ceiling: Micros;
};

/** How Build makes single-keyword ad groups of the pool. */
export type Layout = {
  campaignName: string;
  dailyBudget: Micros;
  groupName: { pattern: string; style: CaseStyle };
  /** True: a keyword that was asked for in match types gets those; `types` is for the others. */
  asAsked: boolean;
  types: MatchSet;
  ladder: Ladder;
};

/** Phrase and exact at a base of 40 minor units: a start that spends little anywhere. */
export function defaultLayout(planName: string, currency: string): Layout {
  const unit = minorUnit(currency);
  return {
    campaignName: planName,
    dailyBudget: asMicros(unit * 2_000),
    groupName: { pattern: '@keyword', style: 'as-is' },
    asAsked: true,
    types: 4 | 8,
    ladder: {
      defaultBase: asMicros(unit * 40),
      steps: { broad: 7_000, modified: 8_500, phrase: 10_000, exact: 12_500 },
      floor: asMicros(unit * 5),
      ceiling: asMicros(unit * 500),
    },
  };
}

/** The match types a keyword is built in. */
export const typesFor = (layout: Pick<Layout, 'asAsked' | 'types'>, asked: MatchSet): MatchSet =>
  layout.asAsked && asked !== 0 ? asked : layout.types;
