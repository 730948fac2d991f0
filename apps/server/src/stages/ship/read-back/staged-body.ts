import type { MatchType } from '@sprig/core/match';
import type { Micros } from '@sprig/core/money';
import {
  type FieldChange,
  type KeywordSheetRow,
  keyOf,
  type MergeKind,
  type NetworkBids,
  type RowStatus,
  type SheetRow,
} from '@sprig/core/sheets';

/** A row that differs from the plan, as it waits to be taken in; the keys are those of the plan, null where it has none. */
export type StagedRow = {
  readonly key: string;
  change: MergeKind;
  row: SheetRow | null;
  fields: readonly FieldChange[];
  campaign: string | null;
  group: string | null;
  ad: string | null;
  /** The number of its sheet among those that were read; -1 where no sheet says it. */
  sheet: number;
  line: number;
};

/** A new keyword: all that it is but what is the same in most. */
type Packed = [
  campaign: string,
  group: string,
  text: string,
  type: MatchType,
  bid: Micros | null,
  line: number,
  sheet: number,
  campaignKey: string | null,
  groupKey: string | null,
  status?: RowStatus,
  labels?: readonly string[],
  marks?: readonly number[],
  bids?: NetworkBids | null,
  finalUrl?: string,
];

/** As it is kept: new keywords, of which there are hundreds of thousands, as short as they can be. */
export function packStaged({ change, ...staged }: StagedRow): string {
  const { row, campaign, group, line, sheet } = staged;
  if (change !== 'added' || row?.kind !== 'keyword') return JSON.stringify(staged);
  const {
    campaign: inCampaign,
    group: inGroup,
    text,
    type,
    bid,
    status,
    labels,
    marks,
    bids,
    finalUrl,
  } = row;
  const packed: Packed = [inCampaign, inGroup, text, type, bid, line, sheet, campaign, group];
  const isUsual =
    status === 'enabled' && labels.length === 0 && marks.length === 0 && bids === null && finalUrl === '';
  if (!isUsual) packed.push(status, labels, marks, bids, finalUrl);
  return JSON.stringify(packed);
}

/** What `packStaged` was given. */
export function unpackStaged(body: string, change: MergeKind): StagedRow {
  if (!body.startsWith('[')) return { ...(JSON.parse(body) as Omit<StagedRow, 'change'>), change };
  return new NewKeywordRow(JSON.parse(body) as Packed);
}

class NewKeywordRow implements StagedRow {
  readonly change = 'added';
  readonly fields = NO_FIELDS;
  readonly ad = null;
  readonly row: KeywordSheetRow;
  readonly line: number;
  readonly sheet: number;
  readonly campaign: string | null;
  readonly group: string | null;

  constructor(packed: Packed) {
    const [campaign, group, text, type, bid, line, sheet, campaignKey, groupKey, ...rest] = packed;
    const [status = 'enabled', labels = NONE, marks = NO_MARKS, bids = null, finalUrl = ''] = rest;
    this.row = { kind: 'keyword', campaign, group, text, type, marks, bid, bids, finalUrl, labels, status };
    this.line = line;
    this.sheet = sheet;
    this.campaign = campaignKey;
    this.group = groupKey;
  }

  get key(): string {
    return keyOf(this.row);
  }
}

const NO_FIELDS: readonly FieldChange[] = [];
const NONE: readonly string[] = [];
const NO_MARKS: readonly number[] = [];
