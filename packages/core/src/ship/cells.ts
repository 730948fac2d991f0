import { type MatchType, writeNotation } from '../match/index.ts';
import { decimalFromMicros, type Micros } from '../money/index.ts';
import type { AdField, Kept } from '../write/index.ts';
import { type SettingValue, settingValues } from './campaign-settings.ts';
import {
  type CellValue,
  eachKind,
  kindsOf,
  type NetworkName,
  type Outlet,
  type RowKind,
  valuesOfKind,
} from './outlet.ts';
import type { AssetSheetRow, KeywordSheetRow, NegativeSheetRow, SheetRow } from './sheet-rows.ts';

/** `amounts`: as they are written, remembered; a plan has few, each many times. */
export type CellContext = { outlet: Outlet; decimals: number; amounts?: Map<Micros, string> };

/** The text of one cell; empty where the row has no such value. */
export function cellOf(value: CellValue, row: SheetRow, context: CellContext): string {
  const { words } = context.outlet;
  switch (value) {
    case 'row-kind':
      return words.rowKinds[row.kind];
    case 'campaign':
      return row.campaign;
    case 'daily-budget':
      return row.kind === 'campaign' ? moneyCell(row.dailyBudget, context) : '';
    case 'match-setting':
      return row.kind === 'campaign' && row.matchSetting ? words.matchSettings[row.matchSetting] : '';
    case 'group':
      return 'group' in row ? row.group : '';
    case 'keyword':
      return keywordCell(row);
    case 'keyword-notation':
      return row.kind === 'keyword' || row.kind === 'negative' ? rowNotation(row, context.outlet) : '';
    case 'match-type':
      return 'type' in row ? words.matchTypes[row.type] : '';
    case 'bid':
      return 'bid' in row ? moneyCell(row.bid, context) : '';
    case 'bid-search':
    case 'bid-partners':
    case 'bid-display':
      return 'bids' in row
        ? moneyCell(row.bids?.[value.slice('bid-'.length) as NetworkName] ?? null, context)
        : '';
    case 'ad-form':
      return row.kind === 'ad' ? words.adForms[row.form] : '';
    case 'kept':
      return row.kind === 'ad' ? keptCell(row.kept) : '';
    case 'final-url':
      if (row.kind === 'asset') return row.asset.kind === 'sitelink' ? row.asset.address : '';
      return row.kind === 'ad' ? row.finalUrl : '';
    case 'mobile-url':
      return row.kind === 'ad' ? row.mobileUrl : '';
    case 'asset-kind':
      return row.kind === 'asset' ? words.assetKinds[row.asset.kind] : '';
    case 'asset-text':
    case 'asset-line1':
    case 'asset-line2':
    case 'asset-number':
      return row.kind === 'asset' ? assetCell(row, value) : '';
    case 'labels':
      return 'labels' in row ? row.labels.join(', ') : '';
    case 'status':
      return words[row.status];
    default:
      if (isSetting(value)) return row.kind === 'campaign' ? row.settings[value] : '';
      return row.kind === 'ad' ? (row.texts[value as AdField] ?? '') : '';
  }
}

const SETTINGS: ReadonlySet<string> = new Set(settingValues);
export const isSetting = (value: CellValue): value is SettingValue => SETTINGS.has(value);

function assetCell({ asset }: AssetSheetRow, value: CellValue): string {
  switch (value) {
    case 'asset-text':
      return 'text' in asset ? asset.text : '';
    case 'asset-line1':
      return asset.kind === 'sitelink' ? asset.line1 : '';
    case 'asset-line2':
      return asset.kind === 'sitelink' ? asset.line2 : '';
    default:
      return asset.kind === 'phone' ? asset.number : '';
  }
}

/** `1.25`, `1,25`, or `125` where the outlet counts in the currency's smallest coins. */
function moneyCell(amount: Micros | null, context: CellContext): string {
  if (amount === null) return '';
  const known = context.amounts?.get(amount);
  if (known !== undefined) return known;
  const { outlet, decimals } = context;
  const { mark, unit } = outlet.money;
  const text =
    unit === 'minor'
      ? decimalFromMicros((amount * 10 ** decimals) as Micros, 0)
      : decimalFromMicros(amount, decimals);
  const cell = mark === '.' ? text : text.replace('.', mark);
  if ((context.amounts?.size ?? MOST_AMOUNTS) < MOST_AMOUNTS) context.amounts?.set(amount, cell);
  return cell;
}

const MOST_AMOUNTS = 10_000;

/** `headline1: 1; description2: 1` */
const keptCell = (kept: Kept): string =>
  Object.entries(kept)
    .map(([field, place]) => `${field}: ${place}`)
    .join('; ');

/** Modified broad carries its marks in the text, since no other column can. */
function keywordCell(row: SheetRow): string {
  if (row.kind !== 'keyword' && row.kind !== 'negative') return '';
  if (row.type !== 'modified') return row.text;
  return writeNotation(row.text, 'modified', row.kind === 'keyword' ? row.marks : []);
}

/** A keyword as the outlet writes its match type into its text. */
export function inOutletNotation(
  { text, type, marks = [] }: { text: string; type: MatchType; marks?: readonly number[] },
  outlet: Outlet,
): string {
  const marked = type === 'modified' ? writeNotation(text, 'modified', marks) : text;
  return outlet.words.notation[type].replace('@', () => marked);
}

/** A keyword or a negative as it stands in a column of both. */
export function rowNotation(row: KeywordSheetRow | NegativeSheetRow, outlet: Outlet): string {
  const notation = inOutletNotation(row, outlet);
  return row.kind === 'keyword' ? notation : outlet.words.negative.replace('@', () => notation);
}

/**
 * What is one row to an outlet, whatever the plan calls it: two rows of the same key are the same keyword, ad or campaign
 * there. Fields are kept apart by a character that no text holds.
 */
export function keyOf(row: SheetRow): string {
  switch (row.kind) {
    case 'campaign':
      return join('campaign', row.campaign);
    case 'group':
      return join('group', row.campaign, row.group);
    case 'keyword':
    case 'negative': {
      const key = `${placeOf(row)}${KEY_GAP}${row.type}${KEY_GAP}`;
      return key + withoutControls(row.text);
    }
    case 'ad':
      return join(
        'ad',
        row.campaign,
        row.group,
        row.form,
        row.finalUrl,
        ...Object.entries(row.texts)
          .filter(([, text]) => text !== '')
          .sort(([a], [b]) => (a < b ? -1 : 1))
          .map(([field, text]) => `${field}=${text}`),
      );
    case 'asset':
      return join('asset', row.campaign, row.group, ...Object.values(row.asset));
  }
}

let lastPlace: { kind: string; campaign: string; group: string; key: string } | null = null;

/** The beginning of a row's key. Rows of one place come one after another, so the last one is remembered. */
function placeOf({ kind, campaign, group }: KeywordSheetRow | NegativeSheetRow): string {
  if (lastPlace?.kind === kind && lastPlace.group === group && lastPlace.campaign === campaign)
    return lastPlace.key;
  lastPlace = { kind, campaign, group, key: join(kind, campaign, group) };
  return lastPlace.key;
}

/** Between two fields of a key. */
export const KEY_GAP = '\u001f';
const join = (...fields: string[]): string => {
  const key = fields.join(KEY_GAP);
  return PLAIN_KEY.test(key) ? key : fields.map(withoutControls).join(KEY_GAP);
};

/** Control characters but for tabs and line ends are spaces: no sheet carries them. Most texts have none: told by one scan. */
const PLAIN = /^[ -~]*$/;
const PLAIN_KEY = new RegExp(`^[ -~${KEY_GAP}]*$`);
const CONTROLS = /(?![\t\n\r])\p{Cc}/u;
const ALL_CONTROLS = new RegExp(CONTROLS, 'gu');
const withoutControls = (text: string): string =>
  PLAIN.test(text) || !CONTROLS.test(text) ? text : text.replace(ALL_CONTROLS, ' ');

/** A row as an outlet gets it: a text for each of the values that its sheets tell of such rows, and all of them joined. */
export type CellRow = { kind: RowKind; readonly key: string; cells: string[]; joined: string };

/** Its key is made when it is asked for: most rows are the same as before, which is known without it. */
class MadeRow implements CellRow {
  readonly kind: RowKind;
  private made: string | null = null;

  constructor(
    private readonly row: SheetRow,
    public cells: string[],
    public joined: string,
  ) {
    this.kind = row.kind;
  }

  get key(): string {
    this.made ??= keyOf(this.row);
    return this.made;
  }
}

/** Twice as fast as `join`, which matters with a million rows. */
export function joinCells(cells: readonly string[]): string {
  let joined = cells[0] ?? '';
  for (let at = 1; at < cells.length; at++) joined += KEY_GAP + cells[at];
  return joined;
}
export const splitCells = (cells: string): string[] => cells.split(KEY_GAP);

/** The values that an outlet's sheets tell of each kind of row, each once. */
export type ToldValues = Record<RowKind, readonly CellValue[]>;

export const toldValues = (outlet: Pick<Outlet, 'sheets'>): ToldValues =>
  eachKind((kind) => [
    ...new Set(
      outlet.sheets
        .filter((sheet) => kindsOf(sheet).includes(kind))
        .flatMap(({ columns }) => columns.map(({ value }) => value))
        .filter((value) => valuesOfKind[kind].includes(value)),
    ),
  ]);

/** Makes rows into the texts of their cells, once for all sheets, in the order of `values`. */
export class CellMaker {
  readonly values: ToldValues;

  private readonly context: CellContext;

  constructor(context: CellContext) {
    this.context = { ...context, amounts: new Map() };
    this.values = toldValues(context.outlet);
  }

  of(row: SheetRow): CellRow {
    const values = this.values[row.kind];
    const cells: string[] = [];
    for (const value of values) cells.push(cellOf(value, row, this.context));
    const joined = joinCells(cells);
    if (PLAIN_KEY.test(joined)) return new MadeRow(row, cells, joined);
    const plain = cells.map(withoutControls);
    return new MadeRow(row, plain, joinCells(plain));
  }

  /** Where a value stands in the cells of a kind of row; -1 where it is not told. */
  placeOf(kind: RowKind, value: CellValue): number {
    return this.values[kind].indexOf(value);
  }
}
