import type { MatchSet } from '../match/index.ts';
import type { BasisPoints, Micros } from '../money/index.ts';
import type { Theme } from '../sort/index.ts';
import type { Casing, FunnelStage, LanguagePack } from '../text/index.ts';
import type { BaseFrom } from './bid.ts';
import type { BuildKeyword } from './build-keyword.ts';
import type { Covered, Hold, Holds, Status } from './hold.ts';
import type { Lane, Layout } from './layout.ts';
import type { CampaignSeed } from './units.ts';

/** The part that a keyword stood in before, of the unit it belongs to (`t5`, `t5f3`); 0: none. */
export type PartsBefore = (unit: string, keywordId: number) => number;

/** Of a plan that was never built. */
export const noPartsBefore: PartsBefore = () => 0;

export type FrameInput = {
  /** By id. */
  keywords: readonly BuildKeyword[];
  layout: Layout;
  holds: readonly Hold[];
  pack: LanguagePack;
  casing: Casing;
  themes: readonly Theme[];
  /** The plan's places in their order, and the names of its sources. */
  places: readonly string[];
  sources: ReadonlyMap<number, string>;
  partBefore: PartsBefore;
  /** The most keyword rows that an ad group may hold. */
  rowsPerGroup: number;
  copies: readonly Copied[];
};

/**
 * A campaign or an ad group that is made once more, with or without its ads. It follows what it was copied from; an ad group
 * that has keywords of its own has these, and stays in its campaign when the first is made no more.
 */
export type Copied = {
  id: number;
  of: string;
  name: string;
  ads: boolean;
  own?: OwnKeywords | null | undefined;
};
/** Keywords by their ids, and the campaign by its key. */
export type OwnKeywords = { keywords: readonly number[]; campaign: string };

export type CampaignFrame = {
  key: string;
  position: number;
  name: string;
  dailyBudget: Micros;
  status: Status;
  labels: string[];
  /** The named set of settings that it has in the place of the brief's. */
  settings: number | null;
  lane: Lane | null;
  place: string | null;
  covered: Covered | null;
};

export type GroupFrame = {
  key: string;
  /** The place of its campaign in the frame. */
  campaign: number;
  kind: 'single' | 'theme';
  /** 0: of the unplaced. */
  theme: number;
  /** What it is ordered by within its campaign: a number that never changes. */
  position: number;
  part: number;
  parts: number;
  /** Null where all match types stand together. */
  lane: Lane | null;
  /** Places in the frame's keywords. */
  members: readonly number[];
  lead: number;
  name: string;
  base: Micros;
  baseFrom: BaseFrom;
  /** Its own bid step, held by hand. */
  step: BasisPoints;
  /** With those of its branches. */
  steps: readonly BasisPoints[];
  status: Status;
  labels: string[];
  place: string | null;
  stage: FunnelStage | null;
  ads: boolean;
  /** What is before its keys where it is a copy. */
  prefix: string;
  covered: Covered | null;
};

/** Who belongs where, before any row is made. */
export type Frame = {
  input: FrameInput;
  campaigns: CampaignFrame[];
  /** What each campaign is made by. */
  seeds: readonly CampaignSeed[];
  groups: GroupFrame[];
  holds: Holds;
  /** The match types of a keyword by lane, in the lanes' order. */
  typesOf: (keyword: number) => readonly MatchSet[];
  /** The median estimate of a theme; null where none of its keywords has one. */
  medianOf: (theme: number) => Micros | null;
  /** Whether a key is that of a campaign, an ad group, a row or an ad that is made. */
  makes: (key: string) => boolean;
};
