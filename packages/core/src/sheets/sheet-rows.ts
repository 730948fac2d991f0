import type { Status } from '../build/index.ts';
import type { MatchType } from '../match/index.ts';
import type { Micros } from '../money/index.ts';
import type { CampaignSettings, NetworkName } from '../outlets/index.ts';
import type { AdField, AdForm, AssetBody, Kept } from '../write/index.ts';

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
export type AssetSheetRow = {
  kind: 'asset';
  campaign: string;
  group: string;
  asset: AssetBody;
  status: RowStatus;
};

/** One line of a sheet before it is written; campaign and group by the names the outlet gets. */
export type SheetRow =
  | CampaignSheetRow
  | GroupSheetRow
  | KeywordSheetRow
  | NegativeSheetRow
  | AdSheetRow
  | AssetSheetRow;
