import {
  type CellValue,
  columnsOfKind,
  eachKind,
  isNegativeNotation,
  NEGATIVE_TYPE,
  type ReadCell,
  type RowKind,
  readMoney,
  rowKinds,
  type SheetProblemCode,
  type SheetRow,
  usualType,
} from '../columns/index.ts';
import type { Micros } from '../money/index.ts';
import { type CampaignSettings, type Outlet, type SheetProfile, settingValues } from '../outlets/index.ts';
import { adFields } from '../write/index.ts';

export type SheetProblem = {
  line: number;
  code: SheetProblemCode;
  /** The heading of the column. */
  column: string;
  text: string;
};

/** Reads one column of rows of one kind. */
type ColumnReader = { value: CellValue; at: number; read: (row: SheetRow, cell: ReadCell) => void };

/** Reads the rows of one sheet, column by column; what can't be read is told in `problems`, and the row left out. */
export class RowReader implements ReadCell {
  private readonly readers: Record<RowKind, readonly ColumnReader[]>;
  private readonly kinds: ReadonlyMap<string, RowKind>;
  private fields: readonly string[] = [];
  private line = 0;
  private isBad = false;
  /** The cell that is being read. */
  private value: CellValue = 'row-kind';
  text = '';

  constructor(
    private readonly profile: SheetProfile,
    private readonly places: ReadonlyMap<CellValue, number>,
    private readonly outlet: Outlet,
    private readonly decimals: number,
    private readonly problems: SheetProblem[],
  ) {
    const reading = { rules: outlet, decimals };
    this.readers = eachKind((kind) =>
      columnsOfKind[kind].map(({ value, read }) => ({
        value,
        at: places.get(value) ?? -1,
        read: read(reading),
      })),
    );
    const words = rowKinds.map((kind) => [outlet.words.rowKinds[kind].toLowerCase(), kind] as const);
    // What an outlet's own words say goes before what they were once.
    this.kinds = new Map([['asset', 'extra'], ...words]);
  }

  read(line: number, fields: readonly string[]): SheetRow | null {
    this.line = line;
    this.fields = fields;
    this.isBad = false;
    const kind = this.kindOf();
    if (kind === null) return null;
    const row = this.emptyRow(kind);
    for (const { value, at, read } of this.readers[kind]) {
      this.value = value;
      this.text = at < 0 ? '' : (fields[at] ?? '');
      read(row, this);
    }
    if (row.kind === 'ad' && Object.keys(row.texts).length === 0) this.sayOf('headline1', 'no-ad-text', '');
    return this.isBad ? null : row;
  }

  has(value: string): boolean {
    return this.places.has(value as CellValue);
  }

  say(code: SheetProblemCode, text: string): void {
    this.sayOf(this.value, code, text);
  }

  amount(): Micros | null {
    const typed = this.text.trim();
    if (typed === '') return null;
    const amount = readMoney(typed, this.outlet, this.decimals);
    if (amount === undefined) this.say('amount', typed);
    return amount ?? null;
  }

  private cell(value: CellValue): string {
    const at = this.places.get(value);
    return at === undefined ? '' : (this.fields[at] ?? '');
  }

  private sayOf(value: CellValue, code: SheetProblemCode, text: string) {
    const column = this.profile.columns.find((one) => one.value === value)?.heading ?? '';
    this.problems.push({ line: this.line, code, column, text: text.slice(0, 200) });
    this.isBad = true;
  }

  /** A column of keywords in notation may hold negatives, too. */
  private kindOf(): RowKind | null {
    const kind = this.saidKind();
    const isNegative = kind === 'keyword' && isNegativeNotation(this.cell('keyword-notation'), this.outlet);
    return isNegative ? 'negative' : kind;
  }

  private saidKind(): RowKind | null {
    if (this.profile.kind !== 'combined') return this.profile.kind.slice(0, -1) as RowKind;
    if (this.places.has('row-kind')) {
      const word = this.cell('row-kind').trim();
      const kind = this.kinds.get(word.toLowerCase());
      if (kind) return kind;
      this.sayOf('row-kind', 'row-kind', word);
      return null;
    }
    if (this.cell('extra-kind') !== '') return 'extra';
    if (this.cell('keyword') + this.cell('keyword-notation') !== '')
      return NEGATIVE_TYPE.test(this.cell('match-type')) ? 'negative' : 'keyword';
    if (adFields.some((field) => this.cell(field) !== '')) return 'ad';
    return this.cell('group') === '' ? 'campaign' : 'group';
  }

  /** A row that says nothing yet. */
  private emptyRow(kind: RowKind): SheetRow {
    const place = { campaign: '', group: '', status: 'enabled' as const };
    switch (kind) {
      case 'campaign': {
        const settings = Object.fromEntries(settingValues.map((value) => [value, ''])) as CampaignSettings;
        const { campaign, status } = place;
        return { kind, campaign, status, dailyBudget: null, matchSetting: null, settings, labels: [] };
      }
      case 'group':
        return { kind, ...place, bid: null, bids: null, matchSetting: null, rotation: '', labels: [] };
      case 'keyword': {
        const type = usualType(kind, this.outlet);
        return { kind, ...place, text: '', type, marks: [], bid: null, bids: null, finalUrl: '', labels: [] };
      }
      case 'negative':
        return { kind, ...place, text: '', type: usualType(kind, this.outlet) };
      case 'ad':
        return {
          kind,
          ...place,
          form: 'plain',
          texts: {},
          kept: {},
          finalUrl: '',
          mobileUrl: '',
          labels: [],
        };
      case 'extra':
        return { kind, ...place, extra: { kind: 'callout', text: '' } };
    }
  }
}
