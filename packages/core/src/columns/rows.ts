import type { Status } from '../build/index.ts';
import type { MatchType } from '../match/index.ts';
import type { Micros } from '../money/index.ts';
import type { AdField, AdForm, ExtraBody, Kept } from '../write/index.ts';
import type { CampaignSettings } from './campaign-settings.ts';

/** What a line of a sheet can be about; sheets that list one kind only are named after it. */
export const rowKinds = ['campaign', 'group', 'keyword', 'negative', 'ad', 'extra'] as const;
export type RowKind = (typeof rowKinds)[number];

/** Something for each kind of row. */
export const eachKind = <T>(of: (kind: RowKind) => T): Record<RowKind, T> =>
  Object.fromEntries(rowKinds.map((kind) => [kind, of(kind)])) as Record<RowKind, T>;

export const networkNames = ['search', 'partners', 'display'] as const;
export type NetworkName = (typeof networkNames)[number];

/** Removed: the plan has it no more, and the outlet is told so. */
export type RowStatus = Status | 'removed';
export type MatchSetting = 'close' | 'wide';
export type NetworkBids = Partial<Record<NetworkName, Micros>>;

export type CampaignSheetRow = {
  kind: 'campaign';
  campaign: string;
  dailyBudget: Micros | null;
  /** Where the outlet matches by campaign. */
  matchSetting: MatchSetting | null;
  settings: CampaignSettings;
  labels: readonly string[];
  status: RowStatus;
};

type Bids = {
  /** null: it has none of its own there. */
  bid: Micros | null;
  /** Where the outlet takes a bid for each network. */
  bids: NetworkBids | null;
};

export type GroupSheetRow = Bids & {
  kind: 'group';
  campaign: string;
  group: string;
  /** Where the outlet matches by campaign, and lets an ad group match otherwise. */
  matchSetting: MatchSetting | null;
  /** Empty: as its campaign's. */
  rotation: string;
  labels: readonly string[];
  status: RowStatus;
};

export type KeywordSheetRow = Bids & {
  kind: 'keyword';
  campaign: string;
  group: string;
  text: string;
  type: MatchType;
  marks: readonly number[];
  /** Empty: it leads where its ads do. */
  finalUrl: string;
  labels: readonly string[];
  status: RowStatus;
};

/** Of a campaign where it names no group. */
export type NegativeSheetRow = {
  kind: 'negative';
  campaign: string;
  group: string;
  text: string;
  type: MatchType;
  status: RowStatus;
};

export type AdSheetRow = {
  kind: 'ad';
  campaign: string;
  group: string;
  form: AdForm;
  /** In the outlet's notation; a field that the ad has not is missing. */
  texts: Partial<Record<AdField, string>>;
  kept: Kept;
  /** Fields of the plan's ad that the outlet's form has no room for. */
  leftOut?: number;
  finalUrl: string;
  mobileUrl: string;
  labels: readonly string[];
  status: RowStatus;
};

/** Of every campaign where it names none, of a campaign where it names no group. */
export type ExtraSheetRow = {
  kind: 'extra';
  campaign: string;
  group: string;
  extra: ExtraBody;
  status: RowStatus;
};

/** One line of a sheet before it is written; campaign and group by the names the outlet gets. */
export type SheetRow =
  | CampaignSheetRow
  | GroupSheetRow
  | KeywordSheetRow
  | NegativeSheetRow
  | AdSheetRow
  | ExtraSheetRow;

/** The rows of some kinds. */
export type RowOf<K extends RowKind> = Extract<SheetRow, { kind: K }>;

/** What a row is called among others of its kind. */
export function titleOf(row: SheetRow): string {
  switch (row.kind) {
    case 'campaign':
      return row.campaign;
    case 'group':
      return row.group;
    case 'ad':
      return row.texts.headline1 ?? '';
    case 'extra':
      return 'text' in row.extra ? row.extra.text : row.extra.number;
    default:
      return row.text;
  }
}
