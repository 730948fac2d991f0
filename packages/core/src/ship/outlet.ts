import type { MatchType } from '../match/index.ts';
import type { Micros } from '../money/index.ts';
import { type AdLimits, adFields } from '../write/index.ts';
import { settingValues } from './campaign-settings.ts';

export const sheetKinds = ['campaigns', 'groups', 'keywords', 'negatives', 'ads', 'combined'] as const;
export type SheetKind = (typeof sheetKinds)[number];

/** What a column can hold. */
export const cellValues = [
  'row-kind',
  'campaign',
  'daily-budget',
  'group',
  'keyword',
  'match-type',
  'bid',
  ...adFields,
  'final-url',
  'status',
  ...settingValues,
] as const;
export type CellValue = (typeof cellValues)[number];

export type SheetColumn = { heading: string; value: CellValue };

/** A sheet of an outlet: which rows it lists and what stands in each column. */
export type SheetProfile = { kind: SheetKind; fileName: string; columns: SheetColumn[] };

export type SheetFormat = 'csv' | 'tsv';

/** A destination's rules, as data. */
export type Outlet = {
  key: string;
  name: string;
  limits: {
    campaignName: number;
    groupName: number;
    keywordLength: number;
    keywordWords: number;
    groupsPerCampaign: number;
    rowsPerCampaign: number;
    finalUrl: number;
  };
  ad: AdLimits;
  /** Bids are multiples of this; null: the currency's smallest amount. */
  bidIncrement: Micros | null;
  words: {
    matchTypes: Record<MatchType, string>;
    enabled: string;
    rowKinds: { campaign: string; group: string; keyword: string; negative: string; ad: string };
  };
  sheets: SheetProfile[];
  file: { formats: SheetFormat[]; lineEnding: '\r\n' | '\n'; byteOrderMark: boolean };
};
