import type { MatchType } from '../match/index.ts';
import type { Micros } from '../money/index.ts';
import {
  type AdForm,
  type AssetKind,
  type AssetLimits,
  adFields,
  type FormLimits,
  type Insertion,
} from '../write/index.ts';
import { settingValues } from './campaign-settings.ts';

/** What a line of a sheet can be about; sheets that list one kind only are named after it. */
export const rowKinds = ['campaign', 'group', 'keyword', 'negative', 'ad', 'asset'] as const;
export type RowKind = (typeof rowKinds)[number];

/** Something for each kind of row. */
export const eachKind = <T>(of: (kind: RowKind) => T): Record<RowKind, T> =>
  Object.fromEntries(rowKinds.map((kind) => [kind, of(kind)])) as Record<RowKind, T>;

export const sheetKinds = [
  'campaigns',
  'groups',
  'keywords',
  'negatives',
  'ads',
  'assets',
  'combined',
] as const;
export type SheetKind = (typeof sheetKinds)[number];

export const networkNames = ['search', 'partners', 'display'] as const;
export type NetworkName = (typeof networkNames)[number];

/** What a column can hold. */
export const cellValues = [
  'row-kind',
  'campaign',
  'daily-budget',
  'match-setting',
  'group',
  'keyword',
  'keyword-notation',
  'match-type',
  'bid',
  'bid-search',
  'bid-partners',
  'bid-display',
  'ad-form',
  ...adFields,
  'kept',
  'final-url',
  'mobile-url',
  'asset-kind',
  'asset-text',
  'asset-line1',
  'asset-line2',
  'asset-number',
  'labels',
  'status',
  ...settingValues,
] as const;
export type CellValue = (typeof cellValues)[number];

export type SheetColumn = { heading: string; value: CellValue };

/** A sheet of an outlet: which rows it lists and what stands in each column. */
export type SheetProfile = { kind: SheetKind; fileName: string; columns: SheetColumn[] };

export const sheetFormats = ['csv', 'tsv', 'xlsx'] as const;
export type SheetFormat = (typeof sheetFormats)[number];

export const sheetEncodings = ['utf-8', 'utf-16le', 'windows-1252'] as const;
export type SheetEncoding = (typeof sheetEncodings)[number];

/** What an outlet's ads may be; a form that it does not know is null, and so is insertion at search time. */
export type AdRules = Record<AdForm, FormLimits | null> & {
  insertion: Insertion | null;
  assets: AssetLimits;
};

/** How a keyword's match type is told: in a column of its own, in its text, or by one setting of its campaign. */
export const matchForms = ['column', 'notation', 'setting'] as const;
export type MatchForm = (typeof matchForms)[number];

export const rowOrders = ['group', 'keyword', 'match-type'] as const;
export type RowOrder = (typeof rowOrders)[number];

/** What must be in place at the outlet before a sheet is taken, or before anything is shown. */
export type Prerequisite = { key: string; words: string; before: 'sheets' | 'live' };

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
    rowsPerGroup: number;
    negativesPerGroup: number;
    finalUrl: number;
  };
  ad: AdRules;
  match: MatchForm;
  /** The match types that it knows, of keywords and of negatives. */
  matchTypes: MatchType[];
  negativeTypes: MatchType[];
  bids: { on: 'keyword' | 'group'; perNetwork: boolean; least: Micros | null };
  /** Bids are multiples of this; null: the currency's smallest amount. */
  bidIncrement: Micros | null;
  budget: { least: Micros | null; changesPerDay: number | null };
  /** Sites for adults only: whether it takes them, and on which networks they may be shown. */
  adultSites: { taken: boolean; networks: NetworkName[] };
  words: {
    matchTypes: Record<MatchType, string>;
    /** How a keyword of each type is written where its text tells it: `@` stands for the keyword. */
    notation: Record<MatchType, string>;
    /** How a negative is written in a column of keywords and negatives: `@` stands for its notation. */
    negative: string;
    matchSettings: { close: string; wide: string };
    enabled: string;
    paused: string;
    removed: string;
    adForms: Record<AdForm, string>;
    assetKinds: Record<AssetKind, string>;
    rowKinds: Record<RowKind, string>;
  };
  /** What becomes of rows that the plan has no more: they are paused there, or removed. */
  gone: 'paused' | 'removed';
  needs: Prerequisite[];
  sheets: SheetProfile[];
  rowOrder: RowOrder;
  money: { mark: '.' | ','; unit: 'major' | 'minor' };
  file: {
    formats: SheetFormat[];
    /** Between the cells of a csv file. */
    delimiter: ',' | ';' | '|';
    encoding: SheetEncoding;
    lineEnding: '\r\n' | '\n';
    byteOrderMark: boolean;
    /** Rows of one file, its heading not among them; what is over goes into further files. */
    rowsPerFile: number | null;
    /** All files of a set in one zip. */
    zipped: boolean;
  };
  /** The heading of the column in which the outlet's answer tells why it refuses a row. */
  answer: { refusal: string };
};

/** A heading, or a word of an outlet, as it is told apart from others: whatever its case and its spaces. */
export const plainHeading = (text: string): string => text.trim().toLowerCase().replace(/\s+/g, ' ');

/** The kinds of rows that a sheet lists. */
export const kindsOf = (sheet: Pick<SheetProfile, 'kind'>): readonly RowKind[] =>
  sheet.kind === 'combined' ? rowKinds : [sheet.kind.slice(0, -1) as RowKind];

/** The kinds of rows that some sheets list. */
export const kindsIn = (sheets: readonly Pick<SheetProfile, 'kind'>[]): ReadonlySet<RowKind> =>
  new Set(sheets.flatMap(kindsOf));

const BIDS = ['bid', 'bid-search', 'bid-partners', 'bid-display'] as const;
const PLACE = ['row-kind', 'campaign', 'group'] as const;
const KEYWORD = ['keyword', 'keyword-notation', 'match-type'] as const;

/** What a row of each kind can have to tell, in the order in which one would put it. */
export const valuesOfKind: Record<RowKind, readonly CellValue[]> = {
  campaign: ['row-kind', 'campaign', 'daily-budget', 'match-setting', 'labels', 'status', ...settingValues],
  group: [...PLACE, ...BIDS, 'labels', 'status'],
  keyword: [...PLACE, ...KEYWORD, ...BIDS, 'labels', 'status'],
  negative: [...PLACE, ...KEYWORD, 'status'],
  ad: [...PLACE, 'ad-form', ...adFields, 'kept', 'final-url', 'mobile-url', 'labels', 'status'],
  asset: [
    ...PLACE,
    'asset-kind',
    'asset-text',
    'asset-line1',
    'asset-line2',
    'final-url',
    'asset-number',
    'status',
  ],
};

/** Whether some sheet of the outlet tells this of such rows. */
export const tells = (outlet: Outlet, kind: RowKind, value: CellValue): boolean =>
  outlet.sheets.some(
    (sheet) => kindsOf(sheet).includes(kind) && sheet.columns.some((column) => column.value === value),
  );
