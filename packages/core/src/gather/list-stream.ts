import { findHeader, rolesByShape } from './columns.ts';
import { LinePieces } from './line-pieces.ts';
import { linesLayout, partsOf, withoutBullet } from './lines.ts';
import { type ListLayout, layoutOf, type ReadOptions } from './list-layout.ts';
import { RowReader, type RowSink } from './read-rows.ts';
import {
  type Delimiter,
  guessDelimiter,
  LONGEST_LINE,
  MOST_COLUMNS,
  readRecords,
  type TextRecord,
} from './records.ts';

/** The layout is told by this many lines; no guess looks further. */
const LAYOUT_LINES = 2_000;
/** Or by as many as have so many characters together. */
const LAYOUT_LENGTH = 4_000_000;

/**
 * Reads a list as its text comes, piece by piece, in memory that does not grow with it. What the pieces are cut at
 * makes no difference. O(length).
 */
export class ListStream {
  private readonly pieces = new LinePieces();
  private waiting: string[] = [];
  /** Of the lines that wait. */
  private length = 0;
  private firstLine = 1;
  private columns = 1;
  private layout: ListLayout | null = null;
  private reader: RowReader | null = null;

  constructor(
    private readonly options: ReadOptions,
    private readonly sink: RowSink,
  ) {}

  push(piece: string): void {
    if (piece === '') return;
    for (const line of this.pieces.push(piece)) this.take(line);
    if (this.layout === null && this.waiting.length < this.layoutLines() && this.length < LAYOUT_LENGTH)
      return;
    this.readWaiting(false);
  }

  private take(line: string) {
    this.waiting.push(line);
    this.length += line.length;
  }

  /** Reads what is left and answers how the list was laid out. */
  end(): ListLayout {
    this.take(this.pieces.end());
    this.readWaiting(true);
    (this.reader as RowReader).end();
    return this.layout as ListLayout;
  }

  /** The delimiter, if what it makes is a table: keywords between commas without a heading or a figure are none. */
  private guess(lines: readonly string[]): { delimiter: Delimiter | null; columns: number } {
    const guess = guessDelimiter(lines);
    if (guess.delimiter !== ',' && guess.delimiter !== ';') return guess;
    const { records } = readRecords(lines, guess.delimiter, guess.columns);
    const isTable =
      findHeader(records) >= 0 ||
      rolesByShape(records, guess.columns).some((role) => role !== 'keyword' && role !== 'extra');
    return isTable ? guess : { delimiter: null, columns: 1 };
  }

  private layoutLines(): number {
    return LAYOUT_LINES + (this.options.headerLine ?? 0);
  }

  private linesOfLayout(): string[] {
    const most = Math.min(this.waiting.length, this.layoutLines());
    let length = 0;
    for (let at = 0; at < most; at++) {
      length += this.waiting[at]?.length ?? 0;
      if (length >= LAYOUT_LENGTH) return this.waiting.slice(0, at + 1);
    }
    return this.waiting.slice(0, most);
  }

  private readWaiting(isEnd: boolean) {
    const { delimiter } = this.layout ?? this.findLayout();
    const reader = this.reader as RowReader;
    const lines = this.waiting;
    if (delimiter === null) {
      lines.forEach((raw, at) => {
        if (raw.length > LONGEST_LINE)
          reader.problem(this.firstLine + at, raw, 'long-line', LONGEST_LINE + 1);
        else if (raw.trim() !== '') this.readPlain(reader, this.firstLine + at, raw);
      });
      this.leave([], lines.length);
      return;
    }
    const { firstLine } = this;
    const { records, problems, used } = readRecords(lines, delimiter, this.columns, { firstLine, isEnd });
    for (const { line, raw, code, at } of problems) reader.problem(line, raw, code, at);
    for (const record of records) reader.read(record);
    this.leave(lines.slice(used), used);
  }

  private leave(waiting: string[], used: number) {
    this.firstLine += used;
    this.waiting = waiting;
    this.length = waiting.reduce((sum, line) => sum + line.length, 0);
  }

  private readPlain(reader: RowReader, line: number, raw: string) {
    const { bullets, commasPart } = this.layout as ListLayout;
    const text = bullets ? withoutBullet(raw) : raw;
    for (const field of commasPart ? partsOf(text) : [text]) reader.read({ line, fields: [field], raw });
  }

  private findLayout(): ListLayout {
    const lines = this.linesOfLayout();
    const guess = this.guess(lines);
    const delimiter = this.options.delimiter === undefined ? guess.delimiter : this.options.delimiter;
    this.columns =
      delimiter === null ? 1 : delimiter === guess.delimiter ? guess.columns : widest(lines, delimiter);
    const records =
      delimiter === null ? plainRecords(lines) : readRecords(lines, delimiter, this.columns).records;
    const taken = linesLayout(lines, delimiter !== null, this.options);
    this.layout = layoutOf(records, delimiter, this.columns, taken, this.options);
    this.reader = new RowReader(this.layout, this.options, this.sink);
    return this.layout;
  }
}

function widest(lines: readonly string[], delimiter: Delimiter): number {
  return lines
    .slice(0, 200)
    .reduce((most, line) => Math.max(most, line.split(delimiter, MOST_COLUMNS).length), 1);
}

function plainRecords(lines: readonly string[]): TextRecord[] {
  return lines.flatMap((raw, at) =>
    raw.trim() === '' || raw.length > LONGEST_LINE ? [] : [{ line: at + 1, fields: [raw], raw }],
  );
}
