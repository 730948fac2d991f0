import type { HandPlaced, SortSettings, ThemeRow } from '@sprig/contracts';
import type { OtherWord, TermForm } from '@sprig/core/sort';
import { type FunnelStage, funnelStages } from '@sprig/core/text';

/** What keywords are placed by. */
export type SortInput = {
  language: string;
  functionWords: string[] | null;
  /** Each place's name and then its other names. */
  places: readonly (readonly string[])[];
  themes: ThemeRow[];
  placed: HandPlaced[];
  settings: SortSettings;
  seen: number;
};

/** Everything that is in; the unplaced; or what a theme has, with its sub-themes or without. */
export type Scope = { kind: 'all' } | { kind: 'unplaced' } | { kind: 'theme'; theme: number; own: boolean };

export type Share = { keywords: number; searches: number };

/** Searches by stage, the last for those of which none is known. */
export type ByStage = Record<FunnelStage | 'none', Share>;

export type ThemeSum = {
  id: number;
  /** Of its own, without its sub-themes. */
  own: Share;
  /** With them. */
  all: Share;
  held: number;
  tightness: number;
  stages: ByStage;
};

export type SortSummary = {
  all: Share;
  unplaced: Share;
  themes: ThemeSum[];
  stages: ByStage;
  /** Keywords that came since the last look. */
  fresh: { keywords: number; placed: number; newest: number };
};

export type SiftAnswer = Share & {
  others: OtherWord[];
  forms: TermForm[];
  /** How many of the matches each theme has of its own; the unplaced under 0. */
  byTheme: [theme: number, keywords: number][];
  ids: Uint32Array;
};

export type ProposalSummary = {
  themes: number;
  groups: number;
  placed: Share;
  all: Share;
  tightness: number;
  /** The branches at the top, the most searched first. */
  branches: { at: number; name: string; themes: number; keywords: number; searches: number }[];
};

export const noShare = (): Share => ({ keywords: 0, searches: 0 });

export const noStages = (): ByStage => ({
  early: noShare(),
  comparing: noShare(),
  ready: noShare(),
  none: noShare(),
});

export const stageNames = [...funnelStages, 'none'] as const;

export function add(share: Share, searches: number): void {
  share.keywords++;
  share.searches += searches;
}
