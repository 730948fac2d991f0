import type { MatchSet } from '../match/index.ts';
import type { Micros } from '../money/index.ts';
import type { FunnelStage } from '../text/index.ts';

/** A pool keyword as Build needs it: only those that are in, by id. */
export type BuildKeyword = {
  id: number;
  /** As given, without notation. */
  text: string;
  norm: string;
  asked: MatchSet;
  marks: readonly number[];
  cpc: Micros | null;
  searches: number | null;
  /** An estimate of the CPC that was taken, for want of a told one. */
  takenCpc: Micros | null;
  /** The theme that it is placed in; 0: unplaced. */
  theme: number;
  stage: FunnelStage | null;
  /** The place named in it, by the place's own name. */
  place: string | null;
  /** The sources that brought it, the first one first. */
  sources: readonly number[];
};
