import { type MatchType, writeNotation } from '../match/index.ts';
import { decimalFromMicros, type Micros } from '../money/index.ts';
import type { AdField } from '../write/index.ts';
import { type CampaignSettings, type SettingValue, settingValues } from './campaign-settings.ts';
import type { CellValue, Outlet } from './outlet.ts';

/** One line of a sheet before it is written; campaign and group by the names the outlet gets. */
export type SheetRow =
  | { kind: 'campaign'; campaign: string; dailyBudget: Micros; settings: CampaignSettings }
  | { kind: 'group'; campaign: string; group: string; bid: Micros }
  | {
      kind: 'keyword';
      campaign: string;
      group: string;
      text: string;
      type: MatchType;
      marks: readonly number[];
      bid: Micros;
    }
  | { kind: 'negative'; campaign: string; text: string; type: MatchType }
  | { kind: 'ad'; campaign: string; group: string; texts: Record<AdField, string>; finalUrl: string };

export type CellContext = { outlet: Outlet; decimals: number };

/** The text of one cell; empty where the row has no such value. */
export function cellOf(value: CellValue, row: SheetRow, { outlet, decimals }: CellContext): string {
  switch (value) {
    case 'row-kind':
      return outlet.words.rowKinds[row.kind];
    case 'campaign':
      return row.campaign;
    case 'daily-budget':
      return row.kind === 'campaign' ? decimalFromMicros(row.dailyBudget, decimals) : '';
    case 'group':
      return 'group' in row ? row.group : '';
    case 'keyword':
      return keywordCell(row);
    case 'match-type':
      return 'type' in row ? outlet.words.matchTypes[row.type] : '';
    case 'bid':
      return 'bid' in row ? decimalFromMicros(row.bid, decimals) : '';
    case 'final-url':
      return row.kind === 'ad' ? row.finalUrl : '';
    case 'status':
      return row.kind === 'negative' ? '' : outlet.words.enabled;
    default:
      if (isSetting(value)) return row.kind === 'campaign' ? row.settings[value] : '';
      return row.kind === 'ad' ? row.texts[value] : '';
  }
}

const SETTINGS: ReadonlySet<string> = new Set(settingValues);
const isSetting = (value: CellValue): value is SettingValue => SETTINGS.has(value);

/** Modified broad carries its marks in the text, since no other column can. */
function keywordCell(row: SheetRow): string {
  if (row.kind !== 'keyword' && row.kind !== 'negative') return '';
  if (row.type !== 'modified') return row.text;
  return writeNotation(row.text, 'modified', row.kind === 'keyword' ? row.marks : []);
}
