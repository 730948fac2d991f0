import type { CampaignBy, FenceKind, Grouping, LaneSpread, Layout } from '@sprig/core/build';
import type { CaseStyle, FunnelStage } from '@sprig/core/text';

export const caseChoices: { value: CaseStyle; words: string }[] = [
  { value: 'as-is', words: 'as typed' },
  { value: 'lower', words: 'lower case' },
  { value: 'sentence', words: 'Sentence case' },
  { value: 'title', words: 'Title Case' },
];

export const campaignChoices: { value: CampaignBy; words: string }[] = [
  { value: 'one', words: 'One campaign for all of it' },
  { value: 'theme', words: 'A campaign per top theme' },
  { value: 'place', words: 'A campaign per place' },
  { value: 'source', words: 'A campaign per source' },
  { value: 'stage', words: 'A campaign per funnel stage' },
];

export const groupingChoices: { value: Grouping['kind']; words: string }[] = [
  { value: 'themed', words: 'one ad group per theme' },
  { value: 'single', words: 'one ad group per keyword' },
  { value: 'top', words: 'one ad group per top keyword, and one per theme for the rest' },
];

export const unplacedChoices: { value: Layout['unplaced']; words: string }[] = [
  { value: 'single', words: 'become an ad group each' },
  { value: 'together', words: 'stand together as “Unplaced”' },
  { value: 'out', words: 'stay out' },
];

export const spreadChoices: { value: LaneSpread; words: string }[] = [
  { value: 'together', words: 'together in the ad group' },
  { value: 'by-group', words: 'apart, an ad group for each lane' },
  { value: 'by-campaign', words: 'apart, a campaign for each lane' },
];

export const fenceChoices: { value: FenceKind; words: string }[] = [
  { value: 'off', words: 'no fences' },
  { value: 'exact', words: 'exact fences' },
  { value: 'tight', words: 'tight fences' },
];

export const stageWords: Record<FunnelStage | 'none', string> = {
  early: 'early',
  comparing: 'comparing',
  ready: 'ready',
  none: 'not told',
};
