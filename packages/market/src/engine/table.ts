import type { Outlet } from '@sprig/core/outlets';

/** The rows of a sheet below its heading: where each begins, and what it says when it is asked. */
export type Rows = { size: number; line: (row: number) => number; cells: (row: number) => string[] };
export type Table = { headings: string[]; rows: Rows };
export type TableReading = { status: 'table'; table: Table } | { status: 'refused'; reason: string };

/** Windows-1252 where it is not Latin-1. */
const ODD = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ';

const AT_ONCE = 8_192;

/** A text out of the numbers of its UTF-16 code units. */
class Text {
  private readonly units = new Uint16Array(AT_ONCE);
  private used = 0;
  private readonly parts: string[] = [];

  add(unit: number): void {
    if (this.used === AT_ONCE) this.part();
    this.units[this.used++] = unit;
  }

  end(): string {
    this.part();
    return this.parts.join('');
  }

  private part() {
    this.parts.push(
      String.fromCharCode.apply(null, this.units.subarray(0, this.used) as unknown as number[]),
    );
    this.used = 0;
  }
}

/** Reads bytes as the engine asked for them, and nothing else. */
export function decode(bytes: Uint8Array, { encoding, byteOrderMark }: Outlet['file']): string | null {
  const marked = (mark: readonly number[]) => mark.every((byte, at) => bytes[at] === byte);
  const text = new Text();
  switch (encoding) {
    case 'utf-8': {
      if (byteOrderMark && !marked([0xef, 0xbb, 0xbf])) return null;
      return fromUtf8(bytes.subarray(byteOrderMark ? 3 : 0), text);
    }
    case 'utf-16le': {
      if (bytes.length % 2 === 1 || (byteOrderMark && !marked([0xff, 0xfe]))) return null;
      for (let at = byteOrderMark ? 2 : 0; at < bytes.length; at += 2)
        text.add((bytes[at] as number) | ((bytes[at + 1] as number) << 8));
      return text.end();
    }
    case 'windows-1252': {
      for (const byte of bytes) text.add(byte >= 0x80 && byte < 0xa0 ? ODD.charCodeAt(byte - 0x80) : byte);
      return text.end();
    }
  }
}

/** The least code that so many bytes more may stand for. */
const LEAST = [0, 0x80, 0x800, 0x10000];

/** UTF-8 by its definition; null where the bytes are none. */
function fromUtf8(bytes: Uint8Array, text: Text): string | null {
  for (let at = 0; at < bytes.length; ) {
    const first = bytes[at] as number;
    if (first < 0x80) {
      text.add(first);
      at++;
      continue;
    }
    const more =
      first >= 0xc2 && first < 0xe0
        ? 1
        : first >= 0xe0 && first < 0xf0
          ? 2
          : first >= 0xf0 && first < 0xf5
            ? 3
            : -1;
    if (more < 0 || at + more >= bytes.length) return null;
    let code = first & (0x3f >> more);
    for (let n = 1; n <= more; n++) {
      const next = bytes[at + n] as number;
      if ((next & 0xc0) !== 0x80) return null;
      code = (code << 6) | (next & 0x3f);
    }
    const isSurrogate = code >= 0xd800 && code < 0xe000;
    if (code < (LEAST[more] as number) || code > 0x10ffff || isSurrogate) return null;
    if (code < 0x10000) text.add(code);
    else {
      text.add(0xd800 + ((code - 0x10000) >> 10));
      text.add(0xdc00 + ((code - 0x10000) & 0x3ff));
    }
    at += more + 1;
  }
  return text.end();
}

const LINE_FEED = 10;
const RETURN = 13;
const QUOTE = 34;

/** A quote that stands where none may, or is not closed. */
class BadQuote extends Error {}

/** Goes over a delimited text: a quote opens a cell at its beginning only, two in it are one. */
class Cursor {
  line = 1;
  private readonly between: number;

  constructor(
    private readonly text: string,
    delimiter: string,
    public at = 0,
  ) {
    this.between = delimiter.charCodeAt(0);
  }

  get isAtEnd(): boolean {
    return this.at >= this.text.length;
  }

  row(): string[] {
    const began = this.line;
    const cells: string[] = [];
    for (;;) {
      cells.push(this.text.charCodeAt(this.at) === QUOTE ? this.quoted(began) : this.bare());
      const code = this.text.charCodeAt(this.at);
      if (code !== this.between) break;
      this.at++;
    }
    if (this.isAtEnd) return cells;
    if (this.text.charCodeAt(this.at) === RETURN) this.at++;
    this.at++;
    this.line++;
    return cells;
  }

  private endsCell(at: number): boolean {
    const code = this.text.charCodeAt(at);
    return (
      at >= this.text.length ||
      code === this.between ||
      code === LINE_FEED ||
      (code === RETURN && this.text.charCodeAt(at + 1) === LINE_FEED)
    );
  }

  private bare(): string {
    const start = this.at;
    while (!this.endsCell(this.at)) {
      if (this.text.charCodeAt(this.at) === QUOTE) throw this.stray();
      this.at++;
    }
    return this.text.slice(start, this.at);
  }

  private quoted(began: number): string {
    const start = this.at + 1;
    let end = start;
    for (;;) {
      end = this.text.indexOf('"', end);
      if (end < 0) throw new BadQuote(`Line ${began}: a quote is not closed.`);
      if (this.text.charCodeAt(end + 1) !== QUOTE) break;
      end += 2;
    }
    const inside = this.text.slice(start, end);
    for (let at = inside.indexOf('\n'); at >= 0; at = inside.indexOf('\n', at + 1)) this.line++;
    this.at = end + 1;
    if (!this.endsCell(this.at)) throw this.stray();
    return inside.includes('"') ? inside.replaceAll('""', '"') : inside;
  }

  private stray() {
    return new BadQuote(`Line ${this.line}: a quote stands where none may.`);
  }
}

/** Shown each row as it is read. */
export type Visit = (row: number, cells: string[]) => void;

/** Reads a delimited text. Only where its rows begin is kept: they are read again when they are asked for. */
export function readTable(text: string, delimiter: string, visit: Visit = () => {}): TableReading {
  const cursor = new Cursor(text, delimiter);
  const starts: number[] = [];
  const lines: number[] = [];
  let headings: string[] | null = null;
  try {
    while (!cursor.isAtEnd) {
      const { at, line } = cursor;
      const cells = cursor.row();
      if (headings === null) headings = cells;
      else {
        visit(starts.length, cells);
        starts.push(at);
        lines.push(line);
      }
    }
  } catch (error) {
    if (error instanceof BadQuote) return { status: 'refused', reason: error.message };
    throw error;
  }
  if (headings === null) return { status: 'refused', reason: 'The sheet is empty.' };
  const rows = {
    size: starts.length,
    line: (row: number) => lines[row] as number,
    cells: (row: number) => new Cursor(text, delimiter, starts[row]).row(),
  };
  return { status: 'table', table: { headings, rows } };
}

/** A table of cells that were read already. */
export function tableOf([headings = [], ...rest]: readonly string[][], visit: Visit): Table {
  rest.forEach((cells, row) => {
    visit(row, cells);
  });
  return {
    headings,
    rows: { size: rest.length, line: (row) => row + 2, cells: (row) => rest[row] as string[] },
  };
}
