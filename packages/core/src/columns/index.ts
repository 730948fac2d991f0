import { adForm } from './ad-form.ts';
import { adTexts } from './ad-texts.ts';
import { bid, bidDisplay, bidPartners, bidSearch } from './bids.ts';
import { campaign } from './campaign.ts';
import type { ColumnMerge, ColumnType } from './column.ts';
import { dailyBudget } from './daily-budget.ts';
import { extraKind, extraLine, extraLine1, extraLine2, extraNumber } from './extras.ts';
import { finalUrl } from './final-url.ts';
import { fixed } from './fixed.ts';
import { group } from './group.ts';
import { kept } from './kept.ts';
import { keyword } from './keyword.ts';
import { keywordNotation } from './keyword-notation.ts';
import { labels } from './labels.ts';
import { matchSetting } from './match-setting.ts';
import { matchType } from './match-type.ts';
import { mobileUrl } from './mobile-url.ts';
import { rowKind } from './row-kind.ts';
import { eachKind, type RowKind } from './rows.ts';
import { settings } from './settings.ts';
import { status } from './status.ts';

export {
  ADULTS,
  type CampaignFacts,
  type CampaignSettings,
  campaignSettings,
  clock,
  DAYS,
  type Day,
  DELIVERY,
  dayWords,
  GOALS,
  PRESENCE,
  ROTATION,
  type SettingValue,
  type SiteFacts,
  STRATEGY,
  settingValues,
  siteFacts,
} from './campaign-settings.ts';
export {
  type CellRules,
  type ColumnLoss,
  type ColumnType,
  type LossRule,
  lossRules,
  type MatchForm,
  matchForms,
  type OutletWords,
  type ReadCell,
  type SheetProblemCode,
  sheetProblems,
} from './column.ts';
export { NEGATIVE_TYPE } from './match-type.ts';
export { moneyWriter, readMoney } from './money.ts';
export { inOutletNotation, isNegativeNotation, rowNotation, usualType } from './notation.ts';
export {
  type AdSheetRow,
  type CampaignSheetRow,
  type ExtraSheetRow,
  eachKind,
  type GroupSheetRow,
  type KeywordSheetRow,
  type MatchSetting,
  type NegativeSheetRow,
  type NetworkBids,
  type NetworkName,
  networkNames,
  type RowKind,
  type RowStatus,
  rowKinds,
  type SheetRow,
  titleOf,
} from './rows.ts';
export { unitsOf } from './units-of.ts';

/** All that a column of sheets can hold, in the order in which one would put it. What is read first stands first. */
export const columnTypes = [
  rowKind,
  campaign,
  group,
  dailyBudget,
  matchSetting,
  keyword,
  keywordNotation,
  matchType,
  bid,
  bidSearch,
  bidPartners,
  bidDisplay,
  adForm,
  ...adTexts,
  kept,
  extraKind,
  extraLine,
  extraLine1,
  extraLine2,
  finalUrl,
  extraNumber,
  mobileUrl,
  labels,
  status,
  ...settings,
  fixed,
] as const;

/** The code of what a column holds. */
export type CellValue = (typeof columnTypes)[number]['value'];
export const cellValues: readonly CellValue[] = columnTypes.map(({ value }) => value);

/** The code of today for one that is kept from before sitelinks, callouts and phone numbers were called extras. */
export const presentCode = (code: string): string => code.replace(/^asset(?=$|-)/, 'extra');

const byValue = new Map<string, ColumnType<CellValue>>(columnTypes.map((type) => [type.value, type]));
export const columnOf = (value: CellValue): ColumnType<CellValue> => {
  const found = byValue.get(value);
  if (!found) throw new Error(`No column holds ${value}.`);
  return found;
};

/** The columns that rows of each kind can have, in their order. */
export const columnsOfKind: Record<RowKind, readonly ColumnType<CellValue>[]> = eachKind((kind) =>
  columnTypes.filter(({ kinds }) => kinds.includes(kind)),
);
export const valuesOfKind: Record<RowKind, readonly CellValue[]> = eachKind((kind) =>
  columnsOfKind[kind].map(({ value }) => value),
);

const mergedAs = (...merges: ColumnMerge[]): ReadonlySet<CellValue> =>
  new Set(columnTypes.flatMap(({ value, merge }) => (merges.includes(merge) ? [value] : [])));
/** These say where a row stands. */
export const placeValues = mergedAs('place');
/** By these a row is found, so they can't differ. */
export const namingValues = mergedAs('place', 'name');
/** An empty cell of these says nothing. */
export const silentValues = mergedAs('silent');
