import type { MatchType } from '../match/index.ts';
import type { Micros } from '../money/index.ts';
import type { AdForm, ExtraKind } from '../write/index.ts';
import type { RowKind, RowOf, RowStatus, SheetRow } from './rows.ts';

/** The words of an outlet for what stands in cells. */
export type OutletWords = {
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
  extraKinds: Record<ExtraKind, string>;
  rowKinds: Record<RowKind, string>;
};

/** How a keyword's match type is told: in a column of its own, in its text, or by one setting of its campaign. */
export const matchForms = ['column', 'notation', 'setting'] as const;
export type MatchForm = (typeof matchForms)[number];

/** What cells are written and read by: the part of an outlet that says how. */
export type CellRules = {
  words: OutletWords;
  money: { mark: '.' | ','; unit: 'major' | 'minor' };
  match: MatchForm;
  matchTypes: readonly MatchType[];
  negativeTypes: readonly MatchType[];
  bids: { perNetwork: boolean };
  ad: { [Form in AdForm]: object | null };
};

export type CellWriting = { rules: CellRules; money: (amount: Micros | null) => string };
export type CellReading = { rules: CellRules; decimals: number };

/** One cell as it is read; `say` tells what is wrong with it, and the row is left out. */
export interface ReadCell {
  readonly text: string;
  /** Whether the sheet has a column of this value at all. */
  has(value: string): boolean;
  say(code: SheetProblemCode, text: string): void;
  /** Its amount of money; null where it is empty, or none. */
  amount(): Micros | null;
}

export const sheetProblems = [
  'no-heading',
  'column-missing',
  'column-twice',
  'other-sheet',
  'broken-row',
  'row-kind',
  'no-campaign',
  'no-group',
  'no-keyword',
  'amount',
  'match-type',
  'status',
  'match-setting',
  'ad-form',
  'no-ad-text',
  'extra-kind',
  'kept',
] as const;
export type SheetProblemCode = (typeof sheetProblems)[number];

/** What an outlet does not carry of a plan. */
export const lossRules = [
  'match-stands-in',
  'match-folded',
  'match-left-out',
  'match-mixed',
  'bid-of-group',
  'bid-network',
  'bid',
  'budget',
  'keyword-left-out',
  'ad-form',
  'ad-fields',
  'ad-folded',
  'kept-places',
  'address',
  'negative-stands-in',
  'negative-left-out',
  'negatives-over-limit',
  'setting',
  'extra',
  'extra-fields',
  'extras-over-limit',
  'labels',
  'paused',
] as const;
export type LossRule = (typeof lossRules)[number];

/** What becomes of a row of which no column tells this. */
export type ColumnLoss<Row> = {
  rule: LossRule;
  /** What it says that is lost; null: nothing. */
  of: (row: Row) => string | null;
  without: (row: Row) => Row;
};

/**
 * What a column is to a row that is read back into a plan:
 * - `place`, `name`: the row is found by it, so it can't differ
 * - `silent`: an empty cell says nothing
 * - `said`: an empty cell says that there is none
 */
export type ColumnMerge = 'place' | 'name' | 'silent' | 'said';

/** One thing that a column of sheets can hold: all that is known of it, in one place. */
export type ColumnType<Value extends string = string, Row = SheetRow> = {
  /** Its code: outlets are kept by it. */
  value: Value;
  /** What the interface calls it. */
  words: string;
  /** Its heading in plain sheets. */
  heading: string;
  /** Other headings by which it is recognised, without spaces and marks. */
  known: readonly string[];
  /** What plain sheets of older versions had above it: they are still read. */
  former?: string;
  /** Rows that can have it. */
  kinds: readonly RowKind[];
  merge: ColumnMerge;
  /** Makes the text of a cell; empty where a row has no such value. */
  write: (writing: CellWriting) => (row: Row) => string;
  /** Puts what a cell says into a row that has nothing yet but what earlier columns put there. */
  read: (reading: CellReading) => (row: Row, cell: ReadCell) => void;
  loss?: ColumnLoss<Row>;
};

type Definition<Value extends string, K extends RowKind> = Omit<
  ColumnType<Value, RowOf<K>>,
  'kinds' | 'heading' | 'known'
> & { kinds: readonly K[]; heading?: string; known?: readonly string[] };

/** Defines a column. It is asked of rows of its own kinds only, so it may forget which those are. */
export const column = <const Value extends string, K extends RowKind>(
  definition: Definition<Value, K>,
): ColumnType<Value> =>
  ({ heading: definition.words, known: [], ...definition }) as unknown as ColumnType<Value>;

/** Words for states that are understood whatever an outlet's own are. */
export const commonStates: Readonly<Record<string, RowStatus>> = {
  enabled: 'enabled',
  active: 'enabled',
  on: 'enabled',
  paused: 'paused',
  off: 'paused',
  removed: 'removed',
  deleted: 'removed',
};
