import { matchTypes } from '../match/index.ts';
import { kindsOf, type Outlet, type RowKind, type SheetFormat, type SheetProfile } from '../outlets/index.ts';
import { type CellRow, KEY_GAP, type ToldValues } from './cells.ts';
import { firstNotCarried } from './encode.ts';
import { delimiterOf, SheetWriter } from './write-sheet.ts';
import { MOST_XLSX_ROWS, XlsxSheet } from './xlsx-parts.ts';

/** Where a file's text goes as it is written. */
export type FileSink = (file: string, text: string) => void;

export type WrittenFile = { name: string; kind: SheetProfile['kind']; rows: number };

/** A character that the outlet's encoding has not, with the row that it stands in: 1 is the first under the heading. */
export type NotCarried = { file: string; row: number; character: string; text: string };

const MOST_PROBLEMS = 200;

/**
 * Writes one sheet as files of at most so many rows, in the outlet's order of rows. Further files are numbered from 2;
 * rows keep their order over them, so that what contains others stands before it. Where the order is another than the
 * plan's the lines are kept until all are there.
 */
export class SheetFiles {
  readonly files: WrittenFile[] = [];
  readonly problems: NotCarried[] = [];
  private readonly kinds: readonly RowKind[];
  private readonly writer: SheetWriter | XlsxSheet;
  private readonly waiting: { order: string; row: CellRow; place: number }[] | null;
  private readonly most: number;
  private readonly isLookedAt: boolean;
  private file: WrittenFile | null = null;

  constructor(
    private readonly outlet: Outlet,
    private readonly profile: SheetProfile,
    private readonly format: SheetFormat,
    values: ToldValues,
    /** null: rows are only counted, and looked through for what the encoding has not. */
    private readonly sink: FileSink | null,
  ) {
    this.kinds = kindsOf(profile);
    const { file, rowOrder } = outlet;
    this.writer =
      format === 'xlsx'
        ? new XlsxSheet(profile.columns, values)
        : new SheetWriter(profile.columns, values, delimiterOf(format, file), file.lineEnding);
    this.waiting = profile.kind === 'keywords' && rowOrder !== 'group' ? [] : null;
    // The others carry every character that a database can hold.
    this.isLookedAt = format !== 'xlsx' && file.encoding === 'windows-1252';
    this.most = Math.min(
      file.rowsPerFile ?? Number.POSITIVE_INFINITY,
      format === 'xlsx' ? MOST_XLSX_ROWS - 1 : Number.POSITIVE_INFINITY,
    );
  }

  static takes(profile: SheetProfile, kind: RowKind): boolean {
    return kindsOf(profile).includes(kind);
  }

  /** Whether it matters what rows say; else they may be counted. */
  get needsRows(): boolean {
    return this.sink !== null || this.isLookedAt;
  }

  /** A row of which nobody asks what it says. */
  count(kind: RowKind): void {
    if (this.kinds.includes(kind)) this.counted();
  }

  add(row: CellRow): void {
    if (!this.kinds.includes(row.kind)) return;
    if (!this.needsRows) this.counted();
    else if (this.waiting) this.waiting.push({ order: this.orderOf(row), row, place: this.waiting.length });
    else this.put(row);
  }

  end(): void {
    if (this.waiting) {
      this.waiting.sort((a, b) => (a.order < b.order ? -1 : a.order > b.order ? 1 : a.place - b.place));
      for (const { row } of this.waiting) this.put(row);
    }
    this.open();
    this.close();
  }

  private orderOf({ key }: CellRow): string {
    const [, , , type = '', text = ''] = key.split(KEY_GAP);
    const rank = String(matchTypes.indexOf(type as (typeof matchTypes)[number]));
    return this.outlet.rowOrder === 'keyword' ? `${text}${KEY_GAP}${rank}` : rank;
  }

  private open(): WrittenFile {
    if (this.file) return this.file;
    const part = this.files.length + 1;
    const name = `${this.profile.fileName}${part === 1 ? '' : `-${part}`}.${this.format}`;
    this.file = { name, kind: this.profile.kind, rows: 0 };
    this.files.push(this.file);
    this.sink?.(name, this.writer.header());
    return this.file;
  }

  private counted(): WrittenFile {
    let file = this.open();
    if (file.rows >= this.most) {
      this.close();
      file = this.open();
    }
    file.rows++;
    return file;
  }

  private put(row: CellRow) {
    const file = this.counted();
    const line = this.writer.row(row);
    this.sink?.(file.name, line);
    if (!this.isLookedAt || this.problems.length >= MOST_PROBLEMS) return;
    const bad = firstNotCarried(line, this.outlet.file.encoding);
    if (bad)
      this.problems.push({ file: file.name, row: file.rows, character: bad.character, text: line.trimEnd() });
  }

  private close() {
    if (this.file && this.writer instanceof XlsxSheet) this.sink?.(this.file.name, this.writer.end());
    this.file = null;
  }
}
