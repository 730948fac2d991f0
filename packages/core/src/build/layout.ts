import { type MatchSet, type MatchType, matchRules, matchTypes } from '../match/index.ts';
import { asMicros, type BasisPoints, type Micros, minorUnit } from '../money/index.ts';
import type { CaseStyle, FunnelStage } from '../text/index.ts';

export const groupingKinds = ['themed', 'single', 'top'] as const;
/**
 * How a branch of themes is laid out: an ad group per theme, one per keyword, or one per keyword for those at the top
 * and themed for the rest. At the top is what meets every condition that is set; `first` counts within its theme.
 */
export type Grouping = {
  kind: (typeof groupingKinds)[number];
  searchesFrom: number | null;
  first: number | null;
  cpcFrom: Micros | null;
};

/**
 * What a theme and those below it have of their own; the nearest one counts, and steps multiply. `types`: what its keywords
 * are built in; none: as the lanes say.
 */
export type BranchRule = {
  theme: number;
  grouping: Grouping | null;
  step: BasisPoints;
  types?: MatchSet | undefined;
};

/** Which keywords take part in a lane: those that meet every condition that is set. */
export type LaneTakes = { searchesFrom: number | null; sources: number[]; stages: FunnelStage[] };

/** Match types that go together, with a bid step. Its name is put behind a group's or a campaign's. */
export type Lane = { id: number; name: string; types: MatchSet; step: BasisPoints; takes: LaneTakes };

export const laneSpreads = ['together', 'by-group', 'by-campaign'] as const;
export type LaneSpread = (typeof laneSpreads)[number];

export const markings = ['every', 'content', 'listed'] as const;
/** Which words of a modified broad keyword are marked where it was not asked for with marks of its own. */
export type Marks = { which: (typeof markings)[number]; words: string[] };

export const campaignBys = ['one', 'theme', 'place', 'source', 'stage'] as const;
export type CampaignBy = (typeof campaignBys)[number];

export const fenceKinds = ['off', 'exact', 'tight'] as const;
export type FenceKind = (typeof fenceKinds)[number];

export const baseSources = ['estimate', 'theme', 'default'] as const;

/** Bid = base × steps, then held between floor and ceiling. */
export type Ladder = {
  /** Where bases come from: the keyword's estimate, its theme's median, or one for all; each falls back to the next. */
  baseBy: (typeof baseSources)[number];
  /** The bid where there is no CPC estimate. */
  defaultBase: Micros;
  steps: Record<MatchType, BasisPoints>;
  stages: Record<FunnelStage | 'none', BasisPoints>;
  floor: Micros;
  ceiling: Micros;
};

/** Bids that start above the ladder to gather results early, until the day on which they are to come down. */
export type StartHigh = { on: boolean; narrow: BasisPoints; wide: BasisPoints; until: string | null };

/**
 * The layout as it holds on a day, `2027-03-31`: bids that start high come down on the day that they are to, by
 * themselves.
 */
export const layoutOn = <L extends { startHigh: StartHigh }>(layout: L, day: string): L => {
  const { startHigh } = layout;
  const isOver = startHigh.on && startHigh.until !== null && day >= startHigh.until;
  return isOver ? { ...layout, startHigh: { ...startHigh, on: false } } : layout;
};

export type NameRule = { pattern: string; style: CaseStyle };

/** The rules by which Build makes campaigns, ad groups and keyword rows of the sorted pool. */
export type Layout = {
  campaignBy: CampaignBy;
  /** The pattern of campaign names. */
  campaignName: string;
  /** Of each campaign. */
  dailyBudget: Micros;
  grouping: Grouping;
  branches: BranchRule[];
  /** What becomes of keywords that no theme has. */
  unplaced: 'single' | 'together' | 'out';
  /** The names of single-keyword ad groups, and of themed ones. */
  groupName: NameRule;
  themeName: NameRule;
  /** More keywords than this split a theme into numbered ad groups; null: as many as the outlet takes. */
  keywordsPerGroup: number | null;
  /** True: a keyword that was asked for in match types gets those; the lanes' types are for the others. */
  asAsked: boolean;
  spread: LaneSpread;
  lanes: Lane[];
  marks: Marks;
  fences: FenceKind;
  ladder: Ladder;
  startHigh: StartHigh;
};

/** What bids are multiplied by for each match type. */
const usualSteps = () =>
  Object.fromEntries(matchTypes.map((type) => [type, matchRules[type].usualStep])) as Ladder['steps'];

/** Theirs is every keyword. */
export const takesAll = (): LaneTakes => ({ searchesFrom: null, sources: [], stages: [] });

export const themed = (): Grouping => ({ kind: 'themed', searchesFrom: null, first: null, cpcFrom: null });

/** Themes as ad groups, phrase and exact at a base of 40 minor units: a start that spends little anywhere. */
export function defaultLayout(planName: string, currency: string): Layout {
  const unit = minorUnit(currency);
  return {
    campaignBy: 'one',
    campaignName: planName,
    dailyBudget: asMicros(unit * 2_000),
    grouping: themed(),
    branches: [],
    unplaced: 'single',
    groupName: { pattern: '@keyword', style: 'as-is' },
    themeName: { pattern: '@theme', style: 'as-is' },
    keywordsPerGroup: 20,
    asAsked: true,
    spread: 'together',
    lanes: [{ id: 1, name: 'All', types: 4 | 8, step: 10_000, takes: takesAll() }],
    marks: { which: 'every', words: [] },
    fences: 'off',
    ladder: {
      baseBy: 'estimate',
      defaultBase: asMicros(unit * 40),
      steps: usualSteps(),
      stages: { early: 6_000, comparing: 8_500, ready: 11_500, none: 10_000 },
      floor: asMicros(unit * 5),
      ceiling: asMicros(unit * 500),
    },
    startHigh: { on: false, narrow: 15_000, wide: 12_000, until: null },
  };
}
