import { guessDelimiter, LinePieces, MOST_COLUMNS, readRecords } from '../gather/index.ts';
import { type ReportLayout, type ReportOptions, reportLayout } from './report-layout.ts';
import { ReportRows, type ReportSink } from './report-rows.ts';

/** Lines by which a report's layout is told. */
const LAYOUT_LINES = 400;

/** Lines with quotes among them that are taken apart at once. */
const AT_ONCE = 500;

/** How a report is laid out, by its beginning; null where it has no headings of a report. */
export const layoutOfText = (text: string, options: ReportOptions): ReportLayout | null =>
  laidOut(firstLines(text), options).layout;

const firstLines = (text: string): string[] => text.split(/\r\n?|\n/, LAYOUT_LINES);

/** So many first lines have the headings of a report among them. */
const HEADED_LINES = 60;

/** The first lines of a report, and then only those that name one account: by them it is told how its rows are laid out. */
export class AccountLines {
  private readonly pieces = new LinePieces();
  private readonly lines: string[] = [];
  private seen = 0;
  private readonly name: string;

  constructor(account: string) {
    this.name = account.toLowerCase();
  }

  get areEnough(): boolean {
    return this.lines.length >= LAYOUT_LINES;
  }

  push(piece: string): void {
    for (const line of this.pieces.push(piece)) this.add(line);
  }

  /** What there is of them, when all has come or they are enough. */
  end(): string {
    this.add(this.pieces.end());
    return this.lines.join('\n');
  }

  private add(line: string): void {
    this.seen++;
    if (this.areEnough) return;
    if (this.seen <= HEADED_LINES || line.toLowerCase().includes(this.name)) this.lines.push(line);
  }
}

function laidOut(lines: readonly string[], options: ReportOptions) {
  const guess = guessDelimiter(lines);
  const delimiter = guess.delimiter ?? ',';
  const { records } = readRecords(lines, delimiter, guess.columns);
  return { delimiter, columns: guess.columns, layout: reportLayout(records, options) };
}

export type BrokenLine = { line: number; raw: string };

/**
 * Reads a report as its text comes, piece by piece; what the pieces are cut at makes no difference. While something about
 * its layout is open, or where it has no headings of a report, no row is read. O(length).
 */
export class ReportStream {
  private readonly pieces = new LinePieces();
  private waiting: string[] = [];
  private firstLine = 1;
  private delimiter: ',' | ';' | '\t' = ',';
  private columns = 1;
  private layout: ReportLayout | null | undefined;
  private rows: ReportRows | null = null;

  /**
   * @param sinkOf where the rows go, once it is known how they are laid out
   * @param broken lines whose quotes do not work out, or that are too long
   * @param beginning by which it is told how the report is laid out, instead of by its first lines
   */
  constructor(
    private readonly options: ReportOptions,
    private readonly sinkOf: (layout: ReportLayout) => ReportSink,
    private readonly broken: (line: BrokenLine) => void,
    private readonly beginning: string | null = null,
  ) {}

  push(piece: string): void {
    for (const line of this.pieces.push(piece)) this.waiting.push(line);
    if (this.layout === undefined && this.waiting.length < LAYOUT_LINES) return;
    this.read(false);
  }

  /** Reads what is left and answers how the report is laid out; null where it has no headings of a report. */
  end(): ReportLayout | null {
    this.waiting.push(this.pieces.end());
    this.read(true);
    return this.layout ?? null;
  }

  private read(isEnd: boolean): void {
    if (this.layout === undefined) this.layOut();
    const { waiting, firstLine } = this;
    let at = 0;
    while (at < waiting.length) {
      const text = waiting[at] as string;
      // What is no longer than that has no more columns either.
      if (!text.includes('"') && text.length <= MOST_COLUMNS) {
        this.readPlain(firstLine + at, text);
        at++;
        continue;
      }
      const used = this.readQuoted(
        waiting.slice(at, at + AT_ONCE),
        firstLine + at,
        isEnd && at + AT_ONCE >= waiting.length,
      );
      if (used === 0) break;
      at += used;
    }
    this.waiting = waiting.slice(at);
    this.firstLine += at;
  }

  private readPlain(line: number, text: string): void {
    if (this.rows && this.layout && line > this.layout.headerLine)
      this.rows.pushPlain(line, text, this.delimiter);
  }

  /** Reads lines that may have quotes in them, and answers how many of them it needs no more. */
  private readQuoted(lines: readonly string[], firstLine: number, isEnd: boolean): number {
    const { records, problems, used } = readRecords(lines, this.delimiter, this.columns, {
      firstLine,
      isEnd,
    });
    if (!this.rows || !this.layout) return used;
    for (const { line, raw } of problems) this.broken({ line, raw });
    for (const record of records) if (record.line > this.layout.headerLine) this.rows.push(record);
    return used;
  }

  private layOut(): void {
    const lines = this.beginning === null ? this.waiting.slice(0, LAYOUT_LINES) : firstLines(this.beginning);
    const { delimiter, columns, layout } = laidOut(lines, this.options);
    this.delimiter = delimiter;
    this.columns = columns;
    this.layout = layout;
    if (!this.layout || this.layout.open.length > 0) return;
    this.rows = new ReportRows(this.layout, this.sinkOf(this.layout));
  }
}
