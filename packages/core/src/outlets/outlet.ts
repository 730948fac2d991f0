import {
  type CellRules,
  type CellValue,
  type MatchForm,
  type NetworkName,
  type OutletWords,
  type RowKind,
  rowKinds,
} from '../columns/index.ts';
import type { ReportRole } from '../learn/index.ts';
import type { MatchType } from '../match/index.ts';
import type { Micros } from '../money/index.ts';
import type { AdForm, ExtraLimits, FormLimits, Insertion } from '../write/index.ts';

export const sheetKinds = [
  'campaigns',
  'groups',
  'keywords',
  'negatives',
  'ads',
  'extras',
  'combined',
] as const;
export type SheetKind = (typeof sheetKinds)[number];

/** `text`: what a column of `fixed` says in every row; nothing where it is missing. */
export type SheetColumn = { heading: string; value: CellValue; text?: string | undefined };

/** A column of its reports of results. */
export type ReportColumn = { heading: string; role: Exclude<ReportRole, 'skip'> };

/** A sheet of an outlet: which rows it lists and what stands in each column. */
export type SheetProfile = { kind: SheetKind; fileName: string; columns: SheetColumn[] };

export const sheetFormats = ['csv', 'tsv', 'xlsx'] as const;
export type SheetFormat = (typeof sheetFormats)[number];

export const sheetEncodings = ['utf-8', 'utf-16le', 'windows-1252'] as const;
export type SheetEncoding = (typeof sheetEncodings)[number];

/** What an outlet's ads may be; a form that it does not know is null, and so is insertion at search time. */
export type AdRules = Record<AdForm, FormLimits | null> & {
  insertion: Insertion | null;
  extras: ExtraLimits;
};

export const rowOrders = ['group', 'keyword', 'match-type'] as const;
export type RowOrder = (typeof rowOrders)[number];

/** What must be in place at the outlet before a sheet is taken, or before anything is shown. */
export type Prerequisite = { key: string; words: string; before: 'sheets' | 'live' };

export const checkKinds = ['with', 'without', 'over', 'empty'] as const;

/**
 * What an outlet objects to: cells of a value, in rows of one kind or (null) of all, that have a text, lack it, have more
 * characters than it says, or are empty.
 */
export type OwnCheck = {
  value: CellValue;
  kind: RowKind | null;
  is: (typeof checkKinds)[number];
  /** Compared without regard to case; a number of characters for `over`; of no use for `empty`. */
  text: string;
  severity: 'blocker' | 'warning';
  words: string;
};

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
  /** `conversions`: how many a campaign needs within 30 days before the outlet can bid for it by itself; null: it asks for none. */
  bids: {
    on: 'keyword' | 'group';
    perNetwork: boolean;
    least: Micros | null;
    conversions: number | null;
  };
  /** Bids are multiples of this; null: the currency's smallest amount. */
  bidIncrement: Micros | null;
  budget: { least: Micros | null; changesPerDay: number | null };
  /** Sites for adults only: whether it takes them, and on which networks they may be shown. */
  adultSites: { taken: boolean; networks: NetworkName[] };
  words: OutletWords;
  /** What becomes of rows that the plan has no more: they are paused there, or removed. */
  gone: 'paused' | 'removed';
  needs: Prerequisite[];
  sheets: SheetProfile[];
  rowOrder: RowOrder;
  money: CellRules['money'];
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
  /** What its people advise: how many ads of each form an ad group has, and up to how many keywords; what a campaign has. */
  advised: {
    plain: { least: number; most: number };
    assembled: { least: number; most: number };
    keywordsPerGroup: number;
    /** null: any number. */
    groupsPerCampaign: number | null;
    /** At least so many for each campaign. */
    sitelinks: number;
    callouts: number;
  };
  /** What its people look at besides: each speaks of cells of its sheets. */
  checks: OwnCheck[];
  /** By whose clock its account goes; null: by the plan's. */
  timeZone: string | null;
  /** What its reports of results call their columns, and the mark before decimals in them. */
  report: { headings: ReportColumn[]; decimal: '.' | ',' };
};

/** What is advised where an outlet says nothing else. */
export const usualAdvice = (): Outlet['advised'] => ({
  plain: { least: 3, most: 8 },
  assembled: { least: 1, most: 3 },
  keywordsPerGroup: 50,
  groupsPerCampaign: null,
  sitelinks: 0,
  callouts: 0,
});

/** A heading, or a word of an outlet, as it is told apart from others: whatever its case and its spaces. */
export const plainHeading = (text: string): string => text.trim().toLowerCase().replace(/\s+/g, ' ');

/** The kinds of rows that a sheet lists. */
export const kindsOf = (sheet: Pick<SheetProfile, 'kind'>): readonly RowKind[] =>
  sheet.kind === 'combined' ? rowKinds : [sheet.kind.slice(0, -1) as RowKind];

/** The kinds of rows that some sheets list. */
export const kindsIn = (sheets: readonly Pick<SheetProfile, 'kind'>[]): ReadonlySet<RowKind> =>
  new Set(sheets.flatMap(kindsOf));

/** Whether some sheet of the outlet tells this of such rows. */
export const tells = (outlet: Outlet, kind: RowKind, value: CellValue): boolean =>
  outlet.sheets.some(
    (sheet) => kindsOf(sheet).includes(kind) && sheet.columns.some((column) => column.value === value),
  );
